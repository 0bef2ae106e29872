import { t } from "@lingui/core/macro";
import { Button, ListBox, ListBoxItem, Popover, Select, SelectValue } from "react-aria-components";
import styled from "styled-components";
import { colour, phone } from "../../ui/theme";
import { useNames } from "../../lab/useNames";

const Chosen = styled(Button)`
  min-height: 36px;
  ${phone} {
    min-height: 44px;
  }
  padding: 0.1rem 0.7rem;
  border: 1.5px solid ${colour.soft};
  border-radius: 6px;
  background: ${colour.white};
  color: ${colour.ink};
  font-weight: 600;
  cursor: pointer;
`;

const List = styled(ListBox)`
  min-width: 10rem;
  max-height: 60vh;
  overflow: auto;
  border: 1.5px solid ${colour.ink};
  border-radius: 6px;
  background: ${colour.white};
`;

const Item = styled(ListBoxItem)`
  display: flex;
  align-items: center;
  min-height: 44px;
  padding: 0 0.8rem;
  cursor: pointer;
  &[data-focused] {
    background: ${colour.bench};
  }
  &[data-selected] {
    font-weight: 700;
  }
`;

const Inline = styled(Select)`
  display: inline-block;
`;

type Props = { anchors: string[]; anchor: string; onChange: (anchor: string) => void };

/** Which plate of the class's ladder is held at its table value. */
export function AnchorChoice({ anchors, anchor, onChange }: Props) {
  const { plate } = useNames();
  return (
    <Inline
      aria-label={t`Plate held at its table value`}
      value={anchor}
      onChange={(key) => key !== null && onChange(String(key))}
    >
      <Chosen>
        <SelectValue /> <span aria-hidden>▾</span>
      </Chosen>
      <Popover>
        <List>
          {anchors.map((key) => (
            <Item key={key} id={key} textValue={plate(key)}>
              {plate(key)}
            </Item>
          ))}
        </List>
      </Popover>
    </Inline>
  );
}
