import type { Schemas } from "../../api/client";
import { only } from "../../api/outbox";
import type { Level } from "../../charts/Tubes";
import { typedVolts } from "../../format";
import { leftOut } from "../../lab/standing";
import type { Outbox } from "../../lab/useOutbox";

/** How far a cell is on its bench, with what still waits on this device: readings as they are drawn, those that count, whether
 * they are enough, and whether the group still guesses, so that nothing says which plate is negative. */
export function standOf(cell: Schemas["BenchCell"], bench: Schemas["BenchOut"], outbox: Outbox, skipped: boolean) {
  const mine = only(outbox.waiting, "reading").filter((one) => one.cell_id === cell.id);
  const correctedHere = new Set(mine.filter((one) => one.refusal === null).map((one) => one.body.corrects));
  const kept = cell.readings.filter(
    (reading) => reading.corrected_by === null && !reading.aside && !correctedHere.has(reading.id),
  );
  const readable = new RegExp(bench.readable, "i");
  const isReadable = (text: string) => readable.test(text.normalize("NFKC").replace(/\s+/g, ""));
  const isKept = (id: string) => cell.readings.some((reading) => reading.id === id);
  const levels: Level[] = [
    ...kept.map(({ id, text, unit, volts_v }) => ({ id, text, unit, volts: volts_v })),
    ...mine
      .filter((one) => one.refusal === null && !correctedHere.has(one.id) && !isKept(one.id))
      .map(({ id, body, sent }) => ({
        id,
        text: body.text,
        unit: body.unit,
        waits: !sent,
        volts: sent?.volts_v ?? (isReadable(body.text) ? typedVolts(body.text, body.unit) : null),
      })),
  ];
  const out = new Set(cell.readings.filter(leftOut).map((reading) => reading.id));
  const counting = levels.filter(({ id, volts, text }) => !out.has(id) && (volts !== null || isReadable(text)));
  const enough = counting.length >= bench.wanted;
  const predictable = cell.asks === "cell" ? cell.working.length > 0 : cell.asks !== "nothing";
  /** Whether the group is asked to predict now. */
  const asking =
    bench.predict &&
    bench.state === "open" &&
    !skipped &&
    counting.length === 0 &&
    cell.prediction === null &&
    predictable &&
    !only(outbox.waiting, "prediction").some((one) => one.cell_id === cell.id && one.refusal === null);
  /** Until it has, or will not, nothing says which plate is negative by the table. */
  const guessing = asking && cell.asks !== "change";
  return { mine, kept, levels, counting, enough, asking, guessing };
}
