import { t } from "@lingui/core/macro";
import { scaleLinear } from "@visx/scale";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { number } from "../format";
import { useNames } from "../lab/useNames";
import { colour, font } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { TableMark } from "../ui/voices";
import { roundStep, spreadApart, steps } from "./spread";

const ROW = 46;
const TOP = 30;
const NAMES = 120;
const TAIL = 84;

const Drawing = styled.div`
  svg {
    display: block;
    width: 100%;
  }
  text {
    font-size: 15px;
  }
  .number,
  .step {
    font-family: ${font.numbers};
    font-size: 13px;
  }
  .step {
    fill: ${colour.soft};
  }
`;

type Years = Schemas["YearsOut"];

/** Each plate over the classes: a number for each class where it lay, a bar for all together (95 %), the table's circle. */
export function YearRows({ years, numbers }: { years: Years; numbers: number[] }) {
  const [ref, width] = useWidth<HTMLDivElement>(640);
  const { plate } = useNames();
  const values = years.rungs.flatMap((rung) => [
    rung.low_v,
    rung.high_v,
    ...rung.by_class.filter((v) => v !== null),
    ...(rung.table_v === null ? [] : [rung.table_v]),
  ]);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const x = scaleLinear<number>({ domain: [low - 0.05, high + 0.05], range: [NAMES, width - TAIL] });
  const height = TOP + years.rungs.length * ROW;
  const step = roundStep(low, high, 0.1, Math.max(2, Math.floor((width - NAMES - TAIL) / 70)));
  const summary = years.rungs
    .map(
      (rung) =>
        t`${plate(rung.electrode)}: all classes ${number(rung.all_v, 2, true)}, each ${rung.by_class.map((v) => (v === null ? t`not there` : number(v, 2, true))).join(", ")}`,
    )
    .join("; ");
  return (
    <Drawing ref={ref}>
      <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={t`Volts against hydrogen. ${summary}.`}>
        {steps(low, high, step).map((v) => (
          <g key={v}>
            <line x1={x(v)} x2={x(v)} y1={TOP - 8} y2={height - 6} stroke={colour.hairline} />
            <text className="step" x={x(v)} y={14} textAnchor="middle">
              {number(v, 1, true)}
            </text>
          </g>
        ))}
        {years.rungs.map((rung, row) => {
          const y = TOP + row * ROW + ROW / 2;
          const there = rung.by_class.flatMap((v, place) => (v === null ? [] : [{ v, place }]));
          const at = spreadApart(
            there.map(({ v }) => x(v)),
            11,
            NAMES,
            width - TAIL,
          );
          return (
            <g key={rung.electrode}>
              <text x={0} y={y + 5}>
                {plate(rung.electrode)}
              </text>
              <line x1={x(rung.low_v)} x2={x(rung.high_v)} y1={y + 6} y2={y + 6} stroke={colour.ink} strokeWidth={3} />
              <line x1={x(rung.all_v)} x2={x(rung.all_v)} y1={y} y2={y + 12} stroke={colour.ink} strokeWidth={3} />
              {rung.table_v !== null && <TableMark x={x(rung.table_v)} y={y + 6} />}
              {there.map(({ v, place }, index) => (
                <g key={place}>
                  <line x1={x(v)} x2={x(v)} y1={y - 3} y2={y + 6} stroke={colour.reading} strokeWidth={2} />
                  <text className="number" x={at[index]} y={y - 7} textAnchor="middle" fill={colour.reading}>
                    {numbers[place]}
                  </text>
                </g>
              ))}
              <text className="number" x={width} y={y + 10} textAnchor="end">
                {rung.electrode === years.anchor ? t`held` : number(rung.all_v, 2, true)}
              </text>
            </g>
          );
        })}
      </svg>
    </Drawing>
  );
}
