/** Server state of versions and batches. */
import { queryOptions, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { answered, client } from "../api/client";
import type { Batches, BatchOut, BatchPlan } from "../api/types";
import { inMatch, matchKey, newer, refreshMatch } from "../app/queries";
import { useSaver, type Desk } from "../app/saver";

export const batchesQuery = (matchId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "batches"),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/batches", { ...inMatch(matchId), signal })),
  });

/** A plan with one cell of a table changed; an emptied cell goes. */
export const withCell = (
  plan: BatchPlan,
  table: "left_on_tools" | "in_house",
  key: string,
  typed: string,
): BatchPlan => ({
  ...plan,
  [table]: Object.fromEntries(
    Object.entries({ ...plan[table], [key]: typed }).filter(([, text]) => text.trim() !== ""),
  ),
});

/** One batch plan as typed, edits not yet answered included, and how safe it is. */
export function usePlan(matchId: string, batch: BatchOut) {
  const queries = useQueryClient();
  const id = batch.plan.id;
  const desk = useMemo(() => planDesk(queries, matchId, id), [queries, matchId, id]);
  const { draft, ...saver } = useSaver(desk);
  return { plan: draft ?? batch.plan, ...saver };
}

function planDesk(queries: QueryClient, matchId: string, batchId: string): Desk<BatchPlan, Batches> {
  const { queryKey } = batchesQuery(matchId);
  return {
    key: `fern-match:unsent:batch:${matchId}:${batchId}`,
    known: () => {
      const known = queries.getQueryData(queryKey);
      const batch = known?.batches.find((one) => one.plan.id === batchId);
      return known && batch ? { revision: known.revision, doc: batch.plan } : null;
    },
    send: ({ revision, doc }, decidedOn) =>
      answered(
        client.PUT("/api/matches/{match_id}/batches/{batch_id}", {
          params: { path: { match_id: matchId, batch_id: batchId } },
          body: { revision, plan: doc, decided_on: decidedOn },
        }),
      ),
    take: (saved) => {
      queries.setQueryData(queryKey, saved);
      void refreshMatch(queries, matchId, "batches");
    },
    newest: () => answered(client.GET("/api/matches/{match_id}/batches", inMatch(matchId))),
  };
}
