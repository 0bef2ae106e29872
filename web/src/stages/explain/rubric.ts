import type { Schemas } from "../../api/client";

type Row = Schemas["RubricRow"];

/** A rubric as it is typed: a row “Evidence: 3”, under it its levels “2: cites two readings | 0.94 and 0.95 V”. */
export const rubricText = (rows: Row[]): string =>
  rows
    .map((row) =>
      [
        `${row.name}: ${row.most}`,
        ...row.levels.map((one) => `  ${one.points}: ${one.text}${one.example ? ` | ${one.example}` : ""}`),
      ].join("\n"),
    )
    .join("\n");

/** The rows that a text says, or its first line that says neither a row nor a level. */
export function readRubric(text: string): { rows: Row[] } | { odd: string } {
  const rows: Row[] = [];
  for (const line of text.split("\n").filter((one) => one.trim())) {
    const level = /^\s*(\d+)\s*:\s*([^|]+)(?:\|(.*))?$/.exec(line);
    const row = /^\s*(\D.*\S|\D)\s*:\s*(\d+)\s*$/.exec(line);
    const last = rows.at(-1);
    if (level?.[1] && level[2]?.trim() && last)
      last.levels.push({ points: Number(level[1]), text: level[2].trim(), example: (level[3] ?? "").trim() });
    else if (row?.[1] && row[2]) rows.push({ name: row[1].trim(), most: Number(row[2]), levels: [] });
    else return { odd: line.trim() };
  }
  return { rows };
}
