import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { scaleLinear, scaleLog } from "@visx/scale";
import type { Schemas } from "../api/client";
import { number, volts } from "../format";
import { colour } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { ReadingMark } from "../ui/voices";
import { Drawing } from "./Drawing";
import { roundStep, steps } from "./spread";

const HEIGHT = 360;
const LEFT = 58;
const RIGHT = 12;
const TOP = 12;
const BOTTOM = HEIGHT - 46;
const LEAST_A = 1e-6;
const DECADES = [1e-6, 1e-5, 1e-4, 1e-3, 1e-2, 1e-1];

const decade = (amps: number) =>
  amps >= 1e-3 ? `${number(1e3 * amps, 0)} mA` : amps >= 1e-4 ? t`0.1 mA` : `${number(1e6 * amps, 0)} µA`;

type Pack = Schemas["PackOut"];

const said = (pack: Pack) =>
  t`Current against volts, on a scale of tens. The pack gives less current at more volts, the ${pack.load_name} takes more. They meet at ${volts(
    pack.volts_v,
    2,
  )} and ${pack.amps}. ${pack.seen.length} measurements of the class are marked.`;

/** What the pack can give and what the load takes, against the voltage across both; where they meet is where it works. */
export function MeetingCurve({ pack }: { pack: Pack }) {
  const [ref, width] = useWidth<HTMLDivElement>(360);
  const { curve } = pack;
  const mostV = Math.max(curve.at(-1)?.volts_v ?? 1, 0.1);
  const highest = Math.max(...curve.map((one) => one.high_a), ...pack.seen.map((one) => one.current_a), 1e-4);
  const mostA = DECADES.find((at) => at >= highest) ?? 1;
  const x = scaleLinear<number>({ domain: [0, mostV * 1.03], range: [LEFT, width - RIGHT] });
  const y = scaleLog<number>({ domain: [LEAST_A, mostA], range: [BOTTOM, TOP], clamp: true });
  const line = (points: [number, number][]) =>
    points
      .map(([v, a], index) => `${index ? "L" : "M"}${x(v).toFixed(1)} ${y(Math.max(a, LEAST_A)).toFixed(1)}`)
      .join("");
  const band =
    line(curve.map((one) => [one.volts_v, one.high_a])) +
    line([...curve].reverse().map((one) => [one.volts_v, one.low_a])).replace("M", "L") +
    "Z";
  const takes = curve.filter((one) => one.takes_a > LEAST_A && one.takes_a <= mostA);
  const step = roundStep(0, mostV, 0.1, width < 330 ? 4 : 6);
  const meets = { x: x(pack.volts_v), y: y(Math.max(pack.current_a, LEAST_A)) };
  const leftwards = meets.x > width * 0.55;
  return (
    <Drawing ref={ref}>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        preserveAspectRatio="xMinYMin meet"
        height={HEIGHT}
        role="img"
        aria-label={said(pack)}
      >
        {DECADES.filter((at) => at <= mostA).map((at) => (
          <g key={at}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(at)} y2={y(at)} stroke={colour.bench} />
            <text className="number" x={LEFT - 6} y={y(at) + 4} textAnchor="end" fill={colour.soft}>
              {decade(at)}
            </text>
          </g>
        ))}
        {steps(0, mostV, step).map((at) => (
          <g key={at}>
            <line x1={x(at)} x2={x(at)} y1={TOP} y2={BOTTOM} stroke={colour.bench} />
            <text className="number" x={x(at)} y={BOTTOM + 18} textAnchor="middle" fill={colour.soft}>
              {number(at, 1)}
            </text>
          </g>
        ))}
        <text x={width - RIGHT} y={HEIGHT - 8} textAnchor="end" fill={colour.soft}>
          <Trans>volts across the {pack.load_name}</Trans>
        </text>
        <path d={band} fill={colour.account} opacity={0.16} />
        <path
          d={line(curve.map((one) => [one.volts_v, one.gives_a]))}
          fill="none"
          stroke={colour.account}
          strokeWidth={2.6}
        />
        <path
          d={line(takes.map((take) => [take.volts_v, take.takes_a]))}
          fill="none"
          stroke={colour.ink}
          strokeWidth={2.2}
          strokeDasharray="7 5"
        />
        {pack.seen.map((one) => (
          <g key={`${one.volts_v} ${one.current_a}`}>
            <title>{one.words}</title>
            <ReadingMark x={x(one.volts_v)} y={y(Math.max(one.current_a, LEAST_A))} />
          </g>
        ))}
        <circle cx={meets.x} cy={meets.y} r={9} fill="none" stroke={colour.ink} strokeWidth={2.4} />
        <text
          className="number halo"
          x={meets.x + (leftwards ? -15 : 15)}
          y={meets.y - 8}
          textAnchor={leftwards ? "end" : "start"}
          fontWeight={700}
        >
          {volts(pack.volts_v, 2)}, {pack.amps}
        </text>
      </svg>
    </Drawing>
  );
}
