/** What is asked for, as it stands in the address: `keto:4/serving`, an ingredient's id, a layer and an ingredient's id. */
export interface Asked {
  /** Rules by their ids, with a limit behind a colon. */
  rules: string[];
  /** Ingredients that are not wanted. */
  forbidden: string[];
  /** Ingredients that must be used, each as layer:ingredient. */
  required: string[];
}

export const kindOf = (rule: string) => rule.split(":")[0] ?? rule;

/** The limit as typed; nothing where the rule's own holds. */
export const limitOf = (rule: string) => rule.split(":")[1]?.split("/")[0];

/** What a limit is for, as it is asked for; nothing for a piece. */
export const basisOf = (basis: string) => (basis === "piece" ? "" : basis.replace(" ", ""));

/** A rule asked for with a limit. */
export const withLimit = (id: string, typed: string, basis: string) =>
  `${id}:${typed}${basis ? `/${basis}` : ""}`;

export const readAsked = (search: URLSearchParams): Asked => ({
  rules: search.getAll("rule"),
  forbidden: search.getAll("without"),
  required: search.getAll("with"),
});

/** The address for what is asked of a version. */
export const toSearch = (version: string, asked: Asked): [string, string][] => [
  ["version", version],
  ...asked.rules.map((one): [string, string] => ["rule", one]),
  ...asked.forbidden.map((one): [string, string] => ["without", one]),
  ...asked.required.map((one): [string, string] => ["with", one]),
];

/** The rules that are named as the nearest, all that are to be asked for. */
export const nearestRules = (nearest: string): string[] => nearest.split(", ").filter(Boolean);
