import type { Region } from "../api/types";

/** Whose labels can be read, and what they are called. */
export const REGIONS: readonly (readonly [Region, string])[] = [
  ["EU", "European Union"],
  ["UK", "United Kingdom"],
  ["CA", "Canada"],
  ["AU", "Australia, New Zealand"],
  ["US", "United States"],
];
