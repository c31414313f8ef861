import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "node_modules", "src/api/schema.gen.ts", "eslint.config.js", "scripts"] },
  ...tseslint.configs.recommendedTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  a11y.flatConfigs.recommended,
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      "@typescript-eslint/no-explicit-any": "error",
      "@typescript-eslint/no-floating-promises": "error",
      "@typescript-eslint/no-deprecated": "error",
      eqeqeq: "error",
      // What is scrolled must be reached by Tab: browsers do not do it for all of them.
      "jsx-a11y/no-noninteractive-tabindex": [
        "error",
        { tags: ["aside", "ul", "ol", "div"], roles: ["region"], allowExpressionValues: true },
      ],
      // A field that opens because somebody asked for it takes the focus.
      "jsx-a11y/no-autofocus": "off",
      // A list, grid or region that looks after the arrow keys of what is in it does so for all of them.
      "jsx-a11y/no-noninteractive-element-interactions": ["error", { handlers: ["onClick", "onMouseDown", "onMouseUp", "onKeyPress"] }],
      // Of a grid only one cell is in the order of Tab; the grid says which by aria-activedescendant.
      "jsx-a11y/interactive-supports-focus": "off",
      "jsx-a11y/label-has-associated-control": [
        "error",
        { depth: 4, controlComponents: ["Switch.Root", "Checkbox.Root", "Switch", "Tickbox"] },
      ],
    },
  },
  {
    files: ["src/**/*.test.{ts,tsx}", "src/testing.tsx"],
    rules: { "@typescript-eslint/require-await": "off", "@typescript-eslint/unbound-method": "off" },
  },
  {
    // Figures are written by units.ts alone, in the units and the language of the shop.
    files: ["src/**/*.{ts,tsx}"],
    ignores: ["src/units.ts", "src/**/*.test.{ts,tsx}"],
    rules: {
      "no-restricted-syntax": [
        "error",
        {
          selector: "CallExpression[callee.property.name=/^(toFixed|toLocaleString|toPrecision)$/]",
          message: "Write figures with units.ts.",
        },
      ],
    },
  },
);
