import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "../api/client";
import { colour, font } from "../ui/theme";

type Display = Schemas["DisplayOut"];
const ARC = { cx: 150, cy: 150, r: 110 };
const END = (40 * Math.PI) / 180;

/** A place on the arc of a needle meter: 0 left, 1 right. */
function at(part: number, r: number): [number, number] {
  const angle = Math.PI - END - part * (Math.PI - 2 * END);
  return [ARC.cx + r * Math.cos(angle), ARC.cy - r * Math.sin(angle)];
}

/** A meter to be read: digits with the dial under them, or a needle over its scale. The picture says no number in words. */
export function MeterFace({ display }: { display: Display }) {
  const dial = display.unit === "mV" ? `${display.range_v * 1000} mV` : `${display.range_v} V`;
  const { needle } = display;
  return (
    <svg viewBox="0 0 300 210" width="300" height="210" role="img" aria-label={t`A meter, its dial at ${dial}`}>
      <rect x={4} y={4} width={292} height={202} rx={14} fill={colour.page} stroke={colour.ink} strokeWidth={2.5} />
      {needle === null ? (
        <>
          <rect x={40} y={34} width={220} height={76} rx={8} fill={colour.bench} stroke={colour.hairline} />
          <text x={246} y={88} textAnchor="end" fontFamily={font.numbers} fontSize={46} fontWeight={700}>
            {display.digits}
          </text>
          {display.battery && (
            <text x={52} y={54} fontSize={15}>
              <Trans>▭ battery</Trans>
            </text>
          )}
        </>
      ) : (
        <>
          {Array.from({ length: 51 }, (_, mark) => {
            const long = mark % 5 === 0;
            const [x1, y1] = at(mark / 50, ARC.r);
            const [x2, y2] = at(mark / 50, ARC.r - (long ? 16 : 8));
            const [tx, ty] = at(mark / 50, ARC.r + 14);
            return (
              <g key={mark}>
                <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={colour.ink} strokeWidth={long ? 2 : 1} />
                {long && (
                  <text x={tx} y={ty + 4} textAnchor="middle" fontSize={13} fontFamily={font.numbers}>
                    {mark / 5}
                  </text>
                )}
              </g>
            );
          })}
          <line
            x1={ARC.cx}
            y1={ARC.cy}
            x2={at(needle, ARC.r - 4)[0]}
            y2={at(needle, ARC.r - 4)[1]}
            stroke={colour.wrong}
            strokeWidth={2.5}
          />
          <circle cx={ARC.cx} cy={ARC.cy} r={6} fill={colour.ink} />
        </>
      )}
      <text x={150} y={192} textAnchor="middle" fontSize={17}>
        {needle === null ? t`dial: ${dial}` : t`full scale: ${dial}`}
      </text>
    </svg>
  );
}
