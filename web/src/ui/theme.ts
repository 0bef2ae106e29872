/** Colours, type and measures. Shape comes first and colour second: see Voices. */
export const colour = {
  ink: "#14232e",
  soft: "#4b5e69",
  hairline: "#c8d2d6",
  page: "#fbfcfc",
  bench: "#e9eef0",
  margin: "#f1f5ee",
  marginLine: "#b9c8b4",
  table: "#1b62b5",
  reading: "#b4561c",
  readingPale: "#efd9cc",
  prediction: "#7a3aa0",
  account: "#4f7a5b",
  caution: "#7d5800",
  cautionMark: "#b98200",
  cautionPale: "#fff7da",
  wrong: "#b3261e",
  good: "#2a7147",
  white: "#ffffff",
} as const;

export const font = {
  words: '"Atkinson Hyperlegible Next Variable", system-ui, sans-serif',
  numbers: '"Atkinson Hyperlegible Mono Variable", ui-monospace, monospace',
} as const;

/** Up to this width the page is a single column. */
export const phone = "@media (max-width: 760px)";
/** Below this width the margin folds under the work. */
export const narrow = "@media (max-width: 1080px)";
export const print = "@media print";
export const screen = "@media screen";
