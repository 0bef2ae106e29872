import { t } from "@lingui/core/macro";
import styled from "styled-components";
import { colour, font } from "../ui/theme";

const CUP = 92;
const TOP = 44;
const HEIGHT = 150;
const SMALLEST = 0.88; // of its own size: its letters are still read then
const SHORT = 13; // letters that find room under the load; longer ones end at the edge

const Wide = styled.div`
  overflow-x: auto;
  svg {
    display: block;
    min-height: 120px;
  }
  text {
    font-size: 14px;
  }
  .sign {
    font: 700 17px ${font.numbers};
  }
`;

export type CupOf = { negative: string; positive: string };
type Props = { cups: CupOf[]; lamp: boolean; loadName: string; lit: boolean };

const said = (cups: CupOf[], loadName: string, lamp: boolean) =>
  t`Cells in a row from minus to plus: ${cups
    .map((cup, index) => t`${index + 1}, ${cup.negative} and ${cup.positive}`)
    .join("; ")}. The plus of each is wired to the minus of the next. The last plus goes to the ${loadName}${
    lamp ? t`’s long leg` : ""
  }, cell 1’s minus to its other end.`;

/** Cups side by side, wired plus to minus, and the load at the end: which wire goes where. */
export function PackDrawing({ cups, lamp, loadName, lit }: Props) {
  const width = Math.max(1, cups.length) * CUP + 96;
  const plate = (x: number, shade: string, symbol: string) => (
    <g>
      <rect x={x - 6} y={TOP + 16} width={12} height={62} fill={shade} stroke={colour.soft} />
      <text x={x} y={TOP + 40} textAnchor="middle" fontWeight={700} style={{ fontSize: 13 }}>
        {symbol}
      </text>
    </g>
  );
  const at = (index: number) => ({ minus: index * CUP + 28, plus: index * CUP + 66 });
  const end = cups.length * CUP + 46;
  const last = at(cups.length - 1);
  const label = lamp ? t`long leg left` : loadName;
  return (
    <Wide tabIndex={cups.length > 3 ? 0 : undefined}>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        style={{ width: `min(100%, ${width}px)`, minWidth: `${SMALLEST * width}px` }}
        role="img"
        aria-label={said(cups, loadName, lamp)}
      >
        {cups.map((cup, index) => (
          <g key={index}>
            <path
              d={`M${index * CUP + 12} ${TOP + 22}v54q0 8 8 8h54q8 0 8 -8v-54`}
              fill="none"
              stroke={colour.ink}
              strokeWidth={1.8}
            />
            <rect x={index * CUP + 13} y={TOP + 40} width={68} height={43} rx={6} fill="#dbe6de" opacity={0.7} />
            {plate(at(index).minus, "#c3cbd1", cup.negative)}
            {plate(at(index).plus, "#e3b48f", cup.positive)}
            <text className="sign" x={at(index).minus} y={TOP + 11} textAnchor="middle">
              −
            </text>
            <text className="sign" x={at(index).plus} y={TOP + 11} textAnchor="middle">
              +
            </text>
            <text x={index * CUP + 47} y={HEIGHT - 4} textAnchor="middle">
              {index + 1}
            </text>
            {index > 0 && (
              <path
                d={`M${at(index - 1).plus} ${TOP - 4}q${(CUP - 38) / 2} -26 ${CUP - 38} 0`}
                fill="none"
                stroke={colour.ink}
                strokeWidth={2.4}
              />
            )}
          </g>
        ))}
        {cups.length > 0 && (
          <g>
            <path
              d={`M${last.plus} ${TOP - 4}C${last.plus} 6 ${end} 4 ${end} ${TOP + 6}`}
              fill="none"
              stroke={colour.wrong}
              strokeWidth={2.4}
            />
            <path
              d={`M${at(0).minus} ${TOP - 4}C${at(0).minus} -8 ${end + 26} -14 ${end + 26} ${TOP + 14}`}
              fill="none"
              stroke={colour.ink}
              strokeWidth={2.4}
              strokeDasharray="6 4"
            />
            <rect
              x={end - 8}
              y={TOP + (lamp ? 22 : 14)}
              width={42}
              height={34}
              rx={lamp ? 16 : 4}
              fill={lit ? "#ffe08a" : colour.white}
              stroke={colour.ink}
              strokeWidth={2}
            />
            {lamp && (
              <g stroke={colour.ink} strokeWidth={2.4}>
                <line x1={end} x2={end} y1={TOP + 2} y2={TOP + 24} />
                <line x1={end + 26} x2={end + 26} y1={TOP + 11} y2={TOP + 24} />
              </g>
            )}
            <text
              x={label.length > SHORT ? width - 2 : end + 13}
              y={TOP + 76}
              textAnchor={label.length > SHORT ? "end" : "middle"}
              style={{ fontSize: 13 }}
            >
              {label}
            </text>
          </g>
        )}
      </svg>
    </Wide>
  );
}
