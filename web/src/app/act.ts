/** What the server does to a match by itself, such as making a version: after all that was typed has gone out, one at a time, on
 * the newest revision, and everything of the match is asked for again. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { changing, latestRevision, refreshMatch, type MatchPart } from "./queries";
import { allSent } from "./underway";

interface After<Answer, Asked> {
  /** As soon as it is done. */
  answered?: (answer: Answer, asked: Asked) => unknown;
  /** The part of the match that the answer is, which `answered` has put into the cache. */
  part?: MatchPart;
  /** When everything of the match has been asked for again. */
  then?: (answer: Answer, asked: Asked) => unknown;
}

/** An action on a match, as a mutation: `act` asks the server for it on a revision. */
export function useAct<Answer, Asked = void>(
  matchId: string,
  act: (revision: number, asked: Asked) => Promise<Answer>,
  { answered, part, then }: After<Answer, Asked> = {},
) {
  const queries = useQueryClient();
  return useMutation({
    mutationKey: changing(matchId),
    scope: { id: `acts-${matchId}` },
    mutationFn: async (asked: Asked) => {
      await allSent();
      return act(latestRevision(queries, matchId), asked);
    },
    onSuccess: async (answer, asked) => {
      await answered?.(answer, asked);
      const refreshed = refreshMatch(queries, matchId, part);
      if (part && !then) return; // its revision is known and the page shows it
      await refreshed;
      await then?.(answer, asked);
    },
    onError: () => refreshMatch(queries, matchId),
  });
}
