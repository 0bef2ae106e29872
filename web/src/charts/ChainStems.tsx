import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { scaleLinear } from "@visx/scale";
import type { Schemas } from "../api/client";
import { number, volts } from "../format";
import { colour } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { Drawing } from "./Drawing";
import { shortened } from "./lines";
import { roundStep, steps } from "./spread";

const HEIGHT = 430;
const TOP = 30;
const BOTTOM = HEIGHT - 92;
const LEFT = 40;
const LETTER_PX = 7.8;
const MARK_PX = 14; // of one group's vote

type Chain = Schemas["ChainOut"];

const said = (chain: Chain) =>
  t`${plural(chain.links.length, { one: "# cell", other: "# cells" })} joined${chain.links.map((link) => `, ${link.group} ${link.whole_v === null ? t`does not count` : volts(link.whole_v, 2)}`).join("")}. Foretold: ${
    chain.foretold.map((one) => `${one.cells}: ${volts(one.open_v, 2)}, ${one.said}`).join("; ") || t`covered`
  }.`;

/** The chain growing: hollow what is foretold for so many cells, solid what was read, beside the volts the load asks for. */
export function ChainStems({ chain }: { chain: Chain }) {
  const [ref, width] = useWidth<HTMLDivElement>(720);
  const sure = chain.foretold.findIndex((one) => one.verdict === "runs") + 1 || chain.foretold.length;
  const columns = Math.max(sure, chain.links.length + 1, ...chain.votes.map((vote) => vote.cells), 4);
  const foretold = chain.foretold.slice(0, columns);
  const wholes = chain.links.flatMap((link) => link.whole_v ?? []);
  const high = Math.max(...foretold.map((one) => one.open_v), ...wholes, chain.full_v ?? 0, 0.5) * 1.07;
  const low = Math.min(0, ...wholes);
  const y = scaleLinear<number>({ domain: [low, high], range: [BOTTOM, TOP] });
  const each = (width - LEFT) / columns;
  const bar = Math.min(44, each * 0.5);
  const step = roundStep(low, high, 0.1, 8);
  const x = (index: number) => LEFT + each * (index + 0.5);
  const named = (group: string, index: number) => (
    <text x={x(index)} y={BOTTOM + 38} textAnchor="middle">
      <title>{group}</title>
      {shortened(group, Math.floor(each / LETTER_PX))}
    </text>
  );
  return (
    <Drawing ref={ref}>
      <svg viewBox={`0 0 ${width} ${HEIGHT}`} height={HEIGHT} role="img" aria-label={said(chain)}>
        {chain.least_v !== null && chain.full_v !== null && (
          <g>
            <rect
              x={LEFT}
              width={width - LEFT}
              y={y(chain.full_v)}
              height={y(chain.least_v) - y(chain.full_v)}
              fill={colour.bench}
            />
            <text x={width} y={y(chain.full_v) - 5} textAnchor="end">
              <Trans>{chain.load_name}: full</Trans>
            </text>
            <text x={width} y={y(chain.least_v) + 16} textAnchor="end">
              <Trans>begins</Trans>
            </text>
          </g>
        )}
        {steps(low, high, step).map((at) => (
          <g key={at}>
            <line x1={LEFT - 8} x2={LEFT - 2} y1={y(at)} y2={y(at)} stroke={colour.soft} />
            <text className="number" x={LEFT - 11} y={y(at) + 4.5} textAnchor="end" fill={colour.soft}>
              {number(at, step < 0.1 ? 2 : 1)}
            </text>
          </g>
        ))}
        {foretold.map((one, index) => (
          <g key={one.cells}>
            <line
              x1={x(index) - bar * 0.75}
              x2={x(index) + bar * 0.75}
              y1={y(one.open_v)}
              y2={y(one.open_v)}
              stroke={colour.account}
              strokeWidth={3}
            />
            <text x={x(index)} y={BOTTOM + 58} textAnchor="middle" fill={colour.account}>
              {one.said}
            </text>
          </g>
        ))}
        {chain.links.map((link, index) => {
          const whole = link.whole_v;
          if (whole === null)
            return (
              <g key={link.id}>
                <text x={x(index)} y={y(0) - 8} textAnchor="middle" fontWeight={700} fill={colour.wrong}>
                  ?
                </text>
                {named(link.group, index)}
              </g>
            );
          const from = whole - (link.added_v ?? whole);
          const [upper, lower] = [Math.min(y(from), y(whole)), Math.max(y(from), y(whole))];
          const takesAway = (link.added_v ?? 0) < 0;
          return (
            <g key={link.id}>
              <rect
                x={x(index) - bar / 2}
                width={bar}
                y={Math.min(y(0), y(whole))}
                height={Math.abs(y(whole) - y(0))}
                fill={colour.readingPale}
                stroke="none"
              />
              <rect
                x={x(index) - bar / 2}
                width={bar}
                y={upper}
                height={Math.max(2, lower - upper)}
                fill={takesAway ? colour.white : colour.reading}
                stroke={colour.reading}
                strokeDasharray={takesAway ? "3 3" : undefined}
              />
              <text className="number" x={x(index)} y={upper - 8} textAnchor="middle" fontWeight={700}>
                {number(whole, 2)}
              </text>
              {named(link.group, index)}
            </g>
          );
        })}
        {Array.from({ length: columns }, (_, index) => (
          <text
            className="number"
            key={index}
            x={x(index)}
            y={BOTTOM + 20}
            textAnchor="middle"
            fontWeight={index + 1 === chain.lit_with ? 700 : undefined}
          >
            {index + 1}
          </text>
        ))}
        {chain.votes.map((vote) => (
          <g key={vote.cells}>
            <text x={x(vote.cells - 1)} y={BOTTOM + 80} textAnchor="middle" fill={colour.prediction}>
              {vote.groups.length * MARK_PX > each ? `◆ × ${vote.groups.length}` : "◆".repeat(vote.groups.length)}
            </text>
          </g>
        ))}
      </svg>
    </Drawing>
  );
}
