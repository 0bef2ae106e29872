import { t } from "@lingui/core/macro";
import { scaleLinear } from "@visx/scale";
import type { Schemas } from "../api/client";
import { current, number, volts } from "../format";
import { colour } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { ReadingMark } from "../ui/voices";
import { Drawing } from "./Drawing";
import { Outside } from "./Outside";
import { roundStep, steps } from "./spread";
import { packWord } from "../ui/packWords";

const HEIGHT = 300;
const LEFT = 42;
const RIGHT = 10;
const TOP = 46;
const BOTTOM = HEIGHT - 40;

/** A logger's file has more samples than marks can show; then they are a line. */
const MOST_MARKS = 80;

type Run = Schemas["RunOut"];

/** The unit of time that suits a run: seconds, minutes, hours or days. */
function unitOf(seconds: number): [number, string] {
  if (seconds < 180) return [1, "s"];
  if (seconds < 10_800) return [60, "min"];
  return seconds < 172_800 ? [3600, "h"] : [86_400, t`days`];
}

const doneIn = (run: Run) =>
  run.events.map((event) => t`${packWord(event.what)} after ${Math.round(event.t_s)} seconds`).join(", ") || t`nothing`;

/** Whether there is something to draw: volts or milliamps at two times or more. */
export const isDrawn = (run: Run) => Math.max(run.volts.length, run.current.length) > 1;

/** What is drawn against time: volts with the model's line, or milliamps. */
type Series = { what: string; said: string; points: Run["volts"]; model: Run["model"]; least: number };

/** Volts over time, and milliamps where they were measured, too. */
export function RunChart({ run }: { run: Run }) {
  const last = Math.max(
    1,
    ...[...run.volts, ...run.current].map((point) => point.t_s),
    ...run.stretches.map((stretch) => stretch.to_s),
  );
  const ends = (points: Run["volts"]) => [points[0]?.value ?? 0, points.at(-1)?.value ?? 0] as const;
  const milliamps = run.current.map(({ t_s, value }) => ({ t_s, value: 1000 * value }));
  const [[v0, v1], [i0, i1]] = [ends(run.volts), ends(run.current)];
  const done = doneIn(run);
  return (
    <>
      {(run.volts.length > 0 || run.current.length === 0) && (
        <OverTime
          run={run}
          last={last}
          series={{
            what: t`volts`,
            said: t`Volts against time: ${run.volts.length} numbers, from ${volts(v0, 2)} to ${volts(v1, 2)}. Done: ${done}.`,
            points: run.volts,
            model: run.model,
            least: 0.1,
          }}
        />
      )}
      {milliamps.length > 0 && (
        <OverTime
          run={run}
          last={last}
          series={{
            what: t`milliamps`,
            said: t`Milliamps against time: ${milliamps.length} numbers, from ${current(i0)} to ${current(i1)}. Done: ${done}.`,
            points: milliamps,
            model: [],
            least: 0.001,
          }}
        />
      )}
      <Outside n={run.left_out} />
    </>
  );
}

type Props = { run: Run; last: number; series: Series };

/** What a group typed over time as squares, the model's line beside, and shaded where something was joined. */
function OverTime({ run, last, series }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>(360);
  const [unit, name] = unitOf(last);
  const values = [...series.points, ...series.model].map((point) => point.value);
  const high = Math.max(...values, series.least) * 1.06;
  const low = Math.min(0, ...values);
  const x = scaleLinear<number>({ domain: [0, last / unit], range: [LEFT, width - RIGHT] });
  const y = scaleLinear<number>({ domain: [low, high], range: [BOTTOM, TOP] });
  const pathOf = (points: Run["volts"]) =>
    points
      .map((point, index) => `${index ? "L" : "M"}${x(point.t_s / unit).toFixed(1)} ${y(point.value).toFixed(1)}`)
      .join("");
  const xStep = roundStep(0, last / unit, 1, width < 400 ? 5 : 9);
  const yStep = roundStep(low, high, series.least, 7);
  return (
    <Drawing ref={ref}>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        preserveAspectRatio="xMinYMin meet"
        height={HEIGHT}
        role="img"
        aria-label={series.said}
      >
        {run.stretches
          .filter((stretch) => stretch.joined)
          .map((stretch) => (
            <rect
              key={stretch.from_s}
              x={x(stretch.from_s / unit)}
              width={Math.max(2, x(stretch.to_s / unit) - x(stretch.from_s / unit))}
              y={TOP}
              height={BOTTOM - TOP}
              fill={colour.margin}
            />
          ))}
        {steps(low, high, yStep).map((at) => (
          <g key={at}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(at)} y2={y(at)} stroke={colour.bench} />
            <text className="number" x={LEFT - 6} y={y(at) + 4} textAnchor="end" fill={colour.soft}>
              {number(at, Math.max(1, Math.ceil(-Math.log10(yStep))))}
            </text>
          </g>
        ))}
        {steps(0, last / unit, xStep).map((at) => (
          <text key={at} className="number" x={x(at)} y={BOTTOM + 18} textAnchor="middle" fill={colour.soft}>
            {number(at, 0)}
          </text>
        ))}
        <text x={width - RIGHT} y={HEIGHT - 4} textAnchor="end" fill={colour.soft}>
          {name}
        </text>
        <text x={4} y={14} fill={colour.soft}>
          {series.what}
        </text>
        {run.events.map((event, index) => (
          <g key={`${event.t_s} ${event.what}`}>
            <line x1={x(event.t_s / unit)} x2={x(event.t_s / unit)} y1={TOP} y2={BOTTOM} stroke={colour.marginLine} />
            <text
              x={Math.min(x(event.t_s / unit) + 4, width - 62)}
              y={TOP - 6 - 15 * (index % 2)}
              fontWeight={600}
              style={{ fontSize: 12 }}
            >
              {packWord(event.what)}
            </text>
          </g>
        ))}
        <path d={pathOf(series.model)} fill="none" stroke={colour.account} strokeWidth={2.2} />
        {series.points.length > MOST_MARKS ? (
          <path d={pathOf(series.points)} fill="none" stroke={colour.reading} strokeWidth={2.2} />
        ) : (
          series.points.map((point) => <ReadingMark key={point.t_s} x={x(point.t_s / unit)} y={y(point.value)} />)
        )}
      </svg>
    </Drawing>
  );
}
