/** Server state of the study: one query, and saves that go out in order, each on the revision it was made on. */
import {
  queryOptions,
  replaceEqualDeep,
  useQuery,
  useQueryClient,
  type QueryClient,
} from "@tanstack/react-query";
import { useMemo } from "react";
import { answered, client, Refused } from "../api/client";
import type { Study, StudyOut } from "../api/types";
import { useSaver, type Desk } from "../app/saver";

export type StudyChange = (study: Study) => Study;
const path = (matchId: string) => ({ params: { path: { match_id: matchId } } });

export const studyQuery = (matchId: string) =>
  queryOptions({
    queryKey: ["study", matchId],
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/study", { ...path(matchId), signal })),
    structuralSharing: (known, fresh) => newer(known, fresh),
    retry: (count, error) => !(error instanceof Refused) && count < 3,
  });

/** Whichever is of the later revision: an answer that was overtaken on its way changes nothing. */
export function newer(known: unknown, fresh: unknown): unknown {
  const revision = (value: unknown) => (value as { revision?: number } | undefined)?.revision ?? -1;
  return revision(known) > revision(fresh) ? known : replaceEqualDeep(known, fresh);
}

export const pantryQuery = queryOptions({
  queryKey: ["pantry"],
  queryFn: () => answered(client.GET("/api/pantry")),
});
export const familiesQuery = queryOptions({
  queryKey: ["families"],
  queryFn: () => answered(client.GET("/api/families")),
});
export const starterBuildsQuery = queryOptions({
  queryKey: ["starter-builds"],
  queryFn: () => answered(client.GET("/api/starter-builds")),
});

/** The study as typed, edits not yet answered included, and how safe it is. */
export function useStudy(matchId: string) {
  const queries = useQueryClient();
  const { data, error } = useQuery(studyQuery(matchId));
  const desk = useMemo(() => studyDesk(queries, matchId), [queries, matchId]);
  const { draft, change, saving, resolve } = useSaver(desk);
  const study: StudyOut | undefined = data && draft ? { ...data, study: draft } : data;
  return { study, error, change, saving, resolve };
}

function studyDesk(queries: QueryClient, matchId: string): Desk<Study, StudyOut> {
  const { queryKey } = studyQuery(matchId);
  return {
    key: `fern-match:unsent:study:${matchId}`,
    known: () => {
      const known = queries.getQueryData(queryKey);
      return known ? { revision: known.revision, doc: known.study } : null;
    },
    send: ({ revision, doc }, preferMine) =>
      answered(
        client.PUT("/api/matches/{match_id}/study", {
          ...path(matchId),
          body: { revision, study: doc, prefer_mine: preferMine },
        }),
      ),
    take: (saved) => {
      queries.setQueryData(queryKey, saved);
      void queries.invalidateQueries({ queryKey: ["moments", matchId] });
    },
    newest: () => answered(client.GET("/api/matches/{match_id}/study", path(matchId))),
  };
}
