import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { number, volts } from "../../format";
import { Button, MainButton } from "../../ui/Button";
import { Picks } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Column, Form, Narrow, Num, Row, Soft } from "../../ui/layout";
import { typedNumber } from "./drill";
import { Turns } from "./Turns";

type Sum = Schemas["SumOut"];
type Props = { sums: Sum[]; same: number; names: Record<string, string> };

/** What is said to a typed answer: right, a slip that is understood, or simply not it. */
function judged(sum: Sum, negative: string, text: string, same: number): { good: boolean; says: string } {
  if (sum.right_v === null) return { good: false, says: "" };
  const value = typedNumber(text);
  if (Number.isNaN(value)) return { good: false, says: t`Type a number of volts, such as 1.10.` };
  if (Math.abs(value - sum.right_v) <= same)
    return negative === sum.negative
      ? { good: true, says: t`Yes.` }
      : { good: false, says: t`The volts are right. But the lower one of the two is the negative plate.` };
  const slip = sum.slips.find((one) => Math.abs(one.volts_v - value) <= same);
  return {
    good: false,
    says: slip ? `${slip.did} ${slip.look}` : t`Not that. Higher minus lower, each with its sign.`,
  };
}

function OneSum({ sum, same, names, next }: { sum: Sum; same: number; names: Props["names"]; next: () => void }) {
  const [negative, setNegative] = useState("");
  const [text, setText] = useState("");
  const [said, setSaid] = useState<{ good: boolean; says: string } | null>(null);
  const listed = sum.right_v !== null;
  const name = (key: string) => names[key] ?? key;
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        setSaid(judged(sum, negative, text, same));
      }}
    >
      <h1>
        <Trans>
          {name(sum.first)} and {name(sum.second)}: what does the table give?
        </Trans>
      </h1>
      <p>
        {[[sum.first, sum.first_v] as const, [sum.second, sum.second_v] as const].map(([key, v]) => (
          <span key={key}>
            {name(key)} <Num>{v === null ? t`not listed` : volts(v, 2, true)}</Num>{" "}
          </span>
        ))}
      </p>
      <Picks
        label={t`The negative plate is`}
        options={[
          ...[sum.first, sum.second].map((key) => ({ key, name: name(key) })),
          { key: "none", name: t`the table cannot say` },
        ]}
        value={negative}
        onChange={(key) => {
          setNegative(key);
          setSaid(null);
          if (key === "none")
            setSaid(
              listed
                ? { good: false, says: t`Both are in the table, so it can.` }
                : { good: true, says: t`Yes: graphite is no metal of the table, it only carries. Measure it.` },
            );
        }}
      />
      <TextField label={t`And the volts are`} value={text} onChange={setText} inputMode="decimal" maxLength={12} />
      <Row>
        <MainButton type="submit" isDisabled={!negative || negative === "none"}>
          <Trans>Check</Trans>
        </MainButton>
        <Button onPress={next}>
          <Trans>Next pair</Trans>
        </Button>
      </Row>
      <div role="status">
        {said && <p>{said.says || t`One of the two is not in the table. What then?`}</p>}
        {said?.good &&
          sum.lines.map((line) => (
            <p key={line.text}>
              <Num>{line.text}</Num> <Soft as="span">{line.why}</Soft>
            </p>
          ))}
        {said?.good && sum.right_v !== null && (
          <Soft>
            <Trans>About {number(sum.right_v, 2)} V by the table; what you will measure is another matter.</Trans>
          </Soft>
        )}
      </div>
    </Form>
  );
}

/** The subtraction with its double negative, pair by pair. */
export function SumsDrill({ sums, same, names }: Props) {
  const [at, setAt] = useState(() => Math.floor(Math.random() * sums.length));
  const sum = sums[at % Math.max(1, sums.length)];
  if (!sum) return null;
  return (
    <Column>
      <Narrow>
        <Turns at={at}>
          <OneSum key={at} sum={sum} same={same} names={names} next={() => setAt((now) => now + 7)} />
        </Turns>
      </Narrow>
    </Column>
  );
}
