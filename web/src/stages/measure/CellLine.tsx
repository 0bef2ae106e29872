import { t } from "@lingui/core/macro";
import { Link } from "react-router";
import styled from "styled-components";
import { colour, phone } from "../../ui/theme";

const List = styled.ol`
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  width: 100%;
`;

const Place = styled.li<{ $done: boolean; $here: boolean }>`
  position: relative;
  padding-top: 14px;
  border-top: ${({ $done }) => ($done ? `5px solid ${colour.ink}` : `1.5px solid ${colour.soft}`)};
  margin-top: ${({ $done }) => ($done ? "4px" : "7px")};
  text-align: center;
  &::before {
    content: "";
    position: absolute;
    top: -9px;
    left: 0;
    height: 18px;
    border-left: 2px solid ${colour.ink};
  }
  &:last-child::after {
    content: "";
    position: absolute;
    top: -9px;
    right: 0;
    height: 18px;
    border-left: 2px solid ${colour.ink};
  }
  a {
    display: grid;
    place-items: center;
    min-height: 28px;
    color: ${({ $here }) => ($here ? colour.ink : colour.soft)};
    font-size: 0.85rem;
    font-weight: ${({ $here }) => ($here ? 700 : 400)};
    text-decoration: none;
    white-space: nowrap;
  }
  a:hover {
    text-decoration: underline;
  }
  ${phone} {
    padding-top: 0;
    a {
      min-height: 44px;
      font-size: 0.82rem;
    }
    a > span {
      display: none;
    }
  }
`;

type Props = { cells: { id: string; short: string; done: boolean }[]; here: number };

/** The group's cells as graduations of a line: thick where the readings are in. */
export function CellLine({ cells, here }: Props) {
  return (
    <nav aria-label={t`Your cells`}>
      <List>
        {cells.map((cell, index) => (
          <Place key={cell.id} $done={cell.done} $here={index === here}>
            <Link
              to={`/bench/${index + 1}`}
              aria-current={index === here ? "step" : undefined}
              aria-label={t`Cell ${index + 1}, ${cell.short}${cell.done ? t`, readings in` : ""}`}
            >
              {index + 1}
              <span>{cell.short.replaceAll(" ", "")}</span>
            </Link>
          </Place>
        ))}
      </List>
    </nav>
  );
}
