import reactHooks from "eslint-plugin-react-hooks";
import jsxA11y from "eslint-plugin-jsx-a11y";
import tseslint from "typescript-eslint";

export default tseslint.config(
  {
    ignores: [
      "dist",
      "node_modules",
      "src/api/schema.d.ts",
      "eslint.config.js",
      "check-source.mjs",
      "compress.mjs",
      "guide-pages.mjs",
    ],
  },
  ...tseslint.configs.strictTypeChecked,
  jsxA11y.flatConfigs.strict,
  {
    languageOptions: { parserOptions: { projectService: true } },
    plugins: { "react-hooks": reactHooks },
    rules: {
      // The rules of hooks alone: those of the compiler, which is not used, take a third of the time.
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "warn",
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": "off",
      // A quarter of the whole check for packages that are locked anyway.
      "@typescript-eslint/no-deprecated": "off",
      // Half of the check again, for what the rules of unsafe values say already.
      "@typescript-eslint/no-unsafe-class-instance-assignment": "off",
      "@typescript-eslint/no-unsafe-enum-assignment": "off",
      // An area worked by keys as a whole, as a picture that is moved.
      "jsx-a11y/no-noninteractive-tabindex": ["error", { roles: ["application"] }],
      "max-lines": ["error", { max: 400 }],
    },
  },
);
