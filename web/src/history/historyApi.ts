/** Server state of the history: undo, redo, what changed. */
import { infiniteQueryOptions, useMutation, useQueryClient } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import { inMatch, latestRevision, matchKey, refreshMatch } from "../app/queries";

export const momentsQuery = (matchId: string) =>
  infiniteQueryOptions({
    queryKey: matchKey(matchId, "moments"),
    queryFn: ({ signal, pageParam }) =>
      answered(
        client.GET("/api/matches/{match_id}/moments", {
          params: { path: { match_id: matchId }, query: pageParam === null ? {} : { before: pageParam } },
          signal,
        }),
      ),
    initialPageParam: null as number | null,
    getNextPageParam: (page) => {
      const oldest = page.at(-1);
      return oldest && oldest.number > 1 ? oldest.number : undefined;
    },
    staleTime: 0,
  });

export type HistoryStep = { kind: "undo" } | { kind: "redo" } | { kind: "return"; number: number };

/** Goes back, forth, or to a revision; everything of the match is asked for again. */
export function useHistory(matchId: string) {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `history-${matchId}` },
    mutationFn: (step: HistoryStep) => {
      const revision = latestRevision(queries, matchId);
      const where = inMatch(matchId);
      switch (step.kind) {
        case "undo":
          return answered(client.POST("/api/matches/{match_id}/undo", { ...where, body: { revision } }));
        case "redo":
          return answered(client.POST("/api/matches/{match_id}/redo", { ...where, body: { revision } }));
        case "return": {
          const body = { revision, number: step.number };
          return answered(client.POST("/api/matches/{match_id}/return", { ...where, body }));
        }
      }
    },
    onSettled: () => refreshMatch(queries, matchId),
  });
}
