/** Where server answers stand in the cache: all of a match under `["match", id]`, all that belongs to no match under `["house"]`,
 * and nothing elsewhere. One function refreshes each. */
import { replaceEqualDeep, type Query, type QueryClient } from "@tanstack/react-query";

export type MatchPart =
  | "frame"
  | "study"
  | "builds"
  | "estimate"
  | "causes"
  | "batches"
  | "batch"
  | "cooks"
  | "cook"
  | "schedule"
  | "run"
  | "trials"
  | "trial"
  | "over time"
  | "photos"
  | "plate"
  | "moments"
  | "versions"
  | "version"
  | "held back"
  | "ways"
  | "measured"
  | "compared"
  | "rules"
  | "breaches"
  | "proposals";

export type HousePart =
  "kitchen" | "usual gear" | "pantry" | "matches" | "families" | "starter builds" | "packet rows" | "recipe";

export const matchKey = (matchId: string, part: MatchPart, ...rest: readonly unknown[]) =>
  ["match", matchId, part, ...rest] as const;

export const houseKey = (part: HousePart, ...rest: readonly unknown[]) => ["house", part, ...rest] as const;

/** Where a match is in the API. */
export const inMatch = (matchId: string) => ({ params: { path: { match_id: matchId } } });

/** Marks what changes a match on the server by itself: while one is under way, going back waits. */
export const changing = (matchId: string) => ["changing", matchId] as const;

/** Asks again for everything of a match but what was just answered; what is still on its way may be of before. */
export async function refreshMatch(queries: QueryClient, matchId: string, answered?: MatchPart) {
  const others = {
    queryKey: ["match", matchId],
    predicate: (query: Query) => query.queryKey[2] !== answered,
  };
  await queries.cancelQueries(others);
  await queries.invalidateQueries(others);
}

/** Asks again for everything that the house had a part in: itself, and whatever is open of any match. */
export async function refreshHouse(queries: QueryClient) {
  const all = { predicate: (query: Query) => query.queryKey[0] === "house" || query.queryKey[0] === "match" };
  await queries.cancelQueries(all);
  await queries.invalidateQueries(all);
}

/** The newest revision that any answer of a match told. */
export function latestRevision(queries: QueryClient, matchId: string): number {
  const answers = queries.getQueriesData({ queryKey: ["match", matchId] });
  return Math.max(0, ...answers.map(([, answer]) => revisionOf(answer)));
}

/** Whichever is of the later revision: an answer that was overtaken on its way changes nothing. */
export function newer(known: unknown, fresh: unknown): unknown {
  return revisionOf(known) > revisionOf(fresh) ? known : replaceEqualDeep(known, fresh);
}

const revisionOf = (answer: unknown) => (answer as { revision?: number } | undefined)?.revision ?? -1;
