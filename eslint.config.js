import js from "./tests/script/node_modules/@eslint/js/src/index.js";
import globals from "./tests/script/node_modules/globals/index.js";

export default [
  js.configs.recommended,
  {
    files: ["**/*.js"],
    languageOptions: {
      ecmaVersion: 2023,
      sourceType: "module",
      globals: { ...globals.browser, htmx: "readonly", Idiomorph: "readonly", tus: "readonly", registerProcessor: "readonly", AudioWorkletProcessor: "readonly", sampleRate: "readonly" },
    },
    rules: { eqeqeq: "error", "prefer-const": "error", "no-var": "error", "no-implicit-globals": "error", "no-unused-vars": "error", "no-shadow": "error" },
  },
];
