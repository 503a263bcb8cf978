/** Server state of the list of matches. */
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import type { Region } from "../api/types";
import { houseKey, inMatch } from "../app/queries";

export const matchesQuery = queryOptions({
  queryKey: houseKey("matches"),
  queryFn: () => answered(client.GET("/api/matches")),
  staleTime: 0,
});

/** A new match with what is known so far; the core knows what a label of its region is usually for. */
export const createMatch = (study: { name: string; maker: string; region: Region }) =>
  answered(
    client.POST("/api/matches", {
      body: { ...study, statement: "", sentence: "", layers: [], readings: [], thicknesses: [], doubted: [] },
    }),
  );

export const deleteMatch = (matchId: string) =>
  answered(client.DELETE("/api/matches/{match_id}", inMatch(matchId)));

export const bringBackMatch = (matchId: string) =>
  answered(client.POST("/api/matches/{match_id}/bring-back", inMatch(matchId)));

export const duplicateMatch = (matchId: string) =>
  answered(client.POST("/api/matches/{match_id}/duplicate", inMatch(matchId)));

export const archiveMatch = (matchId: string, archived: boolean) =>
  answered(client.POST("/api/matches/{match_id}/archive", { ...inMatch(matchId), body: { archived } }));

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
