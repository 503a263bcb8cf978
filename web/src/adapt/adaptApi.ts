/** Server state of adapting: the rules, what breaks them, proposals, and keeping one. */
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import type { Asked } from "./asked";

const inVersion = (matchId: string, versionId: string) => ({
  path: { match_id: matchId, version_id: versionId },
});

export const rulesQuery = (matchId: string, versionId: string, revision: number) =>
  queryOptions({
    queryKey: ["rules", matchId, versionId, revision],
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/versions/{version_id}/adapt/rules", {
          params: inVersion(matchId, versionId),
          signal,
        }),
      ),
  });

export const breachesQuery = (matchId: string, versionId: string, revision: number, asked: Asked) =>
  queryOptions({
    queryKey: ["breaches", matchId, versionId, revision, asked],
    enabled: asked.rules.length > 0,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/versions/{version_id}/adapt/breaches", {
          params: {
            ...inVersion(matchId, versionId),
            query: {
              rule: asked.rules,
              ingredient: [...asked.forbidden, ...asked.required.map((one) => one.split(":")[1] ?? one)],
            },
          },
          signal,
        }),
      ),
  });

const proposed = (matchId: string, versionId: string, revision: number, asked: Asked, explain: boolean) =>
  queryOptions({
    queryKey: ["proposals", matchId, versionId, revision, asked, explain],
    enabled: asked.rules.length > 0,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/versions/{version_id}/adapt", {
          params: {
            ...inVersion(matchId, versionId),
            query: { rule: asked.rules, forbidden: asked.forbidden, required: asked.required, explain },
          },
          signal,
        }),
      ),
  });

export const proposalsQuery = (matchId: string, versionId: string, revision: number, asked: Asked) =>
  proposed(matchId, versionId, revision, asked, false);

/** The same with what keeps each proposal from being nearer, which takes as long again. */
export const explainedQuery = (matchId: string, versionId: string, revision: number, asked: Asked) => ({
  ...proposed(matchId, versionId, revision, asked, true),
  placeholderData: undefined,
});

export const keepProposal = (
  matchId: string,
  versionId: string,
  revision: number,
  asked: Asked & { system: string },
) =>
  answered(
    client.POST("/api/matches/{match_id}/versions/{version_id}/adapt", {
      params: inVersion(matchId, versionId),
      body: { revision, ...asked },
    }),
  );
