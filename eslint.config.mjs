import js from "@eslint/js";
import next from "@next/eslint-plugin-next";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: [".next/**", "dist/**", "node_modules/**", ".data/**", "coverage/**", "next-env.d.ts", "test-results/**", "playwright-report/**"] },
  js.configs.recommended,
  ...tseslint.configs.recommendedTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  { ...(hooks.configs.flat["recommended-latest"] ?? hooks.configs.flat.recommended), files: ["src/{app,features,ui}/**/*.{ts,tsx}"] },
  next.configs["core-web-vitals"],
  {
    rules: {
      "max-len": ["error", { code: 160, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true }],
      "@typescript-eslint/consistent-type-imports": "error",
      "@typescript-eslint/switch-exhaustiveness-check": ["error", { considerDefaultExhaustiveForUnions: true }],
      // Numbers and booleans read well in sentences; anything else in a template is refused.
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true, allowBoolean: true, allowNullish: true }],
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
    },
  },
  {
    files: ["src/core/**"],
    ignores: ["src/core/**/*.test.{ts,tsx}"],
    rules: {
      "no-restricted-globals": ["error", "process", "fetch", "console", "setTimeout", "setInterval", "setImmediate", "Buffer"],
      "no-restricted-properties": ["error", { object: "Date", property: "now" }, { object: "Math", property: "random" }],
      "no-restricted-syntax": [
        "error",
        { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: "The present time is an argument." },
        { selector: "ExportDefaultDeclaration", message: "The core exports by name." },
        { selector: "ExportAllDeclaration", message: "No barrels in the core." },
      ],
    },
  },
  { files: ["**/*.mjs", "**/*.cjs"], ...tseslint.configs.disableTypeChecked },
  {
    files: ["**/*.mjs", "**/*.cjs"],
    languageOptions: {
      globals: {
        process: "readonly",
        console: "readonly",
        fetch: "readonly",
        setTimeout: "readonly",
        setInterval: "readonly",
        URL: "readonly",
        module: "writable",
      },
    },
  },
);
