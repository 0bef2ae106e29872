// The front end's sources with every plausible mistake behind a switch, in the place of src; `node mutants.mjs LIST.json`
// writes the list of mistakes. Styles and sentences are left alone.
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { createInstrumenter } from "@stryker-mutator/instrumenter";
import { commonTokens } from "@stryker-mutator/api/plugin";
import { createInjector } from "typed-inject";

const STYLES = /^(styled|css|keyframes|createGlobalStyle)\b/;
const SAID = new Set(["Trans", "Plural", "Select", "SelectOrdinal"]);
const LEFT_OUT = [
  "StringLiteral",
  "ObjectLiteral",
  "ArrayDeclaration",
  "BlockStatement",
  "ArrowFunction",
  "Regex",
  "OptionalChaining",
  "MethodExpression",
  "AssignmentOperator",
];

const looksOrWords = {
  shouldIgnore(path) {
    const { node } = path;
    if (node.type === "TaggedTemplateExpression") {
      const tag = path.get("tag").toString();
      if (STYLES.test(tag)) return "looks";
      if (tag === "t" || tag === "msg") return "words";
    }
    if (node.type === "JSXElement" && SAID.has(node.openingElement.name.name)) return "words";
    if (node.type === "CallExpression" && ["t", "plural", "select", "msg"].includes(node.callee.name)) return "words";
    return undefined;
  },
};

const silent = new Proxy({}, { get: (_, name) => (name.startsWith("is") ? () => false : () => undefined) });
const files = readdirSync("src", { recursive: true })
  .filter((name) => /\.tsx?$/.test(name) && !name.endsWith(".d.ts"))
  .map((name) => join("src", name))
  .sort()
  .map((name) => ({ name, mutate: true, content: readFileSync(name, "utf8") }));
const before = Object.fromEntries(files.map(({ name, content }) => [name, content.split("\n")]));

function original({ fileName, location: { start, end } }) {
  const lines = before[fileName].slice(start.line, end.line + 1);
  lines[lines.length - 1] = lines.at(-1).slice(0, end.column);
  lines[0] = lines[0].slice(start.column);
  return lines.join("\n");
}

const instrumenter = createInjector().provideValue(commonTokens.logger, silent).injectFunction(createInstrumenter);
const { files: written, mutants } = await instrumenter.instrument(files, {
  plugins: null,
  excludedMutations: LEFT_OUT,
  ignorers: [looksOrWords],
});
for (const { name, content } of written) writeFileSync(name, content);
const made = mutants
  .filter(({ status }) => status !== "Ignored")
  .map((mutant) => ({ ...mutant, original: original(mutant) }));
writeFileSync(process.argv[2], JSON.stringify(made));
console.log(`${made.length} mistakes`);
