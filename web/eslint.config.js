import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "src/api/generated.d.ts"] },
  ...tseslint.configs.strict,
  hooks.configs.flat["recommended-latest"],
  { rules: { eqeqeq: "error", "no-console": "error" } },
);
