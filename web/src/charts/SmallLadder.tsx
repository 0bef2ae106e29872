import { t } from "@lingui/core/macro";
import { scaleLinear } from "@visx/scale";
import type { Schemas } from "../api/client";
import { number } from "../format";
import { useNames } from "../lab/useNames";
import { colour } from "../ui/theme";

const WIDTH = 190;
const HEIGHT = 34;

/** A class's ladder lying on its side, drawn small: the table's marks above the stem, the class's below, each pair joined. */
export function SmallLadder({ glance }: { glance: Schemas["GlanceOut"] }) {
  const { plate, liquid } = useNames();
  const values = glance.rungs.flatMap((rung) => [rung.class_v, rung.table_v ?? rung.class_v]);
  const x = scaleLinear<number>({ domain: [Math.min(...values), Math.max(...values)], range: [6, WIDTH - 6] });
  const said = glance.rungs.map((rung) => `${plate(rung.electrode)} ${number(rung.class_v, 2, true)}`).join(", ");
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={t`Its ladder in ${liquid(glance.electrolyte)}, volts: ${said}`}
    >
      <line x1={2} x2={WIDTH - 2} y1={HEIGHT / 2} y2={HEIGHT / 2} stroke={colour.hairline} strokeWidth={2} />
      {glance.rungs.map((rung) => (
        <g key={rung.electrode}>
          {rung.table_v !== null && (
            <>
              <line x1={x(rung.table_v)} x2={x(rung.class_v)} y1={8} y2={HEIGHT - 8} stroke={colour.soft} />
              <circle cx={x(rung.table_v)} cy={8} r={3.4} fill={colour.page} stroke={colour.table} strokeWidth={1.6} />
            </>
          )}
          <rect x={x(rung.class_v) - 3.2} y={HEIGHT - 11} width={6.4} height={6.4} fill={colour.reading} />
        </g>
      ))}
    </svg>
  );
}
