import type { Schemas } from "../../api/client";
import { asTyped, count } from "../../format";

type Book = Schemas["NotebookOut"];
export type Citable = Schemas["Cite"] & { name: string; about: string };

export const keyOf = (cite: Schemas["Cite"]) => `${cite.kind}:${cite.id}`;
/** All that a group can point at as evidence: its readings that count, loads, traces, packs and claims. */
export function citables(book: Book): Citable[] {
  const of = (kind: Citable["kind"], id: string, name: string, about: string) => ({ kind, id, name, about });
  return [
    ...book.cells.flatMap((cell) => [
      ...cell.readings
        .filter((one) => one.corrected_by === null && !one.aside)
        .map((one) => of("reading", one.id, asTyped(one.text, one.unit), cell.short)),
      ...cell.beside.under_load.map((one) =>
        of(
          "load",
          one.id,
          `${asTyped(one.text, one.unit)} ${one.kind === "short" ? "short-circuited" : "loaded"}`,
          cell.short,
        ),
      ),
      ...cell.beside.traces.map((one) => of("trace", one.id, one.name, cell.short)),
    ]),
    ...book.packs.map((one) => of("pack", one.id, `pack for ${one.load_name}`, count(one.steps.length, "cell"))),
    ...book.claims
      .filter((one) => one.latest)
      .map((one) => of("claim", one.id, `claim: ${one.cause_name.toLowerCase()}`, one.short)),
  ];
}
