import js from "@eslint/js";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** Imports point down only: app → features → entities → shared. Features don't import each other. */
const layers = [
  { files: "src/features/**", forbidden: ["@/app/*", "@/features/*"] },
  { files: "src/entities/**", forbidden: ["@/app/*", "@/features/*"] },
  { files: "src/shared/**", forbidden: ["@/app/*", "@/features/*", "@/entities/*"] },
];

/** Entities among themselves: each may import those before it, never those after it. */
const entities = [
  ["session"],
  ["account"],
  ["thing", "place"],
  ["draft"],
  ["access"],
  ["subject"],
  ["scope"],
  ["assignment"],
  ["form"],
  ["decision"],
];

const restrict = (forbidden, message) => ({
  "no-restricted-imports": ["error", { patterns: [{ group: forbidden, message }] }],
});

export default tseslint.config(
  { ignores: ["dist", "target", "src/shared/api/schema.ts", "scripts", "eslint.config.js"] },
  js.configs.recommended,
  ...tseslint.configs.strictTypeChecked,
  a11y.flatConfigs.recommended,
  {
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
  },
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    rules: {
      ...hooks.configs.recommended.rules,
      "max-lines": ["error", { max: 340, skipBlankLines: true, skipComments: true }],
      "@typescript-eslint/no-explicit-any": "error",
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      "@typescript-eslint/no-misused-promises": [
        "error",
        { checksVoidReturn: { attributes: false } },
      ],
      "no-restricted-syntax": [
        "error",
        {
          selector: "TSAsExpression > TSAsExpression[typeAnnotation.type='TSUnknownKeyword']",
          message: "A cast through unknown hides a mistake: narrow the value instead.",
        },
        {
          selector: "JSXOpeningElement[name.name=/^(select|textarea|table|datalist)$/]",
          message: "Use the component library: Select, Input.TextArea, DataTable, AutoComplete.",
        },
      ],
      "jsx-a11y/no-autofocus": "off", // a picker that opens takes the focus
    },
  },
  {
    files: ["src/**/*.tsx"],
    ignores: ["src/**/*.test.tsx", "src/features/places/components/Matrix.tsx"],
    rules: { "max-lines": ["error", { max: 200, skipBlankLines: true, skipComments: true }] },
  },
  // The access matrix is a table of our own.
  {
    files: ["src/features/places/components/Matrix.tsx"],
    rules: { "no-restricted-syntax": "off" },
  },
  ...layers.map(({ files, forbidden }) => ({
    files: [files],
    rules: restrict(forbidden, "Imports point down only: app, features, entities, shared."),
  })),
  ...entities.flatMap((level, at) => {
    const later = entities.slice(at + 1).flat();
    const up = ["@/app/*", "@/features/*", ...later.map((it) => `@/entities/${it}*`)];
    return level.map((it) => ({
      files: [`src/entities/${it}/**`],
      rules: restrict(up, "This entity comes before the one it imports: see eslint.config.js."),
    }));
  }),
  {
    files: ["src/**/*.test.{ts,tsx}", "src/shared/testing/**"],
    rules: {
      "@typescript-eslint/no-unsafe-assignment": "off",
      "@typescript-eslint/no-unsafe-argument": "off",
      "@typescript-eslint/no-non-null-assertion": "off",
      "@typescript-eslint/unbound-method": "off",
      "@typescript-eslint/no-confusing-void-expression": "off",
      "max-lines": "off",
      "no-restricted-syntax": "off",
    },
  },
);
