import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { scaleLinear } from "@visx/scale";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { number } from "../format";
import { colour, font } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { GroupTick, ReadingMark } from "../ui/voices";
import { shortened } from "./lines";
import { roundStep, steps } from "./spread";

const ROW = 34;
const TOP = 24;
const NAMES = 104;
const NAME_LETTERS = 12; // that find room beside the marks

const Drawing = styled.div`
  svg {
    display: block;
    width: 100%;
  }
  text {
    font-size: 14px;
  }
  .step {
    fill: ${colour.soft};
    font-family: ${font.numbers};
    font-size: 13px;
  }
`;

/** How far each group reads above or below the class in all its cells, with its 95 % interval. */
export function OffsetsChart({ offsets }: { offsets: Schemas["OffsetOut"][] }) {
  const [ref, width] = useWidth<HTMLDivElement>(480);
  const reach = Math.max(0.02, ...offsets.map((offset) => Math.max(-offset.low_v, offset.high_v))) * 1.1;
  const x = scaleLinear<number>({ domain: [-reach, reach], range: [NAMES, Math.max(NAMES + 80, width - 70)] });
  const rows = [...offsets].sort((a, b) => a.group.localeCompare(b.group));
  const height = TOP + rows.length * ROW;
  const said = rows.map((row) => `${row.group} ${number(row.volts_v, 3, true)} ± ${number(row.u_v, 3)}`).join("; ");
  return (
    <Drawing ref={ref}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        preserveAspectRatio="xMinYMin meet"
        height={height}
        role="img"
        aria-label={t`Each group against the class, in volts: ${said}.`}
      >
        {steps(-reach, reach, roundStep(-reach, reach, 0.01, 6)).map((at) => (
          <g key={at}>
            <line x1={x(at)} x2={x(at)} y1={TOP - 6} y2={height} stroke={at === 0 ? colour.soft : colour.bench} />
            <text className="step" x={x(at)} y={12} textAnchor="middle">
              {number(at, 2, true)}
            </text>
          </g>
        ))}
        {rows.map((row, index) => {
          const y = TOP + index * ROW + ROW / 2;
          return (
            <g key={row.group}>
              <text x={2} y={y + 5} fontWeight={600}>
                <title>{row.group}</title>
                {shortened(row.group, NAME_LETTERS)}
              </text>
              <line
                x1={x(row.low_v)}
                x2={x(row.high_v)}
                y1={y}
                y2={y}
                stroke={colour.reading}
                strokeWidth={4}
                opacity={0.45}
              />
              <ReadingMark x={x(row.volts_v)} y={y} />
              <text className="step" x={width - 2} y={y + 5} textAnchor="end">
                {number(row.volts_v, 3, true)}
              </text>
            </g>
          );
        })}
      </svg>
    </Drawing>
  );
}

const HEIGHT = 230;
const LEFT = 52;

/** The shared cell over the minutes of the lab: every group's readings, first and last. */
export function SharedChart({ shared }: { shared: Schemas["SharedOut"][] }) {
  const [ref, width] = useWidth<HTMLDivElement>(480);
  if (shared.length < 2) return null;
  const minutes = shared.map((one) => one.minute);
  const values = shared.map((one) => one.volts_v);
  const room = Math.max(0.03, 0.15 * (Math.max(...values) - Math.min(...values)));
  const [y0, y1] = [Math.min(...values) - room, Math.max(...values) + room];
  const x = scaleLinear<number>({
    domain: [0, Math.max(...minutes, 1) + 2],
    range: [LEFT, Math.max(LEFT + 80, width - 10)],
  });
  const y = scaleLinear<number>({ domain: [y0, y1], range: [HEIGHT - 40, 12] });
  const step = roundStep(y0, y1, 0.01, 5);
  const said = t`${shared.length} readings of the shared cell from minute ${Math.round(Math.min(...minutes))} to ${Math.round(Math.max(...minutes))}, between ${number(Math.min(...values), 2)} and ${number(Math.max(...values), 2)} volts.`;
  return (
    <Drawing ref={ref}>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        preserveAspectRatio="xMinYMin meet"
        height={HEIGHT}
        role="img"
        aria-label={said}
      >
        {steps(y0, y1, step).map((at) => (
          <g key={at}>
            <line x1={LEFT} x2={width - 10} y1={y(at)} y2={y(at)} stroke={colour.bench} />
            <text className="step" x={LEFT - 6} y={y(at) + 4} textAnchor="end">
              {number(at, step < 0.1 ? 2 : 1)}
            </text>
          </g>
        ))}
        {steps(0, Math.max(...minutes), 15).map((at) => (
          <text key={at} className="step" x={x(at)} y={HEIGHT - 20} textAnchor="middle">
            {at}
          </text>
        ))}
        <text x={width / 2} y={HEIGHT - 3} textAnchor="middle" fill={colour.soft}>
          <Trans>minutes</Trans>
        </text>
        {shared.map((one, index) => (
          <GroupTick key={index} x={x(one.minute)} y={y(one.volts_v)} />
        ))}
      </svg>
    </Drawing>
  );
}
