import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import type { Pending } from "../../api/outbox";
import { asTyped, volts, time } from "../../format";
import { TextButton } from "../../ui/Button";
import { Copy } from "../../ui/Copy";
import { Num, Soft } from "../../ui/layout";
import { colour } from "../../ui/theme";
import { leftOut, standingOf, struck } from "../../lab/standing";
import { useNames } from "../../lab/useNames";
import type { Outbox } from "../../lab/useOutbox";
import { Repairs } from "./SaidOfLast";

const List = styled.ol`
  border-top: 1px solid ${colour.hairline};
`;

const Item = styled.li<{ $old: boolean }>`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.2rem 0.9rem;
  min-height: 44px;
  padding: 0.25rem 0;
  border-bottom: 1px solid ${colour.hairline};
  s,
  ${Num} {
    min-width: 6rem;
    font-weight: 600;
  }
  s {
    color: ${colour.soft};
    text-decoration-thickness: 2px;
  }
  small {
    color: ${colour.soft};
    font-size: 0.88rem;
  }
`;

const WAITED_MS = 60_000;
const waited = (one: Schemas["ReadingOut"]) => Date.parse(one.received_at) - Date.parse(one.taken_at) > WAITED_MS;
type Props = {
  cell: Schemas["BenchCell"];
  waiting: Pending<"reading">[];
  correcting: string | null;
  correct: ((id: string) => void) | null;
  remove: (id: string) => Promise<void>;
  /** The reading that is remarked on above the record. */
  said: string | undefined;
  outbox: Outbox;
};

/** Everything recorded for this cell, in order; corrected entries stay, struck through, with the reason. */
export function CellRecord({ cell, waiting, correcting, correct, remove, said, outbox }: Props) {
  const { symbol } = useNames();
  const reasonFor = new Map(
    cell.readings.filter((reading) => reading.corrects).map((reading) => [reading.corrects, reading.reason]),
  );
  const flagged = new Set(cell.findings.map((finding) => finding.reading));
  const repairsOf = (id: string) => cell.findings.find((finding) => finding.reading === id)?.repairs ?? [];
  const unsent = waiting.filter((one) => !cell.readings.some((reading) => reading.id === one.id));
  const correctedHere = new Set(waiting.map((one) => one.body.corrects));
  if (cell.readings.length === 0 && unsent.length === 0)
    return (
      <Soft>
        <Trans>Nothing recorded for this cell yet.</Trans>
      </Soft>
    );
  return (
    <section aria-label={t`Recorded for this cell`}>
      <List>
        {cell.readings.map((reading) => (
          <Item key={reading.id} $old={reading.corrected_by !== null}>
            {struck(reading) ? (
              <Num as="s">{asTyped(reading.text, reading.unit)}</Num>
            ) : (
              <Num>{asTyped(reading.text, reading.unit)}</Num>
            )}
            <small>
              <Trans>red on {symbol(reading.red)}</Trans>
              {reading.corrected_by && t`, corrected: ${reasonFor.get(reading.id) ?? t`it was another cell’s`}`}
              {reading.corrects && t`, a correction`}
              {reading.offset_v !== 0 && t`, ${volts(reading.offset_v, 3, true)} of the meter taken off`}
              {reading.origin === "meter" && t`, from the meter`}
              {reading.origin === "simulated" && t`, simulated`}
              {reading.origin === "imported" && t`, from a file`}
              {waited(reading) && t`, typed at ${time(reading.taken_at)}, sent later`}
              {reading.after_closing && t`, came in after closing`}
              {reading.aside && t`, set aside by your teacher: ${reading.aside}`}
              {flagged.has(reading.id) && !reading.corrected_by && !leftOut(reading) && t`, see the note`}
              {!reading.corrected_by && !reading.aside && leftOut(reading) && `, ${standingOf(reading)}`}
            </small>
            {correct && leftOut(reading) && reading.id !== said && (
              <Repairs repairs={repairsOf(reading.id)} reading={reading} outbox={outbox} />
            )}
            {correct && !reading.corrected_by && correcting !== reading.id && (
              <TextButton onPress={() => correct(reading.id)} aria-label={t`Correct ${reading.text} ${reading.unit}`}>
                <Trans>Correct</Trans>
              </TextButton>
            )}
          </Item>
        ))}
        {unsent.map(({ id, body, refusal, held, sent }) => (
          <Item key={id} $old={correctedHere.has(id)}>
            <Num as={correctedHere.has(id) ? "s" : "span"}>{asTyped(body.text, body.unit)}</Num>
            <small>
              {sent && t`sent`}
              {!sent && refusal !== null && t`not recorded: ${refusal}`}
              {!sent &&
                refusal === null &&
                (held ? t`safe on this device. ${held.message}` : t`safe on this device, not sent yet`)}
            </small>
            {correct && refusal === null && !sent && !correctedHere.has(id) && correcting !== id && (
              <TextButton
                onPress={() => correct(id)}
                aria-label={t`Correct before it is sent: ${body.text} ${body.unit}`}
              >
                <Trans>Correct</Trans>
              </TextButton>
            )}
            {refusal !== null && <Copy text={`${body.text} ${body.unit}`} />}
            {refusal !== null && (
              <TextButton onPress={() => void remove(id)} aria-label={t`Put away ${body.text}`}>
                <Trans>I have noted it</Trans>
              </TextButton>
            )}
          </Item>
        ))}
      </List>
    </section>
  );
}
