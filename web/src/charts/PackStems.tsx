import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { scaleLinear } from "@visx/scale";
import type { Schemas } from "../api/client";
import { number, volts } from "../format";
import { colour } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { Drawing } from "./Drawing";
import { linesOf } from "./lines";
import { roundStep, steps } from "./spread";

const HEIGHT = 470;
const TOP = 34;
const BOTTOM = HEIGHT - 46;
const LINE = 17;
const LETTER_PX = 8.2; // of a bold letter
const STEM = 22; // half of it: a value such as 1.57 stands inside

type Pack = Schemas["PackOut"];
type Stem = { name: string; detail: string; x: number; total: number; cells: number[]; measured: boolean };

const said = (pack: Pack) =>
  t`Cells standing on one another: ${volts(pack.open_v, 2)} with nothing joined (${pack.cells
    .map((cell) => number(cell.open_v, 2))
    .join(", ")}), ${volts(pack.volts_v, 2)} with the ${pack.load_name} on (${pack.cells
    .map((cell) => number(cell.volts_v, 2))
    .join(", ")}).`;

/** One row of the pack, each cell on the one before it, with nothing joined and with the load on; beside the load's band. */
export function PackStems({ pack, perRow }: { pack: Pack; perRow: number }) {
  const [ref, width] = useWidth<HTMLDivElement>(340);
  const row = pack.cells.slice(0, perRow);
  const measured = row.every((cell) => cell.measured);
  const open = row.map((cell) => cell.open_v);
  const loaded = row.map((cell) => cell.volts_v);
  const most = Math.max(pack.open_v, pack.full_v ?? 0, sums(open), 0.5);
  const least = Math.min(0, ...partial(loaded), ...partial(open));
  const y = scaleLinear<number>({ domain: [least, most * 1.06], range: [BOTTOM, TOP] });
  const step = roundStep(least, most, 0.1, 8);
  const left = 40;
  const stems: Stem[] = [
    {
      name: t`nothing joined`,
      detail: measured ? t`class, measured` : t`worked out`,
      x: left + (width - left) * 0.36,
      total: pack.open_v,
      cells: open,
      measured,
    },
    {
      name: t`with the ${pack.load_name}`,
      detail: t`worked out`,
      x: left + (width - left) * 0.8,
      total: pack.volts_v,
      cells: loaded,
      measured: false,
    },
  ];
  const names = (stem: Stem) => linesOf(stem.name, Math.floor((0.38 * (width - left)) / LETTER_PX));
  const height = HEIGHT + LINE * (Math.max(...stems.map((stem) => names(stem).length)) - 1);
  return (
    <Drawing ref={ref}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        preserveAspectRatio="xMinYMin meet"
        height={height}
        role="img"
        aria-label={said(pack)}
      >
        {pack.least_v !== null && pack.full_v !== null && (
          <g>
            <rect
              x={left}
              width={width - left}
              y={y(pack.full_v)}
              height={y(pack.least_v) - y(pack.full_v)}
              fill={colour.bench}
            />
            {[pack.full_v, pack.least_v].map((at) => (
              <line key={at} x1={left} x2={width} y1={y(at)} y2={y(at)} stroke={colour.soft} strokeDasharray="2 4" />
            ))}
            <text x={left + 4} y={y(pack.full_v) - 5} style={{ fontSize: 13 }}>
              <Trans>full</Trans>
            </text>
            <text x={left + 4} y={y(pack.least_v) + 15} style={{ fontSize: 13 }}>
              <Trans>begins</Trans>
            </text>
          </g>
        )}
        {steps(least, most, step).map((at) => (
          <g key={at}>
            <line x1={left - 10} x2={left - 2} y1={y(at)} y2={y(at)} stroke={colour.soft} />
            <text className="number" x={left - 14} y={y(at) + 4.5} textAnchor="end" fill={colour.soft}>
              {number(at, step < 0.1 ? 2 : 1)}
            </text>
          </g>
        ))}
        {stems.map((stem) => (
          <g key={stem.name}>
            {stem.cells.map((value, index) => {
              const from = sums(stem.cells.slice(0, index));
              const [high, low] = [Math.min(y(from), y(from + value)), Math.max(y(from), y(from + value))];
              const backwards = value < 0;
              return (
                <g key={index}>
                  <rect
                    x={stem.x - STEM + (backwards ? 6 : 0)}
                    width={2 * STEM}
                    y={high + 0.5}
                    height={Math.max(2, low - high - 1)}
                    rx={Math.min(6, (low - high) / 2)}
                    fill={backwards ? colour.white : stem.measured ? colour.readingPale : "#dbe6de"}
                    stroke={backwards ? colour.wrong : colour.ink}
                    strokeDasharray={backwards ? "3 3" : undefined}
                  />
                  {low - high > 17 && (
                    <text
                      className="number"
                      x={stem.x + (backwards ? 6 : 0)}
                      y={(high + low) / 2 + 4.5}
                      textAnchor="middle"
                    >
                      {number(value, 2)}
                    </text>
                  )}
                </g>
              );
            })}
            <text
              className="number"
              x={stem.x}
              y={y(Math.max(stem.total, 0)) - 10}
              textAnchor="middle"
              fontWeight={700}
              stroke={colour.white}
              strokeWidth={4}
              style={{ paintOrder: "stroke" }}
            >
              {volts(stem.total, 2)}
            </text>
            <rect
              x={stem.x - 7}
              width={14}
              y={y(stem.total) - 3}
              height={6}
              fill={stem.measured ? colour.reading : colour.account}
            />
            {names(stem).map((words, at) => (
              <text key={words} x={stem.x} y={BOTTOM + 22 + LINE * at} textAnchor="middle" fontWeight={700}>
                {words}
              </text>
            ))}
            <text
              x={stem.x}
              y={BOTTOM + 22 + LINE * names(stem).length}
              textAnchor="middle"
              fill={colour.soft}
              style={{ fontSize: 13 }}
            >
              {stem.detail}
            </text>
          </g>
        ))}
      </svg>
    </Drawing>
  );
}

const sums = (values: number[]) => values.reduce((total, value) => total + value, 0);
const partial = (values: number[]) => values.map((_, index) => sums(values.slice(0, index + 1)));
