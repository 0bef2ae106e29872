import styled from "styled-components";
import type { Schemas } from "../../api/client";
import type { Pending } from "../../api/outbox";
import { asTyped, volts } from "../../format";
import { TextButton } from "../../ui/Button";
import { Num, Soft } from "../../ui/layout";
import { colour } from "../../ui/theme";
import { useNames } from "../../lab/useNames";
import { Copy } from "./Copy";

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
const time = (iso: string) => new Date(iso).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

type Props = {
  cell: Schemas["BenchCell"];
  waiting: Pending<"reading">[];
  correcting: string | null;
  correct: ((id: string) => void) | null;
  remove: (id: string) => Promise<void>;
};

/** Everything recorded for this cell, in order; corrected entries stay, struck through, with the reason. */
export function CellRecord({ cell, waiting, correcting, correct, remove }: Props) {
  const { symbol } = useNames();
  const reasonFor = new Map(
    cell.readings.filter((reading) => reading.corrects).map((reading) => [reading.corrects, reading.reason]),
  );
  const flagged = new Set(cell.findings.map((finding) => finding.reading));
  const unsent = waiting.filter((one) => !cell.readings.some((reading) => reading.id === one.id));
  if (cell.readings.length === 0 && unsent.length === 0) return <Soft>Nothing recorded for this cell yet.</Soft>;
  return (
    <section aria-label="Recorded for this cell">
      <List>
        {cell.readings.map((reading) => (
          <Item key={reading.id} $old={reading.corrected_by !== null}>
            {reading.corrected_by || reading.aside ? (
              <Num as="s">{asTyped(reading.text, reading.unit)}</Num>
            ) : (
              <Num>{asTyped(reading.text, reading.unit)}</Num>
            )}
            <small>
              red on {symbol(reading.red)}
              {reading.corrected_by && `, corrected: ${reasonFor.get(reading.id) ?? ""}`}
              {reading.corrects && ", a correction"}
              {reading.offset_v !== 0 && `, ${volts(reading.offset_v, 3, true)} of the meter taken off`}
              {reading.origin === "meter" && ", from the meter"}
              {reading.origin === "simulated" && ", simulated"}
              {reading.origin === "imported" && ", from a file"}
              {waited(reading) && `, typed at ${time(reading.taken_at)}, sent later`}
              {reading.after_closing && ", came in after closing"}
              {reading.aside && `, set aside by your teacher: ${reading.aside}`}
              {flagged.has(reading.id) && !reading.corrected_by && ", remarked on"}
            </small>
            {correct && !reading.corrected_by && correcting !== reading.id && (
              <TextButton onPress={() => correct(reading.id)} aria-label={`Correct ${reading.text} ${reading.unit}`}>
                Correct
              </TextButton>
            )}
          </Item>
        ))}
        {unsent.map(({ id, body, refusal, held, sent }) => (
          <Item key={id} $old={false}>
            <Num>{asTyped(body.text, body.unit)}</Num>
            <small>
              {sent && "sent"}
              {!sent && refusal !== null && `not recorded: ${refusal}`}
              {!sent &&
                refusal === null &&
                (held ? `safe on this device. ${held.message}` : "safe on this device, not sent yet")}
            </small>
            {refusal !== null && <Copy text={`${body.text} ${body.unit}`} />}
            {refusal !== null && (
              <TextButton onPress={() => void remove(id)} aria-label={`Put away ${body.text}`}>
                I have noted it
              </TextButton>
            )}
          </Item>
        ))}
      </List>
    </section>
  );
}
