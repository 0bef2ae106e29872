import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { scaleLinear } from "@visx/scale";
import styled from "styled-components";
import { asTyped, number } from "../format";
import { colour, font } from "../ui/theme";
import { useWidth } from "../ui/useWidth";
import { steps } from "./spread";

export type Level = { id: string; text: string; unit: string; volts: number | null; waits?: boolean };

const HEIGHT = 232;
const TOP = 16;
const BOTTOM = HEIGHT - 14;
const AXIS = 40;
const PITCH = { least: 98, most: 106 }; // of a tube with its number beside it
const TUBE = 30;
const MARGIN = 18; // before the first tube, and after the words beside the last
/** Beyond this a level says "off the scale" instead of stretching the scale for all. */
const MOST = 3.5;

const Drawing = styled.div`
  overflow-x: auto;
  svg {
    display: block;
  }
  text {
    font-family: ${font.numbers};
    font-size: 14px;
  }
  .step {
    fill: ${colour.soft};
    font-size: 13px;
  }
`;

/** Readings as levels in small tubes on one scale: an empty tube is the next reading; one that is not sent yet waits. */
export function Tubes({ levels, wanted }: { levels: Level[]; wanted: number }) {
  const seen = levels
    .map((level) => level.volts)
    .filter((value): value is number => value !== null && Math.abs(value) <= MOST);
  const low = Math.min(0, ...seen.map((value) => Math.floor(value * 2) / 2));
  const high = Math.max(low === 0 ? 1.5 : 0.5, ...seen.map((value) => Math.ceil(value * 2 + 0.01) / 2));
  const y = scaleLinear<number>({ domain: [low, high], range: [BOTTOM, TOP], clamp: true });
  const tubes = Math.max(wanted, levels.length);
  const [ref, room] = useWidth<HTMLDivElement>(AXIS + MARGIN + tubes * PITCH.most);
  const pitch = Math.min(PITCH.most, Math.max(PITCH.least, (room - AXIS - MARGIN) / tubes));
  const width = AXIS + MARGIN + tubes * pitch;
  const said = levels.map((level) => asTyped(level.text, level.unit)).join(", ") || t`none yet`;
  return (
    <Drawing ref={ref} tabIndex={width > room ? 0 : undefined}>
      <svg width={width} height={HEIGHT} role="img" aria-label={t`Readings of this cell: ${said}.`}>
        {steps(low, high, 0.5).map((step) => (
          <g key={step}>
            <line
              x1={AXIS}
              x2={width - 12}
              y1={y(step)}
              y2={y(step)}
              stroke={step === 0 ? colour.soft : colour.hairline}
            />
            <text className="step" x={AXIS - 8} y={y(step) + 4.5} textAnchor="end">
              {number(step, 1)}
            </text>
          </g>
        ))}
        {Array.from({ length: tubes }, (_, index) => {
          const x = AXIS + 10 + index * pitch;
          const level = levels[index];
          const next = index === levels.length;
          const volts = level?.volts ?? null;
          const at = volts === null ? null : y(volts);
          const zero = y(0);
          const off = volts !== null && Math.abs(volts) > MOST;
          return (
            <g key={index}>
              <rect
                x={x}
                y={TOP - 8}
                width={TUBE}
                height={BOTTOM - TOP + 16}
                rx={TUBE / 2}
                fill={colour.white}
                stroke={next ? colour.ink : colour.soft}
                strokeWidth={next ? 2.5 : 1.2}
              />
              {at !== null && (
                <>
                  <rect
                    x={x + 2}
                    y={Math.min(at, zero)}
                    width={TUBE - 4}
                    height={Math.abs(zero - at)}
                    fill={colour.readingPale}
                  />
                  <line x1={x} x2={x + TUBE} y1={at} y2={at} stroke={colour.reading} strokeWidth={4} />
                </>
              )}
              {level && (
                <text x={x + TUBE + 6} y={at === null ? BOTTOM - 20 : at + (at < TOP + 12 ? 14 : 5)}>
                  {level.unit === "V" ? asTyped(level.text, "") : asTyped(level.text, level.unit)}
                </text>
              )}
              {level && (at === null || level.waits) && (
                <text
                  className="step"
                  x={x + TUBE + 6}
                  y={at === null ? BOTTOM - 3 : at > BOTTOM - 30 ? at - 12 : at + 22}
                >
                  <Trans>waits</Trans>
                </text>
              )}
              {off && (
                <text className="step" x={x + TUBE + 6} y={at !== null && at < 60 ? at + 32 : (at ?? 0) - 12}>
                  {(volts ?? 0) > 0 ? t`above` : t`below`}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </Drawing>
  );
}
