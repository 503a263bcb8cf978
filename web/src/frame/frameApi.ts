/** Server state of the frame: what stands round every step of a match. */
import { queryOptions } from "@tanstack/react-query";
import { answered, client, Refused } from "../api/client";
import { inMatch, matchKey, newer } from "../app/queries";

export const frameQuery = (matchId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "frame"),
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/frame", { ...inMatch(matchId), signal })),
    structuralSharing: newer,
    retry: (count, error) => !(error instanceof Refused) && count < 3,
  });
