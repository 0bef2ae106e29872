import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { type Pending, only } from "../../api/outbox";
import { volts } from "../../format";
import type { Outbox } from "../../lab/useOutbox";
import { TextButton } from "../../ui/Button";
import { Bullets, type MarginNote } from "../../ui/Notes";

type Bench = Schemas["BenchOut"];
type Cell = Bench["cells"][number];

/** A device's clock this far from the server's is remarked on. */
const SKEW_MS = 120_000;

/** What is known of the group's meter, and the way to check it. */
function meterNote(bench: Bench, outbox: Outbox, check: () => void): MarginNote {
  const again = <TextButton onPress={check}>{bench.meter ? t`Check the meter again` : t`Check the meter`}</TextButton>;
  if (only(outbox.waiting, "check").some((one) => one.refusal === null))
    return { code: "meter", tone: "plain", title: t`Meter check not sent yet`, text: t`It is safe on this device.` };
  if (!bench.meter)
    return {
      code: "meter",
      tone: "caution",
      title: t`Meter not checked`,
      text: t`Two numbers show whether it can be trusted. You may measure without.`,
      action: again,
    };
  const { tone, text, do: next } = bench.meter;
  return { code: "meter", tone, title: t`Your meter`, text: `${text} ${next}`, action: again };
}

/** The other groups' values of this cell, covered until this group has its own. */
function othersNote(bench: Bench, cell: Cell): MarginNote {
  const title = t`Other groups’ values`;
  if (!cell.others)
    return {
      code: "others",
      tone: "plain",
      title,
      text: bench.covered
        ? t`stay covered until your teacher shows them.`
        : t`stay covered until your ${bench.wanted} are in, or until another group has this cell.`,
    };
  const { groups, mean_v, low_v, high_v } = cell.others;
  const range = groups > 1 ? t`, from ${volts(low_v, 2)} to ${volts(high_v, 2)}` : "";
  return {
    code: "others",
    tone: "plain",
    title,
    text: t`${volts(mean_v, 2)} on average, ${plural(groups, { one: "# group", other: "# groups" })}${range}.`,
  };
}

/** An entry in a few words: a number as typed, a text, or what kind of thing it is. */
function described(one: Pending): string {
  if (one.kind === "reading" || one.kind === "load" || one.kind === "prediction")
    return `${one.body.text} ${one.body.unit}`;
  if (one.kind === "note" || one.kind === "question") return `“${one.body.text}”`;
  if (one.kind === "actual") return one.body.text;
  if (one.kind === "packEntry") return one.body.text || t`a cell of a pack`;
  if (one.kind === "chain") return one.body.text || t`a vote`;
  return {
    check: t`the meter check`,
    photo: t`a photograph`,
    trace: t`a logger’s file`,
    runFile: t`a logger’s file of a pack`,
    pack: t`a pack`,
    tried: t`a bench of the homework`,
    words: t`words of the notebook`,
    handIn: t`the notebook, handed in`,
  }[one.kind];
}

/** What the bench's margin has to say: where the numbers are, what the checks say, the meter, minus signs, cautions. */
export function notesOf(
  bench: Bench,
  cell: Cell | undefined,
  outbox: Outbox,
  late: boolean,
  skewMs: number,
  check: () => void,
): MarginNote[] {
  const notes: MarginNote[] = [];
  const unsent = outbox.waiting.filter((one) => one.refusal === null && !one.sent && !one.held).length;
  const held = outbox.waiting.filter((one) => one.held && !one.sent);
  if (outbox.safety !== "kept")
    notes.push({
      code: "storage",
      tone: "wrong",
      title: outbox.safety === "full" ? t`This device is full` : t`This browser keeps nothing`,
      text: t`Pipette cannot store readings on this device${outbox.safety === "full" ? t`: its storage is full` : t` (a private window?)`}. With the network they are sent at once and are safe. Without it, keep this page open and write each number on your bench card too.`,
    });
  if (Math.abs(skewMs) > SKEW_MS)
    notes.push({
      code: "clock",
      tone: "plain",
      title: t`This device’s clock is off`,
      text: t`By ${plural(Math.round(Math.abs(skewMs) / 60_000), { one: "# minute", other: "# minutes" })}. It does not matter: Pipette goes by the server’s time.`,
    });
  if (unsent > 0 && late)
    notes.push({
      code: "waiting",
      tone: "caution",
      title: `${plural(unsent, { one: "# entry", other: "# entries" })} ${outbox.safety === "kept" ? t`safe on this device` : t`in this page only`}`,
      text: t`Go on measuring. They are sent by themselves when the network is back.`,
    });
  if (held.length > 0)
    notes.push({
      code: "held",
      tone: "caution",
      title: t`${plural(held.length, { one: "# entry", other: "# entries" })} kept here, to be offered again`,
      text: (
        <>
          {[...new Set(held.map((one) => one.held?.message))].join(" ")}
          <ul>
            {held.slice(0, 6).map((one) => (
              <li key={one.id}>{described(one)}</li>
            ))}
          </ul>
        </>
      ),
    });
  if (bench.state === "open") notes.push(meterNote(bench, outbox, check));
  if (cell) notes.push(othersNote(bench, cell));
  notes.push({
    code: "basics",
    tone: "plain",
    title: t`What is a volt?`,
    text: (
      <Link to="/bench/basics">
        <Trans>Volts, amperes, anode, LED: in one sentence each</Trans>
      </Link>
    ),
  });
  notes.push({
    code: "minus",
    tone: "plain",
    title: t`A minus sign?`,
    text: t`It says that red is on the negative plate. Record it as the meter shows it: it is evidence.`,
  });
  notes.push({
    code: "wrong",
    tone: "plain",
    title: t`Typed something wrong?`,
    text: t`Correct it with a new number and say why. The old one stays, struck through.`,
  });
  notes.push({
    code: "cautions",
    tone: "caution",
    title: t`Take care`,
    text: <Bullets items={cell?.cautions ?? []} />,
  });
  return notes;
}
