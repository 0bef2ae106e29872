import styled from "styled-components";
import { colour } from "./theme";

/** The voices, by shape first and colour second. All take the centre of the mark in the drawing's own units. */
type At = { x: number; y: number };

export const TableMark = ({ x, y }: At) => (
  <circle cx={x} cy={y} r={6} fill={colour.page} stroke={colour.table} strokeWidth={2.2} />
);

export const ReadingMark = ({ x, y }: At) => (
  <rect x={x - 5.5} y={y - 5.5} width={11} height={11} fill={colour.reading} />
);

export const GroupTick = ({ x, y }: At) => (
  <line x1={x} x2={x} y1={y - 4.5} y2={y + 4.5} stroke={colour.reading} strokeWidth={1.6} />
);

/** A value from elsewhere: an open triangle. */
export const ElsewhereMark = ({ x, y }: At) => (
  <path
    d={`M${x} ${y - 7}l6.500 11.500h-13z`}
    fill={colour.page}
    stroke={colour.ink}
    strokeWidth={1.8}
    strokeLinejoin="round"
  />
);

const Keys = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 1rem;
  color: ${colour.soft};
  font-size: 0.9rem;
  li {
    display: inline-flex;
    align-items: center;
    gap: 0.35rem;
  }
`;

/** What the marks of a chart mean. */
export function Legend({ items }: { items: { mark: "table" | "reading" | "group" | "elsewhere"; text: string }[] }) {
  return (
    <Keys>
      {items.map(({ mark, text }) => (
        <li key={mark}>
          <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden>
            {mark === "table" && <TableMark x={8} y={8} />}
            {mark === "reading" && <ReadingMark x={8} y={8} />}
            {mark === "group" && <GroupTick x={8} y={8} />}
            {mark === "elsewhere" && <ElsewhereMark x={8} y={9} />}
          </svg>
          {text}
        </li>
      ))}
    </Keys>
  );
}
