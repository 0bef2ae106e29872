import { t } from "@lingui/core/macro";
import styled, { css, keyframes } from "styled-components";
import type { Schemas } from "../api/client";
import { volts } from "../format";
import { colour, font } from "../ui/theme";
import { metal, poured } from "./CellDrawing";
import { linesOf } from "./lines";

type Ring = Schemas["LoopOut"];

const WIDE = 400;
const PLATE = { left: 84, right: 316, half: 20, top: 118, foot: 318 };
const LETTERS = 14;
const ROW = 52; // of what happens at a plate, one below the other
const MOST_LETTERS = 24;
const BETWEEN = 24; // of electrons on the wire
const THICKEST = 13;

const along = keyframes`to { stroke-dashoffset: -${BETWEEN}px; }`;
const up = keyframes`to { transform: translateY(-16px); opacity: 0; }`;
const moves = css<{ $moves: boolean }>`
  animation-play-state: ${({ $moves }) => ($moves ? "running" : "paused")};
`;
const Electrons = styled.path<{ $moves: boolean }>`
  animation: ${along} 1.6s linear infinite;
  ${moves}
`;
const Bubbles = styled.g<{ $moves: boolean }>`
  animation: ${up} 2.2s ease-in infinite;
  ${moves}
`;

const thick = (share: number) => 2 + (THICKEST - 2) * Math.sqrt(Math.min(1, share));

/** An arrow from one place to another on a line, as thick as its share. */
function Thick({ from, to, y, share }: { from: number; to: number; y: number; share: number }) {
  const half = thick(share) / 2;
  const way = Math.sign(to - from);
  const neck = to - way * 12;
  return (
    <polygon
      points={`${from},${y - half} ${neck},${y - half} ${neck},${y - half - 4} ${to},${y} ${neck},${y + half + 4} ${neck},${y + half} ${from},${y + half}`}
      fill={colour.soft}
    />
  );
}

/** One thing at a plate: its words, and the arrow away from it (given) or towards it (taken). */
function AtPlate({
  arrow,
  y,
  left,
  given,
  moving,
  alone,
}: {
  arrow: Ring["gives"][number];
  y: number;
  left: boolean;
  given: boolean;
  moving: boolean;
  alone: boolean;
}) {
  const edge = left ? PLATE.left + PLATE.half : PLATE.right - PLATE.half;
  const away = left ? edge + 62 : edge - 62;
  const share = Math.round(100 * arrow.share);
  const words = linesOf(alone ? arrow.words : t`${arrow.words}, ${share} %`, MOST_LETTERS);
  return (
    <g>
      {words.map((line, at) => (
        <text
          key={line}
          x={left ? edge + 8 : edge - 8}
          y={y - 12 - LETTERS * (words.length - 1 - at)}
          textAnchor={left ? "start" : "end"}
          fontSize={LETTERS}
        >
          {line}
        </text>
      ))}
      <Thick from={given ? edge + 2 : away} to={given ? away : edge - 2} y={y} share={arrow.share} />
      {arrow.gas && (
        <Bubbles $moves={moving} fill={colour.white} stroke={colour.ink}>
          {[0, 1, 2].map((at) => (
            <circle
              key={at}
              cx={(left ? edge + 76 : edge - 76) + (left ? 9 : -9) * at}
              cy={y + 4 - 7 * (at % 2)}
              r={3.5 - at * 0.6}
            />
          ))}
        </Bubbles>
      )}
    </g>
  );
}

type Props = {
  ring: Ring;
  liquid: string;
  /** Two solutions that something porous or a bridge keeps apart. */
  divided?: boolean;
  symbols: { negative: string; positive: string };
  moving: boolean;
  current: boolean;
};

