import js from "@eslint/js";
import jsxA11y from "eslint-plugin-jsx-a11y";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

// Folders by what they may import: features not each other, shared parts no feature, the API nothing of ours.
const FEATURES = ["study", "estimate", "batch", "kitchen", "matches", "history"];
const SHARED = ["ui", "frame"];

/** A folder, and the folders of ours that it must not import. */
const closed = (folder, others) => ({
  files: [`src/${folder}/**/*.{ts,tsx}`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          {
            group: others.map((other) => `**/${other}/**`),
            message: `${folder} does not know ${others.join(", ")}: put what both need into app, frame or ui.`,
          },
        ],
      },
    ],
  },
});

export default tseslint.config(
  { ignores: ["dist", "src/api/generated"] },
  js.configs.recommended,
  ...tseslint.configs.strictTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  jsxA11y.flatConfigs.recommended,
  reactHooks.configs.flat.recommended,
  {
    rules: {
      // Numbers in texts are written by ui/figures or are counts; both are meant.
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      "jsx-a11y/no-autofocus": "off", // a sheet of its own is opened to be typed into
    },
  },
  ...FEATURES.map((folder) => closed(folder, FEATURES.filter((other) => other !== folder))),
  ...SHARED.map((folder) => closed(folder, folder === "ui" ? [...FEATURES, "frame", "app"] : FEATURES)),
  closed("api", [...FEATURES, ...SHARED, "app"]),
);
