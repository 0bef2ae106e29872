import styled from "styled-components";
import { colour, font } from "../ui/theme";

/** What charts are drawn in: as wide as there is room, words of one size, numbers in their own face, `halo` over lines. */
export const Drawing = styled.div`
  svg {
    display: block;
    width: 100%;
    overflow: visible;
  }
  text {
    font-size: 14px;
  }
  .number {
    font-family: ${font.numbers};
    font-size: 13.5px;
  }
  .halo {
    paint-order: stroke;
    stroke: ${colour.page};
    stroke-width: 5px;
  }
`;
