/** Server state of versions: the list, one from all sides, and what is worked out about it. */
import { queryOptions, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { useLocation } from "react-router";
import { answered, client } from "../api/client";
import type { RecipeAsked, VersionRecord, VersionView } from "../api/types";
import { inMatch, matchKey, newer, refreshMatch } from "../app/queries";
import { useSaver, type Desk } from "../app/saver";

export const versionsQuery = (matchId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "versions"),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/versions", { ...inMatch(matchId), signal })),
  });

const inVersion = (matchId: string, versionId: string) => ({
  params: { path: { match_id: matchId, version_id: versionId } },
});

export const versionQuery = (matchId: string, versionId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "version", versionId),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/versions/{version_id}", {
          ...inVersion(matchId, versionId),
          signal,
        }),
      ),
  });

export const heldBackQuery = (matchId: string, versionId: string, revision: number) =>
  queryOptions({
    queryKey: matchKey(matchId, "held back", versionId, revision),
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/versions/{version_id}/held-back", {
          ...inVersion(matchId, versionId),
          signal,
        }),
      ),
  });

export const waysQuery = (matchId: string, versionId: string, layerId: string, revision: number) =>
  queryOptions({
    queryKey: matchKey(matchId, "ways", versionId, layerId, revision),
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/versions/{version_id}/ways/{layer_id}", {
          params: { path: { match_id: matchId, version_id: versionId, layer_id: layerId } },
          signal,
        }),
      ),
  });

export const measuredQuery = (
  matchId: string,
  versionId: string,
  revision: number,
  by: "scale" | "spoons",
  pieces: number,
) =>
  queryOptions({
    queryKey: matchKey(matchId, "measured", versionId, revision, by, pieces),
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/versions/{version_id}/measured", {
          params: { path: { match_id: matchId, version_id: versionId }, query: { by, pieces } },
          signal,
        }),
      ),
  });

export const comparedQuery = (matchId: string, versionId: string, otherId: string, revision: number) =>
  queryOptions({
    queryKey: matchKey(matchId, "compared", versionId, otherId, revision),
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/versions/{version_id}/compared/{other_id}", {
          params: { path: { match_id: matchId, version_id: versionId, other_id: otherId } },
          signal,
        }),
      ),
  });

export interface Replacement {
  layer: string;
  line: string;
  ingredient: string;
}

/** Solves layers and keeps the amounts; one ingredient may give way to another first. */
export const solveVersion = (
  matchId: string,
  versionId: string,
  revision: number,
  layers: string[],
  replace: Replacement | null = null,
) =>
  answered(
    client.POST("/api/matches/{match_id}/versions/{version_id}/solve", {
      ...inVersion(matchId, versionId),
      body: { revision, layers, replace },
    }),
  );

export const beginLayerAgain = (
  matchId: string,
  versionId: string,
  revision: number,
  layer: string,
  family: string,
) =>
  answered(
    client.POST("/api/matches/{match_id}/versions/{version_id}/family", {
      ...inVersion(matchId, versionId),
      body: { revision, layer, family },
    }),
  );

export const startVersion = (matchId: string, revision: number, copyOf: string | null) =>
  answered(
    client.POST("/api/matches/{match_id}/versions/start", {
      ...inMatch(matchId),
      body: { revision, name: "", copy_of: copyOf },
    }),
  );

export const deleteVersion = (matchId: string, versionId: string, revision: number) =>
  answered(
    client.DELETE("/api/matches/{match_id}/versions/{version_id}", {
      ...inVersion(matchId, versionId),
      body: { revision },
    }),
  );

export const takeCompositions = (matchId: string, versionId: string, revision: number) =>
  answered(
    client.POST("/api/matches/{match_id}/versions/{version_id}/compositions", {
      ...inVersion(matchId, versionId),
      body: { revision },
    }),
  );

export const readRecipe = (recipe: RecipeAsked) => answered(client.POST("/api/recipe", { body: recipe }));

export const versionFromRecipe = (matchId: string, revision: number, recipe: RecipeAsked) =>
  answered(
    client.POST("/api/matches/{match_id}/versions/recipe", {
      ...inMatch(matchId),
      body: { revision, recipe, name: "" },
    }),
  );

export const matchFromRecipe = (recipe: RecipeAsked, name: string) =>
  answered(client.POST("/api/matches/from-recipe", { body: { recipe, name, region: "EU" } }));

/** One version as typed, edits not yet answered included, and how safe it is. */
export function useVersion(matchId: string, view: VersionView) {
  const queries = useQueryClient();
  const id = view.version.id;
  const desk = useMemo(() => versionDesk(queries, matchId, id), [queries, matchId, id]);
  const { draft, ...saver } = useSaver(desk);
  return { version: draft ?? view.version, ...saver };
}

function versionDesk(
  queries: QueryClient,
  matchId: string,
  versionId: string,
): Desk<VersionRecord, VersionView> {
  const { queryKey } = versionQuery(matchId, versionId);
  return {
    key: `fern-match:unsent:version:${matchId}:${versionId}`,
    known: () => {
      const known = queries.getQueryData(queryKey);
      return known ? { revision: known.revision, doc: known.version } : null;
    },
    send: ({ revision, doc }, decidedOn) =>
      answered(
        client.PUT("/api/matches/{match_id}/versions/{version_id}", {
          ...inVersion(matchId, versionId),
          body: { revision, version: doc, decided_on: decidedOn },
        }),
      ),
    take: (saved) => {
      queries.setQueryData(queryKey, saved);
      void refreshMatch(queries, matchId, "version");
    },
    newest: () =>
      answered(client.GET("/api/matches/{match_id}/versions/{version_id}", inVersion(matchId, versionId))),
  };
}

/** The version the page is about: the one Formulate shows; elsewhere the first one, where no estimate says what is in it. */
export function useShownVersion(matchId: string, estimated: boolean): VersionView | null {
  const { pathname, search } = useLocation();
  const formulating = pathname.endsWith("/formulate");
  const wanted = formulating || !estimated;
  const { data: list } = useQuery({ ...versionsQuery(matchId), enabled: wanted });
  const asked = formulating ? new URLSearchParams(search).get("version") : null;
  const chosen = list?.versions.find((one) => one.id === asked) ?? list?.versions[0];
  const { data } = useQuery({
    ...versionQuery(matchId, chosen?.id ?? ""),
    enabled: wanted && chosen !== undefined,
  });
  return wanted && chosen ? (data ?? null) : null;
}
