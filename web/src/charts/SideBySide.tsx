import { t } from "@lingui/core/macro";
import { scaleLinear } from "@visx/scale";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { number } from "../format";
import { useNames } from "../lab/useNames";
import { colour, font } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { ReadingMark, TableMark } from "../ui/voices";
import { linesOf } from "./lines";
import { roundStep, spreadApart, steps } from "./spread";

const TALL = 450;
const MOST_PX = 180; // of a title: the last one stands 100 from the edge
const LINE = 15;
const LETTER_PX = 8.2; // of a bold letter
const STEM = 9;

const Drawing = styled.div`
  overflow-x: auto;
  svg {
    display: block;
    min-width: 34rem;
    width: 100%;
  }
  text {
    font-size: 14px;
  }
  .number {
    font-family: ${font.numbers};
    font-size: 13px;
  }
`;

type Result = Schemas["ElectrolyteResultOut"];
type Stem = { key: string; title: string; table: boolean; values: Map<string, number> };

type Props = { results: Result[]; title: (result: Result) => string; tall?: number };

/** The table and every liquid as stems beside each other, each plate joined from stem to stem. */
export function SideBySide({ results, title, tall = TALL }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>(720);
  const { symbol, plate } = useNames();
  const drawn = results.filter((result) => result.rungs.length > 0);
  const table = new Map(
    drawn.flatMap((result) =>
      result.rungs.flatMap((rung) => (rung.table_v === null ? [] : [[rung.electrode, rung.table_v] as const])),
    ),
  );
  const stems: Stem[] = [
    { key: "table", title: t`table`, table: true, values: table },
    ...drawn.map((result) => ({
      key: `${result.electrolyte}|${result.condition}`,
      title: title(result),
      table: false,
      values: new Map(result.rungs.map((rung) => [rung.electrode, rung.class_v])),
    })),
  ];
  const all = stems.flatMap((stem) => [...stem.values.values()]);
  const low = Math.floor((Math.min(...all) - 0.1) * 2) / 2;
  const high = Math.ceil((Math.max(...all) + 0.1) * 2) / 2;
  const wide = Math.max(544, width);
  const x = (index: number) => 70 + (index * (wide - 170)) / Math.max(1, stems.length - 1);
  const apart = (wide - 170) / Math.max(1, stems.length - 1);
  const titles = stems.map((stem) => linesOf(stem.title, Math.floor(Math.min(apart, MOST_PX) / LETTER_PX) - 1));
  const top = 24 + LINE * Math.max(2, ...titles.map((lines) => lines.length));
  const bottom = top + tall;
  const y = scaleLinear<number>({ domain: [low, high], range: [bottom, top] });
  const plates = [...new Set(stems.flatMap((stem) => [...stem.values.keys()]))];
  const said = stems
    .map(
      (stem) =>
        `${stem.title}: ${[...stem.values]
          .sort((a, b) => b[1] - a[1])
          .map(([key, value]) => `${plate(key)} ${number(value, 2, true)}`)
          .join(", ")}`,
    )
    .join(". ");
  return (
    <Drawing ref={ref} tabIndex={0} role="region" aria-label={t`Ladders side by side`}>
      <svg
        viewBox={`0 0 ${wide} ${bottom + 16}`}
        preserveAspectRatio="xMinYMin meet"
        height={bottom + 16}
        role="img"
        aria-label={t`Upright scales in volts. ${said}.`}
      >
        {steps(low, high, roundStep(low, high, 0.5, 12)).map((at) => (
          <g key={at}>
            <line x1={52} x2={wide - 60} y1={y(at)} y2={y(at)} stroke={colour.bench} />
            <text className="number" x={48} y={y(at) + 4} textAnchor="end" fill={colour.soft}>
              {number(at, 1, true)}
            </text>
          </g>
        ))}
        {plates.map((key) =>
          stems.slice(1).map((stem, index) => {
            const [from, to] = [stems[index]?.values.get(key), stem.values.get(key)];
            return from === undefined || to === undefined ? null : (
              <line
                key={`${key}-${stem.key}`}
                x1={x(index)}
                x2={x(index + 1)}
                y1={y(from)}
                y2={y(to)}
                stroke={colour.soft}
                strokeWidth={1.2}
              />
            );
          }),
        )}
        {stems.map((stem, index) => {
          const rows = [...stem.values];
          const places = spreadApart(
            rows.map(([, value]) => y(value)),
            17,
            top,
            bottom,
          );
          return (
            <g key={stem.key}>
              <rect
                x={x(index) - STEM}
                y={top - 12}
                width={2 * STEM}
                height={bottom - top + 24}
                rx={STEM}
                fill={colour.white}
                stroke={colour.soft}
                fillOpacity={0.6}
              />
              {titles[index]?.map((words, line) => (
                <text
                  key={words}
                  x={x(index)}
                  y={15 + LINE * line}
                  textAnchor="middle"
                  fontWeight={700}
                  fill={stem.table ? colour.table : colour.reading}
                >
                  {words}
                </text>
              ))}
              {rows.map(([key, value], row) => (
                <g key={key}>
                  {stem.table ? <TableMark x={x(index)} y={y(value)} /> : <ReadingMark x={x(index)} y={y(value)} />}
                  <rect
                    x={x(index) + STEM + 3}
                    y={(places[row] ?? 0) - 8}
                    width={78}
                    height={16}
                    fill={colour.page}
                    opacity={0.88}
                  />
                  <text x={x(index) + STEM + 6} y={(places[row] ?? 0) + 4}>
                    <tspan fontWeight={700}>{symbol(key)}</tspan>{" "}
                    <tspan className="number">{number(value, 2, true)}</tspan>
                  </text>
                </g>
              ))}
            </g>
          );
        })}
      </svg>
    </Drawing>
  );
}
