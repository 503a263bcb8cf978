/** Photos of a match. A picture is sent as it is; the server makes it upright, small and plain. */
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import { inMatch, matchKey, newer } from "../app/queries";

export const photosQuery = (matchId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "photos"),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/photos", { ...inMatch(matchId), signal })),
  });

export const addPhoto = (
  matchId: string,
  of: "original" | "copy",
  trial: string | null,
  file: File,
  revision: number,
) =>
  answered(
    client.POST("/api/matches/{match_id}/photos", {
      params: { path: { match_id: matchId }, query: { revision, of, ...(trial ? { trial } : {}) } },
      body: file as unknown as string,
      bodySerializer: (body) => body as unknown as BodyInit,
      headers: { "Content-Type": file.type || "image/jpeg" },
    }),
  );

const inPhoto = (matchId: string, photoId: string) => ({
  params: { path: { match_id: matchId, photo_id: photoId } },
});

export const writePhoto = (matchId: string, photoId: string, wide: string, words: string, revision: number) =>
  answered(
    client.PUT("/api/matches/{match_id}/photos/{photo_id}", {
      ...inPhoto(matchId, photoId),
      body: { revision, wide, words },
    }),
  );

export const deletePhoto = (matchId: string, photoId: string, revision: number) =>
  answered(
    client.DELETE("/api/matches/{match_id}/photos/{photo_id}", {
      ...inPhoto(matchId, photoId),
      body: { revision },
    }),
  );
