/** Server state of the list of matches. */
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import type { Study } from "../api/types";

export const matchesQuery = queryOptions({
  queryKey: ["matches"],
  queryFn: () => answered(client.GET("/api/matches")),
  staleTime: 0,
});

export const createMatch = (study: Study) => answered(client.POST("/api/matches", { body: study }));

export const deleteMatch = (matchId: string) =>
  answered(client.DELETE("/api/matches/{match_id}", { params: { path: { match_id: matchId } } }));

const path = (matchId: string) => ({ params: { path: { match_id: matchId } } });

export const bringBackMatch = (matchId: string) =>
  answered(client.POST("/api/matches/{match_id}/bring-back", path(matchId)));

export const duplicateMatch = (matchId: string) =>
  answered(client.POST("/api/matches/{match_id}/duplicate", path(matchId)));

export const archiveMatch = (matchId: string, archived: boolean) =>
  answered(client.POST("/api/matches/{match_id}/archive", { ...path(matchId), body: { archived } }));

/** Sends the text of a match file as it is; the server says what is wrong with it. */
export const importMatch = (text: string) =>
  answered(
    client.POST("/api/matches/import", {
      body: text as unknown as Record<string, never>,
      bodySerializer: (body) => body as unknown as string,
      headers: { "Content-Type": "application/json" },
    }),
  );

export const exportAddress = (matchId: string) => `/api/matches/${encodeURIComponent(matchId)}/export`;

export const BACKUP_ADDRESS = "/api/backup";

/** Sends the text of a backup as it is; the server says what is wrong with it. */
export const restoreBackup = (text: string) =>
  answered(
    client.POST("/api/restore", {
      body: text as unknown as Record<string, never>,
      bodySerializer: (body) => body as unknown as string,
      headers: { "Content-Type": "application/json" },
    }),
  );
