/** Server state of trials, and what is typed in one. */
import { queryOptions, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { answered, client } from "../api/client";
import type { Trial, TrialOut, Typed } from "../api/types";
import { inMatch, matchKey, newer, refreshMatch } from "../app/queries";
import { useSaver, type Desk } from "../app/saver";

export const trialsQuery = (matchId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "trials"),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/trials", { ...inMatch(matchId), signal })),
  });

/** While the estimate of the original is being computed, what was weighed of the copy alone waits for it. */
const WAIT_MS = 800;

export const trialQuery = (matchId: string, trialId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "trial", trialId),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/trials/{trial_id}", { ...inTrial(matchId, trialId), signal }),
      ),
    refetchInterval: ({ state }) => (state.data?.estimate_under_way ? WAIT_MS : false),
  });

export const overTimeQuery = (matchId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "over time"),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/trials/over-time", { ...inMatch(matchId), signal })),
  });

export const inTrial = (matchId: string, trialId: string) => ({
  params: { path: { match_id: matchId, trial_id: trialId } },
});

export const beginTrial = (matchId: string, batch: string, cook: string | null, revision: number) =>
  answered(
    client.POST("/api/matches/{match_id}/trials", { ...inMatch(matchId), body: { revision, batch, cook } }),
  );

export const deleteTrial = (matchId: string, trialId: string, revision: number) =>
  answered(
    client.DELETE("/api/matches/{match_id}/trials/{trial_id}", {
      ...inTrial(matchId, trialId),
      body: { revision },
    }),
  );

export const takeNext = (matchId: string, trialId: string, changes: string[], revision: number) =>
  answered(
    client.POST("/api/matches/{match_id}/trials/{trial_id}/next", {
      ...inTrial(matchId, trialId),
      body: { revision, changes },
    }),
  );

export const serve = (
  matchId: string,
  trialId: string,
  tastingId: string,
  tasters: string[],
  revision: number,
) =>
  answered(
    client.POST("/api/matches/{match_id}/trials/{trial_id}/tastings/{tasting_id}/serve", {
      params: { path: { match_id: matchId, trial_id: trialId, tasting_id: tastingId } },
      body: { revision, tasters },
    }),
  );

export const takeLearnt = (matchId: string, batch: string, layer: string, revision: number) =>
  answered(
    client.POST("/api/matches/{match_id}/trials/learnt", {
      ...inMatch(matchId),
      body: { revision, batch, layer },
    }),
  );

/** One trial as typed, edits not yet answered included, and how safe it is. */
export function useTrial(matchId: string, trial: TrialOut) {
  const queries = useQueryClient();
  const id = trial.trial.id;
  const desk = useMemo(() => trialDesk(queries, matchId, id), [queries, matchId, id]);
  const { draft, ...saver } = useSaver(desk);
  return { typed: draft ?? trial.trial, ...saver };
}

function trialDesk(queries: QueryClient, matchId: string, trialId: string): Desk<Trial, TrialOut> {
  const { queryKey } = trialQuery(matchId, trialId);
  return {
    key: `fern-match:unsent:trial:${matchId}:${trialId}`,
    known: () => {
      const known = queries.getQueryData(queryKey);
      return known ? { revision: known.revision, doc: known.trial } : null;
    },
    send: ({ revision, doc }, decidedOn) =>
      answered(
        client.PUT("/api/matches/{match_id}/trials/{trial_id}", {
          ...inTrial(matchId, trialId),
          body: { revision, trial: doc, decided_on: decidedOn },
        }),
      ),
    take: (saved) => {
      queries.setQueryData(queryKey, saved);
      void refreshMatch(queries, matchId, "trial");
    },
    newest: () =>
      answered(client.GET("/api/matches/{match_id}/trials/{trial_id}", inTrial(matchId, trialId))),
  };
}

/** What a trial holds by key: readings by layer, what was reached, what went in. */
export type Keyed = "weighed" | "thick" | "reached" | "went_in" | "came_out" | "left";
type SizeKey = "length" | "width" | "height";

/** What stands in a field named by core, such as "weighed.cream" or "size.length". */
export function typedAt(trial: Trial, field: string): string {
  const [name, key] = parted(field);
  if (name === "size") return trial.size?.[key as SizeKey] ?? "";
  return trial[name as Keyed]?.[key] ?? "";
}

/** A trial with a field named by core changed; an emptied one is taken away. */
export function withTyped(trial: Trial, field: string, value: string): Trial {
  const [name, key] = parted(field);
  if (name === "size") {
    const size = trial.size ?? { length: "", width: "", height: "" };
    return { ...trial, size: { ...size, [key]: value } };
  }
  return { ...trial, [name]: withKey(trial[name as Keyed], key, value) };
}

/** A mapping with a text under a key; an empty one is taken away. */
export function withKey(known: Readonly<Record<string, string>> | undefined, key: string, value: string) {
  const others = Object.entries(known ?? {}).filter(([one]) => one !== key);
  return Object.fromEntries(value.trim() ? [...others, [key, value]] : others);
}

function parted(field: string): [string, string] {
  const dot = field.indexOf(".");
  return [field.slice(0, dot), field.slice(dot + 1)];
}

/** What core read of a field. */
export const cellAt = (trial: TrialOut, field: string): Typed | undefined => trial.cells[field];

export type Change = (update: (old: Trial) => Trial) => void;
