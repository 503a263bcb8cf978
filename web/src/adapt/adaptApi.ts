/** Server state of adapting: the rules, what breaks them, proposals, and keeping one. */
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { answered, client } from "../api/client";

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

export const breachesQuery = (matchId: string, versionId: string, revision: number, rule: string[]) =>
  queryOptions({
    queryKey: ["breaches", matchId, versionId, revision, rule],
    enabled: rule.length > 0,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/versions/{version_id}/adapt/breaches", {
          params: { ...inVersion(matchId, versionId), query: { rule } },
          signal,
        }),
      ),
  });

export const proposalsQuery = (
  matchId: string,
  versionId: string,
  revision: number,
  rule: string[],
  forbidden: string[],
) =>
  queryOptions({
    queryKey: ["proposals", matchId, versionId, revision, rule, forbidden],
    enabled: rule.length > 0,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/versions/{version_id}/adapt", {
          params: { ...inVersion(matchId, versionId), query: { rule, forbidden } },
          signal,
        }),
      ),
  });

export const keepProposal = (
  matchId: string,
  versionId: string,
  revision: number,
  asked: { rules: string[]; forbidden: string[]; system: string },
) =>
  answered(
    client.POST("/api/matches/{match_id}/versions/{version_id}/adapt", {
      params: inVersion(matchId, versionId),
      body: { revision, ...asked },
    }),
  );
