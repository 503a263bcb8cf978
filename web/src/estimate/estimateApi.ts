/** Server state of the estimate: asked again while it is computed; the last one there was stays beside the news. */
import { queryOptions, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import type { Cause, EstimateOut, Missing, Ready } from "../api/types";
import { inMatch, matchKey } from "../app/queries";

export type EstimateState =
  | { kind: "ready" }
  | { kind: "computing"; done: number }
  | { kind: "not_yet"; missing: Missing[] }
  | { kind: "failed"; message: string };

interface News {
  revision: number;
  now: EstimateOut;
  /** The newest there is; none once there can be none. */
  ready: Ready | null;
}

const ASK_AGAIN_MS = 150;

export const estimateQuery = (queries: QueryClient, matchId: string) => {
  const queryKey = matchKey(matchId, "estimate");
  return queryOptions({
    queryKey,
    queryFn: async ({ signal }): Promise<News> => {
      const now = await answered(
        client.GET("/api/matches/{match_id}/estimate", { ...inMatch(matchId), signal }),
      );
      const before = queries.getQueryData<News>(queryKey)?.ready ?? null;
      const ready = now.status === "ready" ? now : now.status === "computing" ? before : null;
      return { revision: now.revision, now, ready };
    },
    refetchInterval: (query) => (query.state.data?.now.status === "computing" ? ASK_AGAIN_MS : false),
  });
};

/** The newest estimate there is, and whether a newer one is on its way. */
export function useEstimate(matchId: string) {
  const queries = useQueryClient();
  const { data, error, isFetching } = useQuery(estimateQuery(queries, matchId));
  return { estimate: data?.ready ?? null, state: stateOf(data?.now, error, isFetching) };
}

function stateOf(now: EstimateOut | undefined, error: Error | null, asking: boolean): EstimateState {
  if (error) return { kind: "failed", message: error.message };
  if (!now) return { kind: "computing", done: 0 };
  if (now.status === "computing") return { kind: "computing", done: now.done };
  if (now.status === "not_yet") return { kind: "not_yet", missing: now.missing };
  return asking ? { kind: "computing", done: 0 } : { kind: "ready" };
}

/** Why a study does not fit; null while it is looked for. Asked only where something pulls. */
export function useCauses(matchId: string, estimate: Ready): Cause[] | null {
  const { data } = useQuery({
    queryKey: matchKey(matchId, "causes", estimate.key),
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/estimate/causes", { ...inMatch(matchId), signal })),
    enabled: estimate.fit !== "fits",
    refetchInterval: (query) => (query.state.data?.status === "computing" ? ASK_AGAIN_MS : false),
  });
  return data?.status === "causes" ? data.causes : null;
}

/** Takes the estimate as a version; `how` says what becomes of one that is there already. */
export const takeEstimate = (
  matchId: string,
  revision: number,
  how: { replace?: boolean; keepBoth?: boolean },
) =>
  answered(
    client.POST("/api/matches/{match_id}/versions", {
      ...inMatch(matchId),
      body: { revision, replace: how.replace ?? false, keep_both: how.keepBoth ?? false },
    }),
  );
