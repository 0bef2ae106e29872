import { css } from "styled-components";

/** Screens from this width and height on, px, and how much larger a view for the wall is there than on the smallest. */
const STEPS = [
  { width: 1400, height: 860, grows: 1.08 },
  { width: 1580, height: 900, grows: 1.12 },
  { width: 1900, height: 1000, grows: 1.25 },
  { width: 1900, height: 1060, grows: 1.35 },
  { width: 2540, height: 1400, grows: 1.78 },
  { width: 3820, height: 2100, grows: 2.67 },
];

/** A view for the wall: `base` times the size of the desk's, and as much larger as the screen is. */
export const onTheWall = (base: number) => css`
  --wall: ${base};
  ${STEPS.map(
    ({ width, height, grows }) => css`
      @media (min-width: ${width}px) and (min-height: ${height}px) {
        --wall: ${(base * grows).toFixed(3)};
      }
    `,
  )}
  --fit: 1;
  zoom: calc(var(--wall) * var(--fit));
  min-height: calc(100vh / var(--wall) / var(--fit));
  && svg text:not([class]) {
    font-size: 16px;
  }
  && svg :is(.small, .step, .number) {
    font-size: 16px;
  }
`;
