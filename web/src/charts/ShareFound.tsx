import { t } from "@lingui/core/macro";
import { scaleLinear } from "@visx/scale";
import styled from "styled-components";
import { colour } from "../ui/theme";

const WIDTH = 190;
const HEIGHT = 34;
const EDGE = 8;

const Drawing = styled.svg`
  display: block;
  width: ${WIDTH}px;
  max-width: 100%;
`;

type Props = { found: number; devices: number; low: number; high: number; guess: number };

const percent = (share: number) => `${Math.round(100 * share)} %`;

/** The share of devices that named a fault at once, from none to all: the tick, its 90 % interval, and where guessing lies. */
export function ShareFound({ found, devices, low, high, guess }: Props) {
  const x = scaleLinear<number>({ domain: [0, 1], range: [EDGE, WIDTH - EDGE] });
  const y = HEIGHT / 2;
  return (
    <Drawing
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={t`${found} of ${devices}: between ${percent(low)} and ${percent(high)} of such devices; guessing finds ${percent(guess)}`}
    >
      <line x1={x(0)} x2={x(1)} y1={y} y2={y} stroke={colour.hairline} strokeWidth={1.5} />
      {[0, 0.5, 1].map((end) => (
        <line key={end} x1={x(end)} x2={x(end)} y1={y - 9} y2={y + 9} stroke={colour.hairline} strokeWidth={1.5} />
      ))}
      <path d={`M${x(guess) - 5} ${y + 15}h10l-5 -8z`} fill="none" stroke={colour.soft} strokeWidth={1.5} />
      <line x1={x(low)} x2={x(high)} y1={y} y2={y} stroke={colour.ink} strokeWidth={4} />
      <line x1={x(found / devices)} x2={x(found / devices)} y1={y - 9} y2={y + 5} stroke={colour.ink} strokeWidth={4} />
    </Drawing>
  );
}
