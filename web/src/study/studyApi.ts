/** Server state of the study: one query, and saves that go out in order, each on the revision it was made on. */
import { queryOptions, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { answered, client, Refused } from "../api/client";
import type { Study, StudyOut } from "../api/types";
import { houseKey, inMatch, matchKey, newer, refreshMatch } from "../app/queries";
import { useSaver, type Desk } from "../app/saver";

export type StudyChange = (study: Study) => Study;

export const studyQuery = (matchId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "study"),
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/study", { ...inMatch(matchId), signal })),
    structuralSharing: newer,
    retry: (count, error) => !(error instanceof Refused) && count < 3,
  });

export const pantryQuery = queryOptions({
  queryKey: houseKey("pantry"),
  queryFn: () => answered(client.GET("/api/pantry")),
});
export const familiesQuery = queryOptions({
  queryKey: houseKey("families"),
  queryFn: () => answered(client.GET("/api/families")),
});
export const starterBuildsQuery = queryOptions({
  queryKey: houseKey("starter builds"),
  queryFn: () => answered(client.GET("/api/starter-builds")),
});

/** Adds an ingredient of the match's own from a packet's figures, taken for a name. */
export const addIngredient = (
  matchId: string,
  body: { revision: number; item: string; name: string; serving: string; rows: Record<string, string> },
) => answered(client.POST("/api/matches/{match_id}/study/ingredients", { ...inMatch(matchId), body }));

export const readPanel = (matchId: string, text: string) =>
  answered(client.POST("/api/matches/{match_id}/study/panel", { ...inMatch(matchId), body: { text } }));

export const proposedBuildsQuery = (matchId: string, revision: number) =>
  queryOptions({
    queryKey: matchKey(matchId, "builds", revision),
    queryFn: () => answered(client.GET("/api/matches/{match_id}/study/builds", inMatch(matchId))),
  });

/** The study as typed, edits not yet answered included, and how safe it is. */
export function useStudy(matchId: string) {
  const queries = useQueryClient();
  const { data, error } = useQuery(studyQuery(matchId));
  const desk = useMemo(() => studyDesk(queries, matchId), [queries, matchId]);
  const { draft, ...saver } = useSaver(desk);
  const study: StudyOut | undefined = data && draft ? { ...data, study: draft } : data;
  return { study, error, ...saver };
}

function studyDesk(queries: QueryClient, matchId: string): Desk<Study, StudyOut> {
  const { queryKey } = studyQuery(matchId);
  return {
    key: `fern-match:unsent:study:${matchId}`,
    known: () => {
      const known = queries.getQueryData(queryKey);
      return known ? { revision: known.revision, doc: known.study } : null;
    },
    send: ({ revision, doc }, decidedOn) =>
      answered(
        client.PUT("/api/matches/{match_id}/study", {
          ...inMatch(matchId),
          body: { revision, study: doc, decided_on: decidedOn },
        }),
      ),
    take: (saved) => {
      queries.setQueryData(queryKey, saved);
      void refreshMatch(queries, matchId, "study");
    },
    newest: () => answered(client.GET("/api/matches/{match_id}/study", inMatch(matchId))),
  };
}
