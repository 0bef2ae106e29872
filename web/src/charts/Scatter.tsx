import { t } from "@lingui/core/macro";
import { scaleLinear } from "@visx/scale";
import styled from "styled-components";
import { number } from "../format";
import { colour, font } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { ReadingMark } from "../ui/voices";
import { shortened } from "./lines";
import { roundStep, spreadApart, steps } from "./spread";

const HEIGHT = 270;
const LEFT = 46;
const LETTER_PX = 7.2;
const RIGHT = 14;
const TOP = 14;
const BOTTOM = HEIGHT - 44;

const Drawing = styled.div`
  svg {
    display: block;
    width: 100%;
    overflow: visible;
  }
  text {
    font-size: 13px;
  }
  .step {
    fill: ${colour.soft};
    font-family: ${font.numbers};
  }
`;

export type Point = { key: string; label: string; x: number; y: number };
type Line = { slope: number; intercept: number; low: number; high: number } | null;
type Props = { points: Point[]; line: Line; xName: string; says: string; tick?: (x: number) => string };

/** Values against one property of the liquids, with the fitted line where there are enough; dashed if it may be none. */
export function Scatter({ points, line, xName, says, tick = (x) => number(x, 1) }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>(420);
  const xs = points.map((point) => point.x);
  const ys = points.map((point) => point.y);
  const pad = Math.max(0.2, 0.12 * (Math.max(...xs) - Math.min(...xs)));
  const [x0, x1] = [Math.min(...xs) - pad, Math.max(...xs) + pad];
  const room = Math.max(0.05, 0.2 * (Math.max(...ys) - Math.min(...ys)));
  const [y0, y1] = [Math.min(...ys) - room, Math.max(...ys) + room];
  const x = scaleLinear<number>({ domain: [x0, x1], range: [LEFT, Math.max(LEFT + 60, width - RIGHT)] });
  const y = scaleLinear<number>({ domain: [y0, y1], range: [BOTTOM, TOP] });
  const yStep = roundStep(y0, y1, 0.01, 5);
  const xStep = roundStep(x0, x1, 0.5, 6);
  const places = spreadApart(
    points.map((point) => y(point.y)),
    17,
    TOP,
    BOTTOM,
  );
  const sure = line !== null && (line.low > 0 || line.high < 0);
  const list = points.map((point) => `${point.label}: ${tick(point.x)}, ${number(point.y, 3)} V`).join("; ");
  return (
    <Drawing ref={ref}>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        preserveAspectRatio="xMinYMin meet"
        height={HEIGHT}
        role="img"
        aria-label={t`Volts against ${xName}. ${list}. ${says}`}
      >
        {steps(y0, y1, yStep).map((at) => (
          <g key={at}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(at)} y2={y(at)} stroke={colour.bench} />
            <text className="step" x={LEFT - 6} y={y(at) + 4} textAnchor="end">
              {number(at, yStep < 0.1 ? 2 : 1)}
            </text>
          </g>
        ))}
        {steps(x0, x1, xStep).map((at) => (
          <text key={at} className="step" x={x(at)} y={BOTTOM + 18} textAnchor="middle">
            {tick(at)}
          </text>
        ))}
        <text x={(LEFT + width - RIGHT) / 2} y={HEIGHT - 6} textAnchor="middle" fill={colour.soft}>
          {xName}
        </text>
        {line && (
          <line
            x1={x(x0)}
            x2={x(x1)}
            y1={y(line.intercept + line.slope * x0)}
            y2={y(line.intercept + line.slope * x1)}
            stroke={colour.reading}
            strokeWidth={1.6}
            strokeDasharray={sure ? undefined : "3 5"}
          />
        )}
        {points.map((point, index) => {
          const leftwards = x(point.x) > width * 0.6;
          return (
            <g key={point.key}>
              <ReadingMark x={x(point.x)} y={y(point.y)} />
              <text
                x={x(point.x) + (leftwards ? -11 : 11)}
                y={(places[index] ?? 0) + 4}
                textAnchor={leftwards ? "end" : "start"}
              >
                <title>{point.label}</title>
                {shortened(
                  point.label,
                  Math.floor((leftwards ? x(point.x) - LEFT : width - x(point.x)) / LETTER_PX) - 1,
                )}
              </text>
            </g>
          );
        })}
      </svg>
    </Drawing>
  );
}
