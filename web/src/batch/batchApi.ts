/** Server state of versions and batches. */
import { queryOptions, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { answered, client } from "../api/client";
import type { BatchOut, BatchPlan } from "../api/types";
import { inMatch, matchKey, newer, refreshMatch } from "../app/queries";
import { useSaver, type Desk } from "../app/saver";

export const batchesQuery = (matchId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "batches"),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/batches", { ...inMatch(matchId), signal })),
  });

export const batchQuery = (matchId: string, batchId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "batch", batchId),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/batches/{batch_id}", { ...inBatch(matchId, batchId), signal }),
      ),
  });

const inBatch = (matchId: string, batchId: string) => ({
  params: { path: { match_id: matchId, batch_id: batchId } },
});

/** One more batch, planned as another is. */
export const anotherBatch = (matchId: string, like: string, revision: number) =>
  answered(client.POST("/api/matches/{match_id}/batches", { ...inMatch(matchId), body: { revision, like } }));

export const deleteBatch = (matchId: string, batchId: string, revision: number) =>
  answered(
    client.DELETE("/api/matches/{match_id}/batches/{batch_id}", {
      ...inBatch(matchId, batchId),
      body: { revision },
    }),
  );

/** A plan with one cell of a table changed; an emptied cell goes. */
export const withCell = (
  plan: BatchPlan,
  table: "left_on_tools" | "in_house" | "left_over",
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

function planDesk(queries: QueryClient, matchId: string, batchId: string): Desk<BatchPlan, BatchOut> {
  const { queryKey } = batchQuery(matchId, batchId);
  return {
    key: `fern-match:unsent:batch:${matchId}:${batchId}`,
    known: () => {
      const known = queries.getQueryData(queryKey);
      return known ? { revision: known.revision, doc: known.plan } : null;
    },
    send: ({ revision, doc }, decidedOn) =>
      answered(
        client.PUT("/api/matches/{match_id}/batches/{batch_id}", {
          ...inBatch(matchId, batchId),
          body: { revision, plan: doc, decided_on: decidedOn },
        }),
      ),
    take: (saved) => {
      queries.setQueryData(queryKey, saved);
      void refreshMatch(queries, matchId, "batch");
    },
    newest: () =>
      answered(client.GET("/api/matches/{match_id}/batches/{batch_id}", inBatch(matchId, batchId))),
  };
}
