import styled from "styled-components";
import { colour } from "../../ui/theme";

/** A board with names standing on it, as many as there is room for. */
const Board = styled.ul`
  display: flex;
  flex-wrap: wrap;
  align-items: stretch;
  li {
    display: grid;
    flex-grow: 1;
    border-bottom: 3px solid ${colour.soft};
  }
  &::after {
    content: "";
    flex: 1000 1 0;
    border-bottom: 3px solid ${colour.soft};
  }
`;

const Label = styled.button<{ $here: boolean }>`
  display: grid;
  align-content: end;
  min-height: 54px;
  padding: 0.35rem 0.75rem 0.3rem;
  border: 0;
  border-left: 1px solid ${colour.hairline};
  background: ${({ $here }) => ($here ? colour.bench : "transparent")};
  color: ${colour.ink};
  font: inherit;
  font-weight: ${({ $here }) => ($here ? 700 : 400)};
  text-align: left;
  cursor: pointer;
  small {
    color: ${colour.soft};
    font-weight: 400;
  }
  small[data-short] {
    color: ${colour.caution};
    font-weight: 600;
  }
  &:hover {
    background: ${colour.bench};
  }
`;

export type Item = { key: string; name: string; sign: string; short: string | null };

type Props = { title: string; items: Item[]; here: string | null; open: (key: string) => void };

/** One shelf of the cupboard: a press takes a material down and shows all that is known of it. */
export function Shelf({ title, items, here, open }: Props) {
  if (items.length === 0) return null;
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      <Board>
        {items.map((item) => (
          <li key={item.key}>
            <Label $here={item.key === here} aria-pressed={item.key === here} onClick={() => open(item.key)}>
              <small data-short={item.short ? "" : undefined}>{item.short ? `▲ ${item.short}` : item.sign}</small>
              {item.name}
            </Label>
          </li>
        ))}
      </Board>
    </section>
  );
}
