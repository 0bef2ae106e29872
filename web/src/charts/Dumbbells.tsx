import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { scaleLinear } from "@visx/scale";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { decimalsFor, number } from "../format";
import { useNames } from "../lab/useNames";
import { colour, font } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { ElsewhereMark, GroupTick, ReadingMark, TableMark } from "../ui/voices";
import { roundStep, steps } from "./spread";

const ROW = 50;
const TOP = 34;
const NAMES = 128;
const GAP = 78;
const N = 34;

const Drawing = styled.div`
  svg {
    display: block;
    width: 100%;
  }
  text {
    font-size: 15px;
  }
  .small {
    fill: ${colour.soft};
    font-size: 13px;
  }
  .number {
    font-family: ${font.numbers};
    font-size: 15px;
  }
  .step {
    fill: ${colour.soft};
    font-family: ${font.numbers};
    font-size: 13px;
  }
`;

type Cell = Omit<Schemas["ElectrolyteResultOut"]["cells"][number], "gap_percent" | "predicted">;
/** Cells of a class, or of one group's own: then each with what sets it apart from others of the same plates. */
type Props = { result: { cells: (Cell & { about?: string })[] }; own?: boolean; row?: number };

function summary(cells: Cell[], own: boolean): string {
  const first = cells[0];
  if (!first) return t`No cells yet.`;
  if (own) return t`${cells.length} cells, your mean beside the table’s difference. The numbers stand with each cell.`;
  const widest =
    first.gap_v === null
      ? ""
      : t` The widest gap is ${first.short}: table ${number(first.table_v ?? 0, 2)}, class ${number(first.mean_v, 2)} volts.`;
  return t`${cells.length} cells, class mean beside table difference, widest gap first.${widest} All numbers are in the table below.`;
}

/** Each cell as a class mean joined to its table difference, with a tick for each group. */
export function Dumbbells({ result, own = false, row = ROW }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>(520);
  const { plate } = useNames();
  const { cells } = result;
  const slim = width < 480;
  const names = slim ? 74 : NAMES;
  const tail = slim ? GAP : GAP + N;
  const values = cells.flatMap((cell) => [
    0,
    cell.mean_v,
    cell.table_v ?? 0,
    ...cell.groups.map((group) => group.mean_v),
    ...cell.elsewhere.map((one) => one.volts_v),
  ]);
  const low = Math.floor((Math.min(...values) - 0.06) * 2) / 2;
  const high = Math.ceil((Math.max(...values) + 0.06) * 2) / 2;
  const x = scaleLinear<number>({ domain: [low, high], range: [names, Math.max(names + 60, width - tail)] });
  const step = roundStep(low, high, 0.5, slim ? 4 : 8);
  const height = TOP + cells.length * row + 6;
  return (
    <Drawing ref={ref}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        preserveAspectRatio="xMinYMin meet"
        height={height}
        role="img"
        aria-label={summary(cells, own)}
      >
        {steps(low, high, step).map((at) => (
          <g key={at}>
            <line
              x1={x(at)}
              x2={x(at)}
              y1={TOP - 8}
              y2={height}
              stroke={at === 0 ? colour.soft : colour.bench}
              strokeWidth={at === 0 ? 1.5 : 1}
            />
            <text className="step" x={x(at)} y={16} textAnchor="middle">
              {number(at, 1)}
            </text>
          </g>
        ))}
        <text className="small" x={width - (slim ? 2 : N + 4)} y={16} textAnchor="end">
          <Trans>gap, V</Trans>
        </text>
        {!slim && (
          <text className="small" x={width - 2} y={16} textAnchor="end">
            n
          </text>
        )}
        {cells.map((cell, index) => {
          const y = TOP + index * row + row / 2 - 4;
          return (
            <g key={`${cell.short} ${cell.about ?? ""}`}>
              <line x1={0} x2={width} y1={y + row / 2 + 3} y2={y + row / 2 + 3} stroke={colour.bench} />
              <text x={2} y={slim && !cell.about ? y + 5 : y - 1} fontWeight={700}>
                {cell.short}
              </text>
              {(!slim || cell.about) && (
                <text className="small" x={2} y={y + 16}>
                  {cell.about ?? `${plate(cell.negative)}, ${plate(cell.positive)}`}
                </text>
              )}
              {cell.table_v !== null && (
                <line x1={x(cell.mean_v)} x2={x(cell.table_v)} y1={y} y2={y} stroke={colour.soft} strokeWidth={2} />
              )}
              {cell.low_v !== null && cell.high_v !== null && (
                <line
                  x1={x(Math.max(low, cell.low_v))}
                  x2={x(Math.min(high, cell.high_v))}
                  y1={y}
                  y2={y}
                  stroke={colour.reading}
                  strokeWidth={4}
                  opacity={0.45}
                />
              )}
              {cell.table_v !== null && <TableMark x={x(cell.table_v)} y={y} />}
              <ReadingMark x={x(cell.mean_v)} y={y} />
              {cell.elsewhere.map((one) => (
                <ElsewhereMark key={one.id} x={x(one.volts_v)} y={y - 11} />
              ))}
              {cell.groups.map((group) => (
                <GroupTick key={group.group} x={x(group.mean_v)} y={y + 13} />
              ))}
              {cell.gap_v === null ? (
                <text className="small" x={width - (slim ? 2 : N + 4)} y={y + 5} textAnchor="end">
                  <Trans>not listed</Trans>
                </text>
              ) : (
                <text className="number" x={width - (slim ? 2 : N + 4)} y={y + 5} textAnchor="end">
                  {number(cell.gap_v, decimalsFor(cell.u_v), true)}
                </text>
              )}
              {!slim && (
                <text className="step" x={width - 2} y={y + 5} textAnchor="end">
                  {cell.n}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </Drawing>
  );
}
