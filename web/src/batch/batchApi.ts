/** Server state of versions and batches. */
import { queryOptions, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { answered, client } from "../api/client";
import type { Batch, Batches, Typed } from "../api/types";
import { useSaver, type Desk } from "../app/saver";
import { newer, studyQuery } from "../study/studyApi";

const path = (matchId: string) => ({ params: { path: { match_id: matchId } } });

export const batchesQuery = (matchId: string) =>
  queryOptions({
    queryKey: ["batches", matchId],
    structuralSharing: (known, fresh) => newer(known, fresh),
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/batches", { ...path(matchId), signal })),
  });

export const takeEstimate = (matchId: string, revision: number) =>
  answered(client.POST("/api/matches/{match_id}/versions", { ...path(matchId), body: { revision } }));

/** A batch plan as typed. */
export interface Plan {
  pieces: string;
  left_on_tools: Record<string, string>;
  in_house: Record<string, string>;
}

const typedOf = (cells: Record<string, Typed>) =>
  Object.fromEntries(Object.entries(cells).map(([key, cell]) => [key, cell.typed]));

const planOf = (batch: Batch): Plan => ({
  pieces: batch.pieces.typed,
  left_on_tools: typedOf(batch.left_on_tools),
  in_house: typedOf(batch.in_house),
});

/** A plan with one cell of a table changed; an emptied cell goes. */
export const withCell = (
  plan: Plan,
  table: "left_on_tools" | "in_house",
  key: string,
  typed: string,
): Plan => ({
  ...plan,
  [table]: Object.fromEntries(
    Object.entries({ ...plan[table], [key]: typed }).filter(([, text]) => text.trim() !== ""),
  ),
});

/** One batch plan as typed, edits not yet answered included, and how safe it is. */
export function usePlan(matchId: string, batch: Batch) {
  const queries = useQueryClient();
  const desk = useMemo(() => planDesk(queries, matchId, batch.id), [queries, matchId, batch.id]);
  const { draft, change, saving, resolve } = useSaver(desk);
  return { plan: draft ?? planOf(batch), change, saving, resolve };
}

function planDesk(queries: QueryClient, matchId: string, batchId: string): Desk<Plan, Batches> {
  const { queryKey } = batchesQuery(matchId);
  return {
    key: `fern-match:unsent:batch:${matchId}:${batchId}`,
    known: () => {
      const known = queries.getQueryData(queryKey);
      const batch = known?.batches.find((one) => one.id === batchId);
      return known && batch ? { revision: known.revision, doc: planOf(batch) } : null;
    },
    send: ({ revision, doc }, preferMine) =>
      answered(
        client.PUT("/api/matches/{match_id}/batches/{batch_id}", {
          params: { path: { match_id: matchId, batch_id: batchId } },
          body: { revision, ...doc, prefer_mine: preferMine },
        }),
      ),
    take: (saved) => {
      queries.setQueryData(queryKey, saved);
      void queries.invalidateQueries({ queryKey: ["moments", matchId] });
      void queries.invalidateQueries({ queryKey: studyQuery(matchId).queryKey });
    },
    newest: () => answered(client.GET("/api/matches/{match_id}/batches", path(matchId))),
  };
}
