import { Tab, TabList } from "react-aria-components";
import styled from "styled-components";
import { colour, print } from "./theme";

export const TabLine = styled(TabList)`
  display: flex;
  flex-wrap: wrap;
  padding: 0 1.25rem;
  border-bottom: 1px solid ${colour.hairline};
  ${print} {
    padding: 0;
    border: 0;
  }
`;

export const OneTab = styled(Tab)`
  display: grid;
  place-items: center;
  min-height: 44px;
  padding: 0 0.9rem;
  color: ${colour.soft};
  cursor: pointer;
  &[data-selected] {
    box-shadow: inset 0 -4px ${colour.ink};
    color: ${colour.ink};
    font-weight: 700;
  }
  ${print} {
    min-height: 0;
    padding: 0;
    &[data-selected] {
      box-shadow: none;
    }
    &:not([data-selected]) {
      display: none; /* of the tabs only what is printed here */
    }
  }
`;
