import { createGlobalStyle } from "styled-components";
import { colour, font, print } from "./theme";

export const GlobalStyle = createGlobalStyle`
  *, *::before, *::after { box-sizing: border-box; }
  html { font-size: 100%; -webkit-text-size-adjust: 100%; }
  body { margin: 0; background: ${colour.page}; color: ${colour.ink}; font-family: ${font.words}; line-height: 1.4; }
  h1, h2, h3, p, ol, ul, dl, dd, figure { margin: 0; padding: 0; }
  ol, ul { list-style: none; }
  h1 { font-size: 1.3rem; line-height: 1.25; }
  h2 { font-size: 1.15rem; line-height: 1.3; }
  h3 { font-size: 1rem; line-height: 1.3; }
  a { color: ${colour.table}; text-underline-offset: 0.2em; }
  button, input, textarea, select { font: inherit; color: inherit; }
  :focus-visible, [data-focus-visible] { outline: 3px solid ${colour.table}; outline-offset: 2px; }
  [hidden] { display: none !important; }
  /* Paper: one size and margin for all, numbered; headings stay with what follows, pictures and rows whole. */
  @page {
    margin: 12mm 13mm 14mm;
    @bottom-right { content: counter(page) " / " counter(pages); font: 9pt ${font.words}; }
  }
  ${print} {
    html { font-size: 80%; }
    body { background: none; }
    h1, h2, h3, h4, summary { break-after: avoid; }
    svg, img, figure, tr, li { break-inside: avoid; }
    p { orphans: 2; widows: 2; }
    [role="status"]:empty, [aria-busy="true"] { display: none; }
  }
  svg text { font-family: ${font.words}; }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { transition: none !important; animation: none !important; } }
`;
