import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useRef, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useAnswerClaim } from "../../api/claims";
import { Key, MainButton, TextButton } from "../../ui/Button";
import { WorthHowMany } from "../../lab/Marks";
import { Tick } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Form, Row, Soft } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { useKept } from "../../ui/useKept";

type Claim = Schemas["ClaimOut"];
type Rubric = Schemas["RubricRow"][];

/** Side by side from their labels down, whatever stands under one of them. */
const Points = styled(Row)`
  align-items: start;
`;

const Short = styled.div`
  width: 9rem;
`;

/** Points as typed: null where nothing is, NaN where it is no number. */
const points = (typed: string) => (typed.trim() === "" ? null : Number(typed.trim().replace(",", ".")));

const asTyped = (claim: Claim) =>
  Object.fromEntries(Object.entries(claim.answer?.marks ?? {}).map(([name, most]) => [name, String(most)]));

/** Points first, then words; Enter in a field of points, or Ctrl Enter in the words, sends and goes to the next. */
export function AnswerClaim({
  kept,
  claim,
  rubric,
  waiting,
  focus,
  sent,
}: {
  kept: string;
  claim: Claim;
  rubric: Rubric;
  waiting: number;
  focus: boolean;
  sent: () => void;
}) {
  const answer = useAnswerClaim();
  const form = useRef<HTMLFormElement>(null);
  const [text, setText, forgetText] = useKept(`${kept}:text`, claim.answer?.text ?? "");
  const [marks, setMarks, forgetMarks] = useKept<Record<string, string>>(`${kept}:marks`, asTyped(claim));
  const [looked, setLooked] = useState(false);
  const wrong = (row: Rubric[number]) => {
    const given = points(marks[row.name] ?? "");
    return given === null || (given >= 0 && given <= row.most) ? null : t`0 to ${row.most}, or nothing`;
  };
  const send = (shown: boolean, then: () => void) => {
    setLooked(true);
    const first = rubric.findIndex((row) => wrong(row) !== null);
    if (first >= 0) {
      form.current?.querySelectorAll("input")[first]?.focus();
      return;
    }
    const given = rubric.flatMap((row) => {
      const value = points(marks[row.name] ?? "");
      return value === null ? [] : [[row.name, value] as const];
    });
    answer.mutate(
      { id: claim.id, body: { text, shown, marks: Object.fromEntries(given) } },
      {
        onSuccess: () => {
          forgetText();
          forgetMarks();
          then();
        },
      },
    );
  };
  const ask = claim.heard[0]?.question ?? claim.question;
  const others = waiting - (claim.answer ? 0 : 1);
  return (
    <Form
      ref={form}
      aria-label={t`Answer ${claim.group}`}
      onKeyDown={(event) => {
        if (event.key !== "Enter" || !(event.ctrlKey || event.metaKey)) return;
        event.preventDefault();
        form.current?.requestSubmit();
      }}
      onSubmit={(event) => {
        event.preventDefault();
        send(claim.answer?.shown ?? false, sent);
      }}
    >
      <Points>
        {rubric.map((row, place) => (
          <Short key={row.name}>
            <TextField
              label={t`${row.name}, of ${row.most}`}
              value={marks[row.name] ?? ""}
              onChange={(typed) => setMarks((now) => ({ ...now, [row.name]: typed }))}
              inputMode="decimal"
              maxLength={6}
              autoFocus={focus && place === 0}
              error={looked ? wrong(row) : null}
            />
          </Short>
        ))}
      </Points>
      <TextField label={t`Your answer`} value={text} onChange={setText} maxLength={600} rows={2} />
      {ask && (
        <p>
          <TextButton onPress={() => setText((now) => (now.trim() ? `${now.trim()} ${ask}` : ask))}>
            <Trans>Ask them: {ask}</Trans>
          </TextButton>
        </p>
      )}
      {claim.may_show ? (
        <Tick isSelected={claim.answer?.shown ?? false} onChange={(shown) => send(shown, () => setLooked(false))}>
          <Trans>on the projector</Trans>
        </Tick>
      ) : (
        <Soft>
          <Trans>The group has not agreed to have it shown.</Trans>
        </Soft>
      )}
      <Row>
        <MainButton type="submit">
          {others > 0 ? t`Send, next claim` : t`Send`}{" "}
          <Key>
            <Trans>Ctrl Enter</Trans>
          </Key>
        </MainButton>
      </Row>
      <ProblemNote problem={answer.error} />
      <WorthHowMany rubric={rubric} give={(row, given) => setMarks((now) => ({ ...now, [row]: given }))} />
    </Form>
  );
}
