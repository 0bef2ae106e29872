import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { scaleLinear } from "@visx/scale";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { decimalsFor, number } from "../format";
import { useNames } from "../lab/useNames";
import { colour, font } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { ReadingMark, TableMark } from "../ui/voices";
import { roundStep, spreadApart, steps } from "./spread";

const HEIGHT = 530;
const TOP = 44;
const BOTTOM = HEIGHT - 16;
const LABEL_GAP = 19;
const STEM = 9;

const Drawing = styled.div`
  svg {
    display: block;
    width: 100%;
    overflow: visible;
  }
  text {
    font-size: 15px;
  }
  .number {
    font-family: ${font.numbers};
    font-size: 14px;
  }
  .step {
    fill: ${colour.soft};
    font-family: ${font.numbers};
    font-size: 13px;
    paint-order: stroke;
    stroke: ${colour.page};
    stroke-width: 5px;
  }
`;

type Result = Schemas["ElectrolyteResultOut"];

/** The two stems in one sentence, for those who hear it. */
function summary(result: Result, plate: (key: string) => string): string {
  const both = result.rungs.map(
    ({ electrode, table_v, class_v }) =>
      t`${plate(electrode)} ${table_v === null ? t`not in the table` : t`table ${number(table_v, 2, true)}`}, class ${number(class_v, 2, true)}`,
  );
  return t`Two upright scales in volts, highest plate first: ${both.join("; ")}.`;
}

/** Table and class as marks on two upright stems with each electrode joined; one that changed places is drawn heavy. */
export function Stems({ result }: { result: Result }) {
  const [ref, width] = useWidth<HTMLDivElement>(360);
  const { symbol, plate } = useNames();
  const { rungs, swaps } = result;
  const values = rungs.flatMap(({ table_v, class_v }) => (table_v === null ? [class_v] : [table_v, class_v]));
  const low = Math.floor((Math.min(...values) - 0.1) * 2) / 2;
  const high = Math.ceil((Math.max(...values) + 0.1) * 2) / 2;
  const y = scaleLinear<number>({ domain: [low, high], range: [BOTTOM, TOP] });
  const left = Math.max(96, width * 0.3);
  const right = width - Math.max(118, width * 0.33);
  const listed = rungs.filter((rung): rung is typeof rung & { table_v: number } => rung.table_v !== null);
  const tableLabels = spreadApart(
    listed.map((rung) => y(rung.table_v)),
    LABEL_GAP,
    TOP,
    BOTTOM,
  );
  const classLabels = spreadApart(
    rungs.map((rung) => y(rung.class_v)),
    LABEL_GAP,
    TOP,
    BOTTOM,
  );
  const moved = new Set(swaps.map((swap) => swap.lower));
  return (
    <Drawing ref={ref}>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        preserveAspectRatio="xMinYMin meet"
        height={HEIGHT}
        role="img"
        aria-label={summary(result, plate)}
      >
        {steps(low, high, roundStep(low, high, 0.5, 12)).map((step) => (
          <line key={step} x1={left + STEM} x2={right - STEM} y1={y(step)} y2={y(step)} stroke={colour.bench} />
        ))}
        {[left, right].map((x) => (
          <g key={x}>
            <rect
              x={x - STEM}
              y={TOP - 12}
              width={2 * STEM}
              height={BOTTOM - TOP + 24}
              rx={STEM}
              fill={colour.white}
              stroke={colour.soft}
            />
            {steps(low, high, roundStep(low, high, 0.1, 60)).map((step) => (
              <line
                key={step}
                x1={x === left ? x + STEM - 6 : x - STEM}
                x2={x === left ? x + STEM : x - STEM + 6}
                y1={y(step)}
                y2={y(step)}
                stroke={colour.hairline}
              />
            ))}
          </g>
        ))}
        <text x={left} y={16} textAnchor="middle" fontWeight={700} fill={colour.table}>
          <Trans>table</Trans>
        </text>
        <text x={right} y={16} textAnchor="middle" fontWeight={700} fill={colour.reading}>
          <Trans>this class</Trans>
        </text>
        {listed.map((rung) => (
          <line
            key={rung.electrode}
            x1={left}
            x2={right}
            y1={y(rung.table_v)}
            y2={y(rung.class_v)}
            stroke={moved.has(rung.electrode) ? colour.wrong : colour.soft}
            strokeWidth={moved.has(rung.electrode) ? 2.8 : 1.2}
          />
        ))}
        {steps(low, high, roundStep(low, high, 0.5, 12)).map((step) => (
          <text key={step} className="step" x={(left + right) / 2} y={y(step) + 4.5} textAnchor="middle">
            {number(step, 1, true)}
          </text>
        ))}
        {listed.map((rung, index) => (
          <g key={rung.electrode}>
            <line
              x1={left - STEM - 4}
              x2={left - STEM - 12}
              y1={y(rung.table_v)}
              y2={tableLabels[index]}
              stroke={colour.hairline}
            />
            <TableMark x={left} y={y(rung.table_v)} />
            <text x={left - STEM - 15} y={(tableLabels[index] ?? 0) + 5} textAnchor="end">
              <tspan fontWeight={700}>{symbol(rung.electrode)}</tspan>{" "}
              <tspan className="number">{number(rung.table_v, 2, true)}</tspan>
            </text>
          </g>
        ))}
        {rungs.map((rung, index) => (
          <g key={rung.electrode}>
            <line
              x1={right + STEM + 4}
              x2={right + STEM + 12}
              y1={y(rung.class_v)}
              y2={classLabels[index]}
              stroke={colour.hairline}
            />
            <line
              x1={right}
              x2={right}
              y1={y(Math.max(low, rung.low_v))}
              y2={y(Math.min(high, rung.high_v))}
              stroke={colour.reading}
              strokeWidth={2.5}
            />
            <ReadingMark x={right} y={y(rung.class_v)} />
            <text x={right + STEM + 15} y={(classLabels[index] ?? 0) + 5}>
              <tspan fontWeight={700}>{symbol(rung.electrode)}</tspan>{" "}
              <tspan className="number">{number(rung.class_v, decimalsFor(rung.u_v), true)}</tspan>
              {rung.electrode === result.anchor && (
                <tspan fill={colour.soft}>
                  {" "}
                  <Trans>held</Trans>
                </tspan>
              )}
            </text>
          </g>
        ))}
      </svg>
    </Drawing>
  );
}
