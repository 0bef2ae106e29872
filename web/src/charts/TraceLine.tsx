import { t } from "@lingui/core/macro";
import { scaleLinear } from "@visx/scale";
import { number, volts } from "../format";
import { colour, font } from "../ui/theme";
import { useWidth } from "../ui/useWidth";

const HEIGHT = 120;
const LEFT = 58;
const BOTTOM = 22;

type Props = { points: readonly (readonly [number, number])[]; label: string };

/** Voltage against time: from where to where, drawn on its own scale of at least 20 mV. */
export function TraceLine({ points, label }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>(420);
  if (points.length < 2) return null;
  const [times, values] = [points.map(([t]) => t), points.map(([, v]) => v)];
  const middle = (Math.min(...values) + Math.max(...values)) / 2;
  const half = Math.max(0.01, (Math.max(...values) - Math.min(...values)) / 2);
  const x = scaleLinear<number>({
    domain: [times[0] ?? 0, times.at(-1) ?? 1],
    range: [LEFT, width - 8],
  });
  const y = scaleLinear<number>({
    domain: [middle - half, middle + half],
    range: [HEIGHT - BOTTOM - 6, 12],
  });
  const path = points.map(([t, v], index) => `${index ? "L" : "M"}${x(t).toFixed(1)} ${y(v).toFixed(1)}`).join("");
  const said = t`${label}: from ${volts(values[0] ?? 0, 3)} to ${volts(values.at(-1) ?? 0, 3)} in ${Math.round((times.at(-1) ?? 0) - (times[0] ?? 0))} seconds.`;
  return (
    <div ref={ref}>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        height={HEIGHT}
        width="100%"
        role="img"
        aria-label={said}
        fontFamily={font.numbers}
      >
        {[middle - half, middle + half].map((level) => (
          <g key={level}>
            <line x1={LEFT} x2={width - 8} y1={y(level)} y2={y(level)} stroke={colour.hairline} />
            <text x={LEFT - 6} y={y(level) + 4} textAnchor="end" fontSize={12} fill={colour.soft}>
              {number(level, 3)}
            </text>
          </g>
        ))}
        <path d={path} fill="none" stroke={colour.reading} strokeWidth={2.2} strokeLinejoin="round" />
        <text x={LEFT} y={HEIGHT - 4} fontSize={12} fill={colour.soft}>
          {`${Math.round(times[0] ?? 0)} s`}
        </text>
        <text x={width - 8} y={HEIGHT - 4} textAnchor="end" fontSize={12} fill={colour.soft}>
          {`${Math.round(times.at(-1) ?? 0)} s`}
        </text>
      </svg>
    </div>
  );
}
