import { Button as AriaButton } from "react-aria-components";
import { Link } from "react-router";
import styled, { css } from "styled-components";
import { colour, font, phone, print } from "./theme";

const shape = css`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 0.5em;
  min-height: 44px;
  padding: 0.45rem 0.95rem;
  border: 1.5px solid ${colour.ink};
  border-radius: 6px;
  background: ${colour.page};
  color: ${colour.ink};
  font-weight: 600;
  text-decoration: none;
  cursor: pointer;
  &[data-hovered],
  &:hover {
    background: ${colour.bench};
  }
  &[data-disabled] {
    border-color: ${colour.hairline};
    color: ${colour.soft};
    cursor: default;
  }
  ${print} {
    display: none; /* nothing is pressed on paper */
  }
`;

const dark = css`
  background: ${colour.ink};
  color: ${colour.page};
  &[data-hovered],
  &:hover {
    background: #2a3f4d;
  }
  &[data-disabled] {
    background: ${colour.bench};
  }
`;

export const Button = styled(AriaButton)`
  ${shape}
`;

/** The one thing to do next. */
export const MainButton = styled(AriaButton)`
  ${shape}
  ${dark}
`;

export const ButtonLink = styled(Link)`
  ${shape}
`;

export const MainLink = styled(Link)`
  ${shape}
  ${dark}
`;

/** A button that reads as a link inside a sentence; `data-on-paper`: what it says is printed, too. */
export const TextButton = styled(AriaButton)`
  min-height: 32px;
  padding: 0.15rem 0.1rem;
  border: 0;
  background: none;
  color: ${colour.table};
  text-decoration: underline;
  text-underline-offset: 0.2em;
  cursor: pointer;
  ${phone} {
    min-height: 44px;
  }
  ${print} {
    &:not([data-on-paper]) {
      display: none;
    }
    color: inherit;
    text-decoration: none;
  }
`;

/** A key on the keyboard. */
export const Key = styled.kbd`
  padding: 0 0.4em;
  border: 1px solid currentColor;
  border-radius: 3px;
  font: 600 0.76rem ${font.numbers};
  opacity: 0.8;
  ${phone} {
    display: none;
  }
`;
