import { plural, t } from "@lingui/core/macro";
import { scaleLinear } from "@visx/scale";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { number } from "../format";
import { colour, font, phone } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { roundStep, steps } from "./spread";

const ROW = 47;
const SLIM_ROW = 66;
const LETTER_PX = { name: 8, detail: 6.8 };
const LINE = 18;
const TOP = 26;
const TAIL = 118;

const Wrap = styled.div`
  display: grid;
  grid-template-columns: minmax(9rem, 15rem) minmax(0, 1fr);
  ${phone} {
    grid-template-columns: 8.6rem minmax(0, 1fr);
  }
  svg {
    display: block;
    overflow: visible;
  }
  svg text {
    font-family: ${font.numbers};
    font-size: 15px;
  }
  svg .step {
    font-size: 13px;
  }
`;

const Names = styled.ol<{ $row: number }>`
  padding-top: ${TOP}px;
  li {
    display: grid;
    align-content: center;
    height: ${({ $row }) => $row}px;
    border-bottom: 1px solid ${colour.bench};
  }
`;

const Name = styled(Button)`
  padding: 0 0.4rem 0 0;
  border: 0;
  background: none;
  text-align: left;
  line-height: 1.15;
  cursor: pointer;
  &[aria-expanded="true"] {
    text-decoration: underline;
    text-underline-offset: 0.2em;
  }
  strong {
    display: block;
    font-size: var(--words, 0.95rem);
  }
  small {
    color: ${colour.soft};
    font-size: var(--small, 0.8rem);
  }
`;

const Fixed = styled.div`
  line-height: 1.15;
  strong {
    display: block;
    font-size: var(--words, 0.95rem);
  }
  small {
    color: ${colour.soft};
    font-size: var(--small, 0.8rem);
  }
`;

type Bar = {
  key: string;
  name: string;
  detail: string;
  from: number;
  to: number;
  kind: "start" | "cause" | "end";
  big: boolean;
};

/** The steps from the table to the meter as bars on one scale, in the order of the working. */
function barsOf(found: Schemas["ExplainOut"]): Bar[] {
  const groups = t`${plural(found.n, { one: "# reading", other: "# readings" })}, ${plural(found.groups, { one: "# group", other: "# groups" })}`;
  const difference = found.level === "first" ? t`of the two plates` : t`E°(+) − E°(−), signs as in the table`;
  const start = found.by_table ? difference : found.start;
  return [
    { key: "start", name: t`Table difference`, detail: start, from: 0, to: found.start_v, kind: "start", big: false },
    ...found.steps.map((step) => ({
      key: step.code,
      name: step.name,
      detail: found.level === "first" ? "" : `± ${number(step.u_v, 2)} V`,
      from: step.from_v,
      to: step.to_v,
      kind: "cause" as const,
      big: step.big,
    })),
    { key: "end", name: t`Class mean`, detail: groups, from: 0, to: found.measured_v, kind: "end", big: false },
  ];
}

const said = (found: Schemas["ExplainOut"]) =>
  t`From ${number(found.start_v, 2)} volts (${found.start}) to ${number(found.measured_v, 2)} volts measured: ${found.causes
    .map((cause) => `${cause.name} ${number(cause.volts_v, 3, true)}`)
    .join("; ")}.`;

type Props = { found: Schemas["ExplainOut"]; open: string | null; press: (key: string) => void };

/** Where the volts went: each cause a bar from where the last one ended; pressing its name shows the working. */
export function GapBars({ found, open, press }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>(420);
  const [namesRef, namesWidth] = useWidth<HTMLOListElement>(200);
  const bars = barsOf(found);
  const values = bars.flatMap(({ from, to }) => [from, to]);
  const low = Math.floor((Math.min(...values) - 0.02) * 4) / 4;
  const high = Math.ceil((Math.max(...values) + 0.02) * 4) / 4;
  const x = scaleLinear<number>({ domain: [low, high], range: [14, Math.max(80, width - (width < 300 ? 74 : TAIL))] });
  const slim = width < 300;
  const linesHigh = (text: string, letter: number) => (text ? Math.ceil((text.length * letter) / namesWidth) : 0);
  const most = Math.max(
    ...bars.map((bar) => linesHigh(bar.name, LETTER_PX.name) + linesHigh(bar.detail, LETTER_PX.detail)),
  );
  const row = Math.max(slim ? SLIM_ROW : ROW, LINE * most + 8);
  const step = roundStep(low, high, 0.25, slim ? 2 : width < 360 ? 4 : 7);
  const height = TOP + bars.length * row;
  const fill = { start: "#d3e2f2", cause: colour.account, end: colour.readingPale } as const;
  return (
    <Wrap>
      <Names $row={row} ref={namesRef}>
        {bars.map((bar) => (
          <li key={bar.key}>
            {bar.kind === "cause" ? (
              <Name onPress={() => press(bar.key)} aria-expanded={open === bar.key}>
                <strong>{bar.name}</strong>
                <small>{bar.detail}</small>
              </Name>
            ) : (
              <Fixed>
                <strong>{bar.name}</strong>
                <small>{bar.detail}</small>
              </Fixed>
            )}
          </li>
        ))}
      </Names>
      <div ref={ref}>
        <svg
          viewBox={`0 0 ${width} ${height}`}
          preserveAspectRatio="xMinYMin meet"
          width="100%"
          height={height}
          role="img"
          aria-label={said(found)}
        >
          {steps(low, high, step).map((at) => (
            <g key={at}>
              <line x1={x(at)} x2={x(at)} y1={TOP - 6} y2={height} stroke={at === 0 ? colour.soft : colour.bench} />
              <text x={x(at)} y={13} textAnchor="middle" fill={colour.soft} className="step">
                {number(at, step < 0.5 ? 2 : 1)}
              </text>
            </g>
          ))}
          {bars.map((bar, index) => {
            const y = TOP + index * row + row / 2;
            const [left, right] = [Math.min(x(bar.from), x(bar.to)), Math.max(x(bar.from), x(bar.to))];
            const value = bar.kind === "cause" ? bar.to - bar.from : bar.to;
            const mark = bar.kind === "start" ? colour.table : bar.kind === "end" ? colour.reading : colour.account;
            return (
              <g key={bar.key}>
                <line x1={0} x2={width} y1={y + row / 2} y2={y + row / 2} stroke={colour.bench} />
                <rect
                  x={left}
                  y={y - 10}
                  width={Math.max(2.5, right - left)}
                  height={20}
                  fill={bar.big ? colour.wrong : fill[bar.kind]}
                />
                {bar.kind !== "cause" && <rect x={x(bar.to) - 2.5} y={y - 15} width={5} height={30} fill={mark} />}
                {bar.kind === "cause" && index + 1 < bars.length && (
                  <line x1={x(bar.to)} x2={x(bar.to)} y1={y + 10} y2={y + row - 10} stroke={colour.hairline} />
                )}
                <text x={right + 6} y={y + 5} fontWeight={600}>
                  {number(value, bar.kind === "cause" && found.level !== "first" ? 3 : 2, bar.kind === "cause")}
                </text>
              </g>
            );
          })}
        </svg>
      </div>
    </Wrap>
  );
}
