import { plural, t } from "@lingui/core/macro";
import { counted } from "../../lab/standing";
import type { Schemas } from "../../api/client";
import { asTyped, lower } from "../../format";

type Book = Schemas["NotebookOut"];
export type Citable = Schemas["Cite"] & { name: string; about: string };

export const keyOf = (cite: Schemas["Cite"]) => `${cite.kind}:${cite.id}`;
/** All that a group can point at as evidence: its readings that count, loads, traces, packs and claims. */
export function citables(book: Book): Citable[] {
  const of = (kind: Citable["kind"], id: string, name: string, about: string) => ({ kind, id, name, about });
  return [
    ...book.cells.flatMap((cell) => [
      ...counted(cell).map((one) => of("reading", one.id, asTyped(one.text, one.unit), cell.short)),
      ...cell.beside.under_load.map((one) =>
        of(
          "load",
          one.id,
          `${asTyped(one.text, one.unit)} ${one.kind === "short" ? t`short-circuited` : t`loaded`}`,
          cell.short,
        ),
      ),
      ...cell.beside.traces.map((one) => of("trace", one.id, one.name, cell.short)),
    ]),
    ...book.packs.map((one) =>
      of("pack", one.id, t`pack for ${one.load_name}`, plural(one.steps.length, { one: "# cell", other: "# cells" })),
    ),
    ...book.claims
      .filter((one) => one.latest)
      .map((one) => of("claim", one.id, t`claim: ${lower(one.cause_name)}`, one.short)),
  ];
}
