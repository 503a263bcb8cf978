/** Server state of adapting: the rules, what breaks them, proposals, and keeping one. */
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { answered, client, workedOut } from "../api/client";
import type { AdaptedOut } from "../api/types";
import { matchKey } from "../app/queries";
import { thisWindow } from "../app/windows";
import type { Asked } from "./asked";

const inVersion = (matchId: string, versionId: string) => ({
  path: { match_id: matchId, version_id: versionId },
});

export const rulesQuery = (matchId: string, versionId: string, revision: number) =>
  queryOptions({
    queryKey: matchKey(matchId, "rules", versionId, revision),
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
    queryKey: matchKey(matchId, "breaches", versionId, revision, asked),
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

const asQuery = ({ rules, forbidden, required }: Asked) => ({
  rule: rules,
  forbidden,
  required,
  window: thisWindow,
});

export const proposalsQuery = (matchId: string, versionId: string, revision: number, asked: Asked) =>
  queryOptions({
    queryKey: matchKey(matchId, "proposals", versionId, revision, asked),
    enabled: asked.rules.length > 0,
    retry: false,
    placeholderData: (known: AdaptedOut | undefined, query): AdaptedOut | undefined =>
      query?.queryKey[3] === versionId ? known : undefined,
    queryFn: ({ signal }) =>
      workedOut(() =>
        answered(
          client.GET("/api/matches/{match_id}/versions/{version_id}/adapt", {
            params: { ...inVersion(matchId, versionId), query: asQuery(asked) },
            signal,
          }),
        ),
      ),
  });

/** What keeps each proposal from being nearer; asked for once they stand there. */
export const proposalsHeldBackQuery = (matchId: string, versionId: string, key: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "held back", versionId, key),
    retry: false,
    queryFn: ({ signal }) =>
      workedOut(() =>
        answered(
          client.GET("/api/matches/{match_id}/versions/{version_id}/adapt/held-back", {
            params: { ...inVersion(matchId, versionId), query: { key, window: thisWindow } },
            signal,
          }),
        ),
      ),
  });

/** Keeps a proposal as it was seen, with the names its layers are to have. */
export const keepProposal = (
  matchId: string,
  versionId: string,
  asked: { revision: number; key: string; system: string; names: Record<string, string> },
) =>
  answered(
    client.POST("/api/matches/{match_id}/versions/{version_id}/adapt", {
      params: inVersion(matchId, versionId),
      body: asked,
    }),
  );
