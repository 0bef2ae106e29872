import { t } from "@lingui/core/macro";
import type { Schemas } from "../../api/client";
import type { Names } from "../../lab/useNames";

type Lab = Schemas["LabListed"];
export type Order = "newest" | "title" | "readings";
export const ORDERS: { key: Order; name: string }[] = [
  { key: "newest", name: t`newest first` },
  { key: "title", name: t`by title` },
  { key: "readings", name: t`most readings first` },
];

const plain = (text: string) => text.toLowerCase().normalize("NFKD").replace(/\p{M}/gu, "");

/** Whether all words that are looked for stand somewhere in what a lab is about. */
export function matches(lab: Lab, words: string, names: Pick<Names, "plate" | "liquid">): boolean {
  const about = plain(
    [
      lab.title,
      lab.question,
      lab.date,
      ...lab.tags,
      ...lab.electrodes.map(names.plate),
      ...lab.electrolytes.map(names.liquid),
    ].join(" "),
  );
  return plain(words)
    .split(/\s+/)
    .every((word) => about.includes(word));
}

/** Labs in an order; the server's own is newest first. */
export function sorted(labs: Lab[], order: Order): Lab[] {
  if (order === "title") return [...labs].sort((a, b) => a.title.localeCompare(b.title));
  if (order === "readings") return [...labs].sort((a, b) => b.reading_count - a.reading_count);
  return labs;
}
