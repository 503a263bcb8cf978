/** Server state of versions: the list, one from all sides, and what is worked out about it. */
import { queryOptions, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { useLocation } from "react-router";
import { answered, client, workedOut } from "../api/client";
import type { RecipeAsked, Region, VersionRecord, VersionView } from "../api/types";
import { inMatch, matchKey, newer, refreshMatch } from "../app/queries";
import { useSaver, type Desk } from "../app/saver";
import { thisWindow } from "../app/windows";
import { chosenOf } from "../versions/inHand";

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
      workedOut(() =>
        answered(
          client.GET("/api/matches/{match_id}/versions/{version_id}/held-back", {
            params: { path: { match_id: matchId, version_id: versionId }, query: { window: thisWindow } },
            signal,
          }),
        ),
      ),
  });

export const waysQuery = (matchId: string, versionId: string, layerId: string, revision: number) =>
  queryOptions({
    queryKey: matchKey(matchId, "ways", versionId, layerId, revision),
    queryFn: ({ signal }) =>
      workedOut(() =>
        answered(
          client.GET("/api/matches/{match_id}/versions/{version_id}/ways/{layer_id}", {
            params: {
              path: { match_id: matchId, version_id: versionId, layer_id: layerId },
              query: { window: thisWindow },
            },
            signal,
          }),
        ),
      ),
  });

export const measuredQuery = (
  matchId: string,
  versionId: string,
  revision: number,
  by: "scale" | "spoons",
  pieces: string,
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

/** Makes a layer in a way that was seen, by its number. */
export const takeWay = (
  matchId: string,
  versionId: string,
  layerId: string,
  asked: { revision: number; key: string; number: number },
) =>
  answered(
    client.POST("/api/matches/{match_id}/versions/{version_id}/ways/{layer_id}", {
      params: { path: { match_id: matchId, version_id: versionId, layer_id: layerId } },
      body: asked,
    }),
  );

/** Stops what this window asked to be worked out about a version. */
export const stopWork = (matchId: string, versionId: string) =>
  answered(
    client.DELETE("/api/matches/{match_id}/versions/{version_id}/adapt/work", {
      params: { path: { match_id: matchId, version_id: versionId }, query: { window: thisWindow } },
    }),
  );

/** Solves layers and keeps the amounts; one ingredient may give way to another first. */
export const solveVersion = (
  matchId: string,
  versionId: string,
  revision: number,
  layers: string[],
  replace: Replacement | null,
  signal: AbortSignal,
) =>
  workedOut(() =>
    answered(
      client.POST("/api/matches/{match_id}/versions/{version_id}/solve", {
        ...inVersion(matchId, versionId),
        body: { revision, layers, replace, window: thisWindow },
        signal,
      }),
    ),
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

export const addLayer = (matchId: string, versionId: string, revision: number, family: string) =>
  answered(
    client.POST("/api/matches/{match_id}/versions/{version_id}/layers", {
      ...inVersion(matchId, versionId),
      body: { revision, family, name: "" },
    }),
  );

export const startVersion = (matchId: string, revision: number, copyOf: string | null) =>
  answered(
    client.POST("/api/matches/{match_id}/versions/start", {
      ...inMatch(matchId),
      body: { revision, name: "", copy_of: copyOf },
    }),
  );

/** `sure`: the user was told what goes along. */
export const deleteVersion = (matchId: string, versionId: string, revision: number, sure: boolean) =>
  answered(
    client.DELETE("/api/matches/{match_id}/versions/{version_id}", {
      ...inVersion(matchId, versionId),
      body: { revision, sure },
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

export const matchFromRecipe = (recipe: RecipeAsked, name: string, region: Region) =>
  answered(client.POST("/api/matches/from-recipe", { body: { recipe, name, region } }));

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

const ABOUT_A_VERSION = /\/(formulate|adapt|batch|cook|trials)$/;

/** The version the page is about: the one in hand; before there is an estimate, everywhere. */
export function useShownVersion(matchId: string, estimated: boolean): VersionView | null {
  const { pathname, search } = useLocation();
  const wanted = ABOUT_A_VERSION.test(pathname) || !estimated;
  const { data: list } = useQuery({ ...versionsQuery(matchId), enabled: wanted });
  const chosen = chosenOf(matchId, list?.versions ?? [], new URLSearchParams(search).get("version"));
  const { data } = useQuery({
    ...versionQuery(matchId, chosen?.id ?? ""),
    enabled: wanted && chosen !== undefined,
  });
  return wanted && chosen ? (data ?? null) : null;
}
