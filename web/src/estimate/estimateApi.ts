/** Server state of the estimate: asked for at each revision, asked again while it is computed, the last one kept on screen. */
import { queryOptions, skipToken, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { answered, client } from "../api/client";
import type { Estimate, EstimateOut } from "../api/types";

export type EstimateState =
  | { kind: "ready" }
  | { kind: "computing"; done: number }
  | { kind: "not_yet"; sentences: string[] }
  | { kind: "failed"; message: string };

const ASK_AGAIN_MS = 150;
const lastKey = (matchId: string) => ["last-estimate", matchId];

const estimateQuery = (matchId: string, revision: number | null) =>
  queryOptions({
    queryKey: ["estimate", matchId, revision],
    queryFn:
      revision === null
        ? skipToken
        : ({ signal }): Promise<EstimateOut> =>
            answered(
              client.GET("/api/matches/{match_id}/estimate", {
                params: { path: { match_id: matchId } },
                signal,
              }),
            ),
    gcTime: 60_000,
    refetchInterval: (query) => (query.state.data?.status === "computing" ? ASK_AGAIN_MS : false),
  });

/** The newest estimate there is, and whether a newer one is on its way. */
export function useEstimate(matchId: string, revision: number | null) {
  const queries = useQueryClient();
  const { data, error } = useQuery(estimateQuery(matchId, revision));
  const ready = data?.status === "ready" ? data : null;
  useEffect(() => {
    if (ready) queries.setQueryData(lastKey(matchId), ready);
    if (data?.status === "not_yet") queries.setQueryData(lastKey(matchId), null);
  }, [ready, data, matchId, queries]);
  const last = queries.getQueryData<Estimate | null>(lastKey(matchId)) ?? null;
  const estimate = ready ?? (data?.status === "not_yet" ? null : last);
  return { estimate, state: stateOf(data, error) };
}

function stateOf(data: EstimateOut | undefined, error: Error | null): EstimateState {
  if (error) return { kind: "failed", message: error.message };
  if (!data) return { kind: "computing", done: 0 };
  if (data.status === "ready") return { kind: "ready" };
  return data.status === "computing"
    ? { kind: "computing", done: data.done }
    : { kind: "not_yet", sentences: data.sentences };
}
