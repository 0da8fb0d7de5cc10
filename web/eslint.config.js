import js from "@eslint/js";
import { defineConfig } from "eslint/config";
import prettier from "eslint-config-prettier";
import svelte from "eslint-plugin-svelte";
import globals from "globals";
import ts from "typescript-eslint";
import svelteConfig from "./svelte.config.js";

/** @param {string[]} group @param {string} message @returns {import("eslint").Linter.RulesRecord} */
const elsewhere = (group, message) => ({ "no-restricted-imports": ["error", { patterns: [{ group, message }] }] });

export default defineConfig(
  { ignores: ["dist", "node_modules", "src/lib/api/schema.d.ts"] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  prettier,
  ...svelte.configs.prettier,
  { languageOptions: { globals: { ...globals.browser, ...globals.node } } },
  {
    files: ["**/*.svelte", "**/*.svelte.ts"],
    languageOptions: { parserOptions: { parser: ts.parser, extraFileExtensions: [".svelte"], svelteConfig } },
  },
  { rules: { "no-undef": "off", "svelte/no-navigation-without-resolve": "off" } },
  { files: ["src/lib/**"], rules: elsewhere(["**/stages/**", "**/frame/**"], "lib imports no stage and no frame") },
  { files: ["src/lib/document/**", "src/lib/units/**"], rules: elsewhere(["svelte", "*.svelte"], "plain TypeScript") },
  {
    files: ["src/stages/**"],
    rules: elsewhere(["../*/*", "**/frame/**"], "stages do not import each other"),
  },
  {
    files: ["src/**"],
    ignores: ["src/lib/api/**"],
    rules: { "no-restricted-globals": ["error", { name: "fetch", message: "only lib/api fetches" }] },
  },
);
