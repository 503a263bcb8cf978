import { readdirSync } from "node:fs";
import js from "@eslint/js";
import jsxA11y from "eslint-plugin-jsx-a11y";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

// Folders by what they may import: of each other, features only what they ask the server (their *Api), shared parts the same,
// ui and frame no feature, the API nothing of ours. A further folder is a feature until it is named here.
const SHARED = ["ui", "frame", "versions", "house"];
const FEATURES = readdirSync(new URL("src", import.meta.url), { withFileTypes: true })
  .filter((entry) => entry.isDirectory() && ![...SHARED, "app", "api"].includes(entry.name))
  .map((entry) => entry.name);

/** A folder, and the folders of ours that it must not import. */
const closed = (folder, others, doors = []) => ({
  files: [`src/${folder}/**/*.{ts,tsx}`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          {
            group: [...others.map((other) => `**/${other}/**`), ...doors],
            message: `${folder} does not know ${others.join(", ")}: put what both need into app, frame, house, ui or versions.`,
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
  ...FEATURES.map((folder) =>
    closed(
      folder,
      FEATURES.filter((other) => other !== folder),
      ["!**/*Api"],
    ),
  ),
  closed("ui", [...FEATURES, "frame", "versions", "house", "app"]),
  closed("frame", [...FEATURES, "versions", "house"]),
  closed("versions", [...FEATURES, "house"], ["!**/*Api"]),
  closed("house", [...FEATURES, "versions"], ["!**/*Api"]),
  closed("api", [...FEATURES, ...SHARED, "app"]),
);
