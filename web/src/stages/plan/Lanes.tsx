import styled from "styled-components";
import { colour, phone } from "../../ui/theme";
import type { Names } from "../../lab/useNames";

const List = styled.ol`
  display: grid;
  gap: 0.45rem;
`;

const Lane = styled.li`
  display: grid;
  grid-template-columns: 7rem minmax(0, 1fr);
  gap: 0.6rem;
  align-items: start;
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
    gap: 0.15rem;
  }
`;

const Cells = styled.ol`
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
`;

const Cell = styled.li<{ $shared: boolean }>`
  width: 6.1rem;
  padding: 0.15rem 0.45rem;
  border: 1px solid ${colour.hairline};
  background: ${colour.white};
  font-weight: ${({ $shared }) => ($shared ? 700 : 400)};
  line-height: 1.2;
  small {
    display: block;
    color: ${colour.soft};
    font-size: 0.78rem;
    font-weight: 400;
  }
`;

const Name = styled.div`
  font-weight: 600;
  line-height: 1.3;
  small {
    display: block;
    color: ${colour.soft};
    font-weight: 400;
  }
`;

type LaneOf = {
  name: string;
  detail?: string;
  cells: { short: string; electrolyte: string; condition: string; shared: boolean }[];
};

/** Which group measures which cells, in order; the shared cell is bold. */
export function Lanes({ lanes, names }: { lanes: LaneOf[]; names: Names }) {
  return (
    <List>
      {lanes.map((lane) => (
        <Lane key={lane.name}>
          <Name>
            {lane.name}
            {lane.detail && <small>{lane.detail}</small>}
          </Name>
          <Cells>
            {lane.cells.map((cell, index) => (
              <Cell key={index} $shared={cell.shared}>
                {cell.short}
                <small>{names.setting(cell.condition) || names.liquid(cell.electrolyte)}</small>
              </Cell>
            ))}
          </Cells>
        </Lane>
      ))}
    </List>
  );
}
