import { t } from "@lingui/core/macro";
import type { Schemas } from "../../api/client";
import { type Pending, only } from "../../api/outbox";

type Kept = Schemas["PackEntryOut"];
export type Kind = Schemas["PackEntryIn"]["kind"];

/** One thing about a pack as it is shown: kept by the server, or still on this device. */
export type Shown = {
  id: string;
  kind: Kind;
  position: number | null;
  text: string;
  unit: string;
  negative: string;
  electrolyte: string;
  positive: string;
  waiting: boolean;
  replaced: boolean;
  standing: string;
  why: string;
  repair: Kept["repair"];
};

export type View = {
  id: string;
  load: string;
  loadName: string;
  kept: Schemas["KeptPack"] | null;
  entries: Shown[];
};

const fromKept = (entry: Kept): Shown => ({ ...entry, waiting: false, replaced: entry.corrected_by !== null });

/** A group's packs with what waits on this device put in; newest first. */
export function viewsOf(data: Schemas["BenchPacks"], waiting: Pending[]): View[] {
  const begun = only(waiting, "pack").filter((one) => one.refusal === null);
  const entries = only(waiting, "packEntry").filter((one) => one.refusal === null);
  const named = new Map(data.loads.map((load) => [load.key, load.name]));
  const all: View[] = [
    ...data.packs.map((kept) => ({ id: kept.id, load: kept.load, loadName: kept.load_name, kept, entries: [] })),
    ...begun
      .filter((one) => !data.packs.some((kept) => kept.id === one.id))
      .map(({ id, body }) => ({
        id,
        load: body.load,
        loadName: named.get(body.load) ?? `${body.load} Ω`,
        kept: null,
        entries: [],
      })),
  ];
  return all
    .map((view) => {
      const kept = view.kept?.entries ?? [];
      const fresh = entries.filter((one) => one.body.pack_id === view.id && !kept.some((entry) => entry.id === one.id));
      const corrected = new Set(fresh.map((one) => one.body.corrects));
      return {
        ...view,
        entries: [
          ...kept.map(fromKept).map((entry) => (corrected.has(entry.id) ? { ...entry, replaced: true } : entry)),
          ...fresh.map(({ id, body, sent }): Shown => ({
            id,
            kind: body.kind,
            position: body.position ?? null,
            text: body.text ?? "",
            unit: body.unit ?? "",
            negative: body.negative ?? "",
            electrolyte: body.electrolyte ?? "",
            positive: body.positive ?? "",
            waiting: !sent,
            replaced: false,
            standing: "sound",
            why: "",
            repair: null,
          })),
        ],
      };
    })
    .reverse();
}

/** The entry of a kind (and cell) that counts: the latest that is not corrected. */
export const latest = (view: View, kind: Kind, position: number | null = null): Shown | undefined =>
  view.entries.findLast((entry) => entry.kind === kind && entry.position === position && !entry.replaced);

/** The cells of the row in order, as they are joined. */
export function rowOf(view: View): Shown[] {
  const cells: Shown[] = [];
  for (let place = 1; ; place += 1) {
    const cell = latest(view, "cell", place);
    if (!cell) return cells;
    cells.push(cell);
  }
}

function said(one: Pending<"pack" | "packEntry" | "chain" | "runFile">): string {
  if (one.kind === "runFile") return t`The file ${one.file?.name ?? ""}`;
  if (one.kind === "pack") return t`A pack for ${one.body.load}`;
  if (one.kind === "chain" && one.body.kind === "vote") return t`Your vote for ${one.body.cells ?? 0}`;
  return `${one.body.text} ${one.body.unit}`.trim() || t`A cell`;
}

export type Refused = { id: string; text: string; why: string };

/** What the server will never keep of a group's packs: it stays in sight with the reason until it is put away. */
export const refusedOf = (waiting: Pending[]): Refused[] =>
  [...only(waiting, "pack"), ...only(waiting, "packEntry"), ...only(waiting, "chain"), ...only(waiting, "runFile")]
    .filter((one) => one.refusal !== null)
    .map((one) => ({
      id: one.id,
      text: said(one),
      why: one.refusal ?? "",
    }));
