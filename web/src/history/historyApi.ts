/** Server state of the history: undo, redo, moments. */
import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import { batchesQuery } from "../batch/batchApi";
import { studyQuery } from "../study/studyApi";

const path = (matchId: string) => ({ params: { path: { match_id: matchId } } });

export const momentsQuery = (matchId: string) =>
  queryOptions({
    queryKey: ["moments", matchId],
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/moments", { ...path(matchId), signal })),
    staleTime: 0,
  });

export type Step = { kind: "undo" } | { kind: "redo" } | { kind: "return"; number: number };

/** Goes back, forth, or to a moment; everything that hangs on the match is asked for again. */
export function useHistory(matchId: string) {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `history-${matchId}` },
    mutationFn: (step: Step) => {
      const revision = Math.max(
        queries.getQueryData(studyQuery(matchId).queryKey)?.revision ?? 0,
        queries.getQueryData(batchesQuery(matchId).queryKey)?.revision ?? 0,
      );
      if (step.kind === "return") {
        const body = { revision, number: step.number };
        return answered(client.POST("/api/matches/{match_id}/return", { ...path(matchId), body }));
      }
      const body = { revision };
      return step.kind === "undo"
        ? answered(client.POST("/api/matches/{match_id}/undo", { ...path(matchId), body }))
        : answered(client.POST("/api/matches/{match_id}/redo", { ...path(matchId), body }));
    },
    onSuccess: (study) => {
      queries.setQueryData(studyQuery(matchId).queryKey, study);
      void queries.invalidateQueries({ queryKey: ["batches", matchId] });
      void queries.invalidateQueries({ queryKey: ["moments", matchId] });
    },
    onError: () => queries.invalidateQueries({ queryKey: studyQuery(matchId).queryKey }),
  });
}
