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

export default tseslint.config(
  { ignores: ["dist", "src/api/generated.d.ts"] },
  ...tseslint.configs.strict,
  hooks.configs.flat["recommended-latest"],
  ...oneWay,
  { rules: { eqeqeq: "error", "no-console": "error" } },
);