/** The ring of a cell: electrons in the wire, what happens at each plate, ions in the liquid; the negative plate on the left. */
export function LoopDrawing({ ring, liquid, divided = false, symbols, moving, current }: Props) {
  const { flows, gives, takes } = ring;
  const first = PLATE.top + 74;
  const taken = first + ROW * gives.length;
  const foot = Math.max(PLATE.foot, taken + ROW * Math.max(0, takes.length - 1) + 16);
  const drift = foot + 26;
  const floor = drift + 40;
  const middle = WIDE / 2;
  const words: Record<string, string> = {
    open: t`open: ${volts(ring.volts_v, 2)}`,
    meter: t`voltmeter: ${volts(ring.volts_v, 2)}`,
    load: `470 Ω: ${ring.current}`,
    wire: t`a wire: ${ring.current}`,
  };
  const box = words[ring.state] ?? "";
  const half = Math.max(46, 0.29 * LETTERS * box.length + 10);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${floor + 8}`}
      width="100%"
      style={{ maxWidth: "36rem" }}
      role="img"
      aria-label={ring.told}
    >
      <path
        d={`M30 140 V${floor - 12} Q30 ${floor} 42 ${floor} H358 Q370 ${floor} 370 ${floor - 12} V140`}
        fill="none"
        stroke={colour.ink}
        strokeWidth={2}
      />
      <rect x={31} y={158} width={338} height={floor - 160} fill={poured(liquid)} />
      {divided && (
        <line
          x1={middle}
          x2={middle}
          y1={150}
          y2={floor}
          stroke={colour.marginLine}
          strokeWidth={2}
          strokeDasharray="3 5"
        />
      )}
      <path
        d={`M${PLATE.left} ${PLATE.top} V48 H${flows ? PLATE.right : middle - half} ${flows ? "" : `M${middle + half} 48 H${PLATE.right}`} V${PLATE.top}`}
        fill="none"
        stroke={colour.ink}
        strokeWidth={2}
      />
      {flows && (
        <>
          <Electrons
            $moves={moving}
            d={`M${PLATE.left} ${PLATE.top} V48 H${PLATE.right} V${PLATE.top}`}
            fill="none"
            stroke={colour.table}
            strokeWidth={11}
            strokeLinecap="round"
            strokeDasharray={`0 ${BETWEEN}`}
          />
          <text x={PLATE.left + 8} y={24} fontSize={LETTERS}>
            {t`electrons`} →
          </text>
          {current && (
            <text x={PLATE.right - 8} y={24} fontSize={LETTERS} textAnchor="end" fill={colour.caution}>
              ← {t`“current”`}
            </text>
          )}
        </>
      )}
      <rect x={middle - half} y={34} width={2 * half} height={28} rx={4} fill={colour.white} stroke={colour.ink} />
      <text x={middle} y={53} fontSize={LETTERS} textAnchor="middle" fontFamily={font.words}>
        {box}
      </text>
      {[
        { x: PLATE.left, sign: "−", plate: ring.negative, symbol: symbols.negative, side: -1 },
        { x: PLATE.right, sign: "+", plate: ring.positive, symbol: symbols.positive, side: 1 },
      ].map(({ x, sign, plate, symbol, side }) => (
        <g key={sign}>
          <rect
            x={x - PLATE.half}
            y={PLATE.top}
            width={2 * PLATE.half}
            height={foot - PLATE.top}
            fill={metal(plate)}
            stroke={colour.ink}
          />
          <text x={x} y={PLATE.top + 22} fontSize={16} fontWeight={700} textAnchor="middle">
            {symbol}
          </text>
          <text x={x + side * 16} y={PLATE.top - 14} fontSize={22} fontWeight={700} textAnchor="middle">
            {sign}
          </text>
        </g>
      ))}
      {gives.map((arrow, at) => (
        <AtPlate key={arrow.words} arrow={arrow} y={first + ROW * at} left given moving={moving} alone={at === 0} />
      ))}
      {takes.map((arrow, at) => (
        <AtPlate
          key={arrow.words}
          arrow={arrow}
          y={taken + ROW * at}
          left={false}
          given={false}
          moving={moving}
          alone={takes.length === 1}
        />
      ))}
      {flows && (
        <>
          <text x={middle} y={drift} fontSize={LETTERS} textAnchor="middle">
            {t`positive ions`} →
          </text>
          <text x={middle} y={drift + 20} fontSize={LETTERS} textAnchor="middle">
            ← {t`negative ions`}
          </text>
        </>
      )}
    </svg>
  );
}
