import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** Imports point down: features -> instruments, client, sync -> ui -> wording, client/types. */
const FEATURES = "@/features/**";
const LAYERS = {
  "src/wording/**": [FEATURES, "@/instruments/**", "@/client/*", "!@/client/types", "@/sync/**", "@/ui/**"],
  "src/ui/**": [FEATURES, "@/instruments/**", "@/client/*", "!@/client/types", "@/sync/**"],
  "src/instruments/**": [FEATURES, "@/client/*", "!@/client/types", "@/sync/**"],
  "src/sync/**": [FEATURES, "@/instruments/**", "@/client/*", "!@/client/types"],
  "src/client/**": [FEATURES, "@/instruments/**"],
};
const LONGEST_COMPONENT = 150;
const LONGEST_LINE = 120;

export default tseslint.config(
  { ignores: ["dist", "src/client/schema.d.ts"] },
  js.configs.recommended,
  ...tseslint.configs.recommendedTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  {
    plugins: { "react-hooks": hooks },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      "max-lines-per-function": ["error", LONGEST_COMPONENT],
      "max-len": ["error", LONGEST_LINE],
      "@typescript-eslint/no-misused-promises": ["error", { checksVoidReturn: { attributes: false } }],
      "@typescript-eslint/only-throw-error": "off",
    },
  },
  ...Object.entries(LAYERS).map(([files, group]) => ({
    files: [`${files}/*.ts`, `${files}/*.tsx`],
    rules: { "no-restricted-imports": ["error", { patterns: [{ group, message: "Imports point down." }] }] },
  })),
);
