/** Server state of versions and batches. */
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import { newer } from "../study/studyApi";

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

export interface BatchChange {
  batchId: string;
  pieces: string;
  leftOnTools: Record<string, string>;
}

export const saveBatch = (matchId: string, revision: number, change: BatchChange) =>
  answered(
    client.PUT("/api/matches/{match_id}/batches/{batch_id}", {
      params: { path: { match_id: matchId, batch_id: change.batchId } },
      body: { revision, pieces: change.pieces, left_on_tools: change.leftOnTools },
    }),
  );
