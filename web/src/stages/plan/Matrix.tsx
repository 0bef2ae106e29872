import { plural, t } from "@lingui/core/macro";
import { type KeyboardEvent, useRef, useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { colour, font, phone, print } from "../../ui/theme";

export type Count = Schemas["CountOut"];
export type Change = "more" | "fewer" | "ban" | "unwish";

const Grid = styled.table`
  border-collapse: separate;
  border-spacing: 2px;
  caption {
    padding: 0 0 0.2rem 2.6rem;
    font-weight: 600;
    text-align: left;
  }
  th {
    font: 600 0.92rem ${font.words};
  }
  tbody th {
    width: 2.4rem;
    padding-right: 0.35rem;
    text-align: right;
  }
  td {
    padding: 0;
  }
`;

const Square = styled(Button)<{ $count: number; $wished: boolean; $shared: boolean }>`
  display: grid;
  place-items: center;
  width: 30px;
  height: 30px;
  ${phone} {
    width: 44px;
    height: 44px;
  }
  padding: 0;
  border: ${({ $wished, $shared }) =>
    $shared ? `2px solid ${colour.ink}` : $wished ? `2px dashed ${colour.table}` : `1px solid ${colour.hairline}`};
  background: ${({ $count }) => ($count > 0 ? "#dfe9f5" : colour.white)};
  color: ${colour.ink};
  font: ${({ $shared }) => ($shared ? 700 : 500)} 0.92rem ${font.numbers};
  cursor: pointer;
  &[data-disabled] {
    cursor: default;
  }
  &[data-hovered] {
    border-color: ${colour.ink};
  }
  ${print} {
    width: 5.5mm;
    height: 5.5mm;
  }
  &[data-focus-visible] {
    outline: 3px solid ${colour.table};
    outline-offset: 1px;
  }
`;

type Props = {
  caption: string;
  order: string[];
  counts: Count[];
  symbol: (key: string) => string;
  change: ((cell: Count, kind: Change) => void) | null;
  press: Change;
};

const pairOf = (a: string, b: string) => [a, b].sort().join("\u0000");

/**
 * Half a matrix of pairs: how many groups measure each. A press changes the count; arrow keys walk, + and − change, and
 * Delete takes the cell out for good.
 */
export function Matrix({ caption, order, counts, symbol, change, press }: Props) {
  const by = new Map(counts.map((one) => [pairOf(one.negative, one.positive), one]));
  const squares = useRef(new Map<string, HTMLButtonElement>());
  const [at, setAt] = useState<[number, number]>(() => {
    for (let i = 0; i < order.length; i++)
      for (let j = i + 1; j < order.length; j++) if (by.has(pairOf(order[i] ?? "", order[j] ?? ""))) return [i, j];
    return [0, 1];
  });

  const walk = (event: KeyboardEvent, i: number, j: number, cell: Count) => {
    const steps: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const step = steps[event.key];
    if (step) {
      event.preventDefault();
      for (let n = 1; n < order.length; n++) {
        const next = squares.current.get(`${i + n * step[0]}-${j + n * step[1]}`);
        if (next) {
          setAt([i + n * step[0], j + n * step[1]]);
          return next.focus();
        }
      }
    }
    if (!change) return;
    const kind = ({ "+": "more", "=": "more", "-": "fewer", Delete: "ban" } as Record<string, Change>)[event.key];
    if (kind) {
      event.preventDefault();
      change(cell, kind);
    }
  };

  return (
    <Grid>
      <caption>{caption}</caption>
      <tbody>
        {order.slice(0, -1).map((row, i) => (
          <tr key={row}>
            <th scope="row">{symbol(row)}</th>
            {order.slice(1).map((column, index) => {
              const j = index + 1;
              const cell = j > i ? by.get(pairOf(row, column)) : undefined;
              if (!cell) return <td key={column} />;
              const groups = `${plural(cell.count, { one: "# group", other: "# groups" })}`;
              const what = cell.shared ? t`, shared by all` : cell.wished ? t`, as you asked` : "";
              return (
                <td key={column}>
                  <Square
                    ref={(node) => {
                      if (node) squares.current.set(`${i}-${j}`, node);
                      else squares.current.delete(`${i}-${j}`);
                    }}
                    excludeFromTabOrder={at[0] !== i || at[1] !== j}
                    isDisabled={!change}
                    $count={cell.count}
                    $wished={cell.wished}
                    $shared={cell.shared}
                    aria-label={`${symbol(cell.negative)} | ${symbol(cell.positive)}, ${caption}: ${groups}${what}`}
                    onFocus={() => setAt([i, j])}
                    onKeyDown={(event) => walk(event, i, j, cell)}
                    onPress={(event) => change?.(cell, event.shiftKey ? "fewer" : press)}
                  >
                    {cell.count || (cell.wished ? "×" : "")}
                  </Square>
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td />
          {order.slice(1).map((column) => (
            <th key={column} scope="col">
              {symbol(column)}
            </th>
          ))}
        </tr>
      </tfoot>
    </Grid>
  );
}
