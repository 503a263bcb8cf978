/** A taster's plate: found by its own token, and of no match that this device may know. */
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import { matchKey } from "../app/queries";

const at = (matchId: string, trialId: string, token: string) => ({
  params: { path: { match_id: matchId, trial_id: trialId, token } },
});

export const plateQuery = (matchId: string, trialId: string, token: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "plate", trialId, token),
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/taste/{match_id}/{trial_id}/{token}", { ...at(matchId, trialId, token), signal }),
      ),
  });

export const answerPlate = (
  matchId: string,
  trialId: string,
  token: string,
  answer: string,
  taster: string,
) =>
  answered(
    client.POST("/api/taste/{match_id}/{trial_id}/{token}", {
      ...at(matchId, trialId, token),
      body: { answer, taster },
    }),
  );

/** Where a taster opens a plate. */
export const plateAddress = (matchId: string, trialId: string, token: string) =>
  `${window.location.origin}/taste/${matchId}/${trialId}/${token}`;
