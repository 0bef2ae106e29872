import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** Folders by what they may not import: imports run one way, from pages down to what fetches. */
const NOT_IN = {
  api: "(ui|lab|charts|stages|app)",
  ui: "(lab|charts|stages|app)",
  charts: "(stages|app)",
  lab: "(stages|app)",
  stages: "(stages|app)",
};

const oneWay = Object.entries(NOT_IN).map(([folder, above]) => ({
  files: [`src/${folder}/**`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          { regex: `^(\\.\\./)+${above}/`, message: `${folder}/ builds on what is below it only.` },
          ...(folder === "stages"
            ? [{ regex: "^\\.\\./[a-z]+/", message: "No stage imports another; share in lab/." }]
            : []),
        ],
      },
    ],
  },
}));

/** What is read stands in `t`, `plural` or `<Trans>`: text that does not would stay English in every language. */
const outside = (selector) => ({ selector, message: "Words that are read go through t`…`, plural or <Trans>." });
const WORDS = "/(?!\\b(?:COM|mol|XLSX|CSV)\\b)\\b[A-Za-z]{3}/"; // units, formats and sockets have no language
const CHOICE = ":matches(ConditionalExpression, LogicalExpression)";
const translated = [
  outside(`JSXText[value=${WORDS}]:not(JSXElement[openingElement.name.name="Trans"] *)`),
  outside(
    `JSXAttribute[name.name=/^(aria-label|alt|description|errorMessage|label|placeholder|title)$/] > Literal[value=${WORDS}]`,
  ),
  outside(`JSXElement > JSXExpressionContainer > ${CHOICE} > Literal[value=${WORDS}]`),
  outside(`JSXElement > JSXExpressionContainer > ${CHOICE} > ${CHOICE} > Literal[value=${WORDS}]`),
  outside("Literal[value=/^[A-Z][a-z]+[:!…] ?$/]"),
  outside("Literal[value=/^[“‘]?[A-Z][a-z’]*[,:]? [a-z]/]"),
  outside(":not(TaggedTemplateExpression) > TemplateLiteral > TemplateElement[value.raw=/[A-Z][a-z’]+ [a-z]+ [a-z]/]"),
];

/** What only https has, although it works on the machine itself. */
const secureOnly = {
  selector:
    "MemberExpression[object.name='crypto'][property.name=/^(randomUUID|subtle)$/], " +
    "MemberExpression[object.name='navigator'][property.name='clipboard']",
  message: "Phones in a classroom come by plain http, where this does not exist: take api/newId or ui/Copy.",
};

export default tseslint.config(
  { ignores: ["dist", "src/api/generated.d.ts"] },
  ...tseslint.configs.strict,
  hooks.configs.flat["recommended-latest"],
  ...oneWay,
  { rules: { eqeqeq: "error", "no-console": "error", "no-restricted-syntax": ["error", secureOnly, ...translated] } },
);
