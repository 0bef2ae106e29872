import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useRecordOwnTest } from "../../api/claims";
import { useIdOf } from "../../api/newId";
import { Button, TextButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Column, Row, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { useKept } from "../../ui/useKept";

type Claim = Schemas["ClaimOut"];

/** What a test comes to, in a word. */
const TESTED: Partial<Record<Schemas["OwnTestOut"]["verdict"], string>> = {
  fits: t`Tested, and for it.`,
  contradicted: t`Tested, and against it.`,
};

/** What a group did at the bench to test a claim, and what its readings before and after say. */
export function TestedList({ claim }: { claim: Claim }) {
  if (claim.tested.length === 0) return null;
  return (
    <ul>
      {claim.tested.map((one) => (
        <li key={one.id}>
          <p>
            <strong>{TESTED[one.verdict] ?? t`Tested, and it cannot tell.`}</strong> {one.says} {one.question}
          </p>
        </li>
      ))}
    </ul>
  );
}

/** The form for one more test; folded until somebody wants to try. */
export function OwnTests({ claim, slot }: { claim: Claim; slot: string }) {
  const record = useRecordOwnTest(claim.id);
  const kept = `${slot}:test:${claim.id}`;
  const [open, setOpen] = useState(false);
  const [test, setTest] = useKept(`choice:${kept}`, claim.tests[0]?.key ?? "");
  const [before, setBefore] = useKept(`${kept}:before`, "");
  const [after, setAfter] = useKept(`${kept}:after`, "");
  const id = useIdOf([test, before, after, record.data]);
  const chosen = claim.tests.find((one) => one.key === test) ?? claim.tests[0];
  if (!chosen) return null;
  if (!open && !before && !after)
    return (
      <p>
        <Button onPress={() => setOpen(true)}>
          <Trans>Test it at your bench</Trans>
        </Button>
      </p>
    );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        record.mutate(
          { id, test: chosen.key, before, after },
          {
            onSuccess: () => {
              setBefore("");
              setAfter("");
              setOpen(false);
            },
          },
        );
      }}
    >
      <Column>
        {claim.tests.length > 1 ? (
          <Select
            label={t`What do you do?`}
            options={claim.tests.map(({ key, do: name }) => ({ key, name }))}
            value={chosen.key}
            onChange={setTest}
          />
        ) : (
          <p>
            <strong>{chosen.do}.</strong>
          </p>
        )}
        <Soft>
          <Trans>Before you do it: which way should the reading go if your claim is right?</Trans>
        </Soft>
        <Row>
          <TextField
            label={t`The meter before, V`}
            value={before}
            onChange={setBefore}
            inputMode="decimal"
            maxLength={32}
          />
          <TextField
            label={t`The meter after, V`}
            value={after}
            onChange={setAfter}
            inputMode="decimal"
            maxLength={32}
          />
        </Row>
        <ProblemNote problem={record.error} />
        <Row>
          <Button type="submit" isDisabled={!before.trim() || !after.trim()}>
            <Trans>Keep this test</Trans>
          </Button>
          <TextButton
            onPress={() => {
              setBefore("");
              setAfter("");
              setOpen(false);
            }}
          >
            <Trans>Not now</Trans>
          </TextButton>
        </Row>
      </Column>
    </form>
  );
}
