import { defineConfig } from "@lingui/conf";
import { formatter } from "@lingui/format-po";
import { createSwcExtractor } from "@lingui/native-tools";

/** Where catalogues are written: beside what they belong to, or elsewhere to be compared. */
const to = process.env["SENTENCES"] ?? "src";

/** Each stage's sentences stand beside it and are fetched with its pages; what all pages share stands in `src/locale`. */
export default defineConfig({
  sourceLocale: "en",
  locales: ["en", "de"],
  // Which component a `<Trans>` becomes: one that leaves values as they were typed.
  runtimeConfigModule: { Trans: ["/src/ui/Trans", "Trans"] },
  catalogs: [
    { path: `${to}/locale/{locale}`, include: ["src"], exclude: ["src/stages/**"] },
    { path: `${to}/stages/{name}/locale/{locale}`, include: ["src/stages/{name}/"] },
  ],
  extractors: [createSwcExtractor()],
  format: formatter({ lineNumbers: false }),
});
