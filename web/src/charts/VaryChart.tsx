import { t } from "@lingui/core/macro";
import { scaleLinear, scaleLog } from "@visx/scale";
import type { Schemas } from "../api/client";
import { number } from "../format";
import { colour } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { Drawing } from "./Drawing";
import { roundStep, steps } from "./spread";

const DESK = 300;
const WALL = 496;
const LEFT = 52;
const RIGHT = 16;
const TOP = 16;
const FOOT = 48;
const TICK = 7;

type Changed = Schemas["ChangedOut"];
type Point = { at: number; value: number };
/** How the variable is laid out: as it is, by its logarithm, or one over it. */
export type Scale = "plain" | "log" | "inverse";

/** From the variable to the width, and the values at which it is marked. */
function across(scale: Scale, [least, most]: [number, number], width: number, step: number) {
  const range = [LEFT, width - RIGHT];
  if (scale === "log") {
    const made = scaleLog<number>({ domain: [least / 1.15, most * 1.15], range });
    return { x: (at: number) => made(at), marks: made.ticks(4).filter((at) => /^[125]/.test(at.toExponential())) };
  }
  if (scale === "inverse") {
    const pad = (1 / least - 1 / most) * 0.06 || 1;
    const made = scaleLinear<number>({ domain: [1 / most - pad, 1 / least + pad], range });
    const halves = [0, 1, 2, 3, 4, 5].map((n) => most / 2 ** n).filter((at) => at >= least);
    return { x: (at: number) => made(1 / at), marks: halves };
  }
  const pad = (most - least) * 0.06 || 1;
  const made = scaleLinear<number>({ domain: [least - pad, most + pad], range });
  return { x: (at: number) => made(at), marks: steps(least, most, step) };
}

/** Two standard uncertainties of the model around its line, as far as it states them. */
const edge = (model: Changed["model"], sign: number): Point[] =>
  model.filter((one) => one.u !== null).map((one) => ({ at: one.at, value: one.value + sign * (one.u ?? 0) }));

const said = (one: Changed) =>
  t`${one.short}, ${one.quantity} against ${one.name}: ${one.ticks.length} values of groups. ${one.notes
    .map((note) => `${note.title}. ${note.text}`)
    .join(" ")}`;

/** Each group's values against what was changed, joined group by group; the class's line, and the model with its band. */
export function VaryChart({ one, scale = "plain", wall = false }: { one: Changed; scale?: Scale; wall?: boolean }) {
  const height = wall ? WALL : DESK;
  const bottom = height - FOOT;
  const [ref, width] = useWidth<HTMLDivElement>(420);
  const scaled = one.quantity === "volts" ? 1 : 1e3;
  const values = [...one.ticks, ...one.line, ...one.model].map((point) => point.value * scaled);
  const band = [...edge(one.model, 1), ...edge(one.model, -1)].map((point) => point.value * scaled);
  const ends = one.ticks.map((tick) => tick.at);
  const [least, most] = [Math.min(...ends), Math.max(...ends)];
  const low = one.quantity === "volts" ? Math.min(...values, ...band) : 0;
  const high = Math.max(...values, ...band);
  const room = (high - low) * 0.08 || 0.1;
  const y = scaleLinear<number>({ domain: [low - (low === 0 ? 0 : room), high + room], range: [bottom, TOP] });
  const worded = one.words.length > 0;
  const xStep = worded ? 1 : roundStep(least, most, 0.1, width < 420 ? 4 : 8);
  const { x, marks } = across(least > 0 ? scale : "plain", [least, most], width, xStep);
  const path = (points: Point[]) =>
    points.map((p, index) => `${index ? "L" : "M"}${x(p.at).toFixed(1)} ${y(p.value * scaled).toFixed(1)}`).join("");
  const groups = [...new Set(one.ticks.map((tick) => tick.group))];
  const yStep = roundStep(low, high, one.quantity === "volts" ? 0.02 : 0.01, 6);
  return (
    <Drawing ref={ref}>
      <svg viewBox={`0 0 ${width} ${height}`} height={height} role="img" aria-label={said(one)}>
        {steps(low, high, yStep).map((at) => (
          <g key={at}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(at)} y2={y(at)} stroke={colour.hairline} />
            <text className="number" x={LEFT - 6} y={y(at) + 4} textAnchor="end" fill={colour.soft}>
              {number(at, yStep < 0.1 ? 2 : yStep < 1 ? 1 : 0)}
            </text>
          </g>
        ))}
        {marks.map((at) => (
          <text key={at} className="number" x={x(at)} y={bottom + 18} textAnchor="middle" fill={colour.soft}>
            {worded ? one.words[at] : number(at, Number.isInteger(at) ? 0 : at < 1 ? 2 : 1)}
          </text>
        ))}
        <text x={width - RIGHT} y={bottom + 38} textAnchor="end">
          {one.unit ? `${one.name}, ${one.unit}` : one.name}
        </text>
        <text x={LEFT} y={TOP - 2}>
          {one.quantity === "volts" ? t`volts` : t`milliamps, shorted`}
        </text>
        {edge(one.model, 1).length > 1 && (
          <path
            d={`${path(edge(one.model, 1))}${path([...edge(one.model, -1)].reverse()).replace("M", "L")}Z`}
            fill="#dbe6de"
            opacity={0.6}
          />
        )}
        <path d={path(one.model)} fill="none" stroke={colour.account} strokeWidth={2.2} />
        {groups.map((group) => {
          const own = one.ticks.filter((tick) => tick.group === group).sort((a, b) => a.at - b.at);
          return (
            <g key={group}>
              <path d={path(own)} fill="none" stroke={colour.readingPale} strokeWidth={1.5} />
              {own.map((tick) => (
                <line
                  key={tick.at}
                  x1={x(tick.at) - TICK}
                  x2={x(tick.at) + TICK}
                  y1={y(tick.value * scaled)}
                  y2={y(tick.value * scaled)}
                  stroke={colour.reading}
                  strokeWidth={2}
                >
                  <title>{`${group}: ${number(tick.value * scaled, 3)}`}</title>
                </line>
              ))}
            </g>
          );
        })}
        <path d={path(one.line)} fill="none" stroke={colour.ink} strokeWidth={2} strokeDasharray="6 4" />
      </svg>
    </Drawing>
  );
}
