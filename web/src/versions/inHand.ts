/** The version in hand: the one that was last chosen in a match. Every step that works on a version opens that one. */
import { useEffect } from "react";
import { useSearchParams } from "react-router";

const inHand = new Map<string, string>();

/** Of the versions there are, the one in the address, else the one last chosen, else the first. */
export function chosenOf<One extends { id: string }>(
  matchId: string,
  versions: readonly One[],
  asked: string | null,
): One | undefined {
  const by = (id: string | null | undefined) => versions.find((one) => one.id === id);
  return by(asked) ?? by(inHand.get(matchId)) ?? versions[0];
}

/** Takes a version in hand. */
export const takeInHand = (matchId: string, versionId: string) => inHand.set(matchId, versionId);

/** The version that a page works on; it is in hand from then on. */
export function useInHand<One extends { id: string }>(
  matchId: string,
  versions: readonly One[] | undefined,
): One | undefined {
  const [search] = useSearchParams();
  const chosen = chosenOf(matchId, versions ?? [], search.get("version"));
  const id = chosen?.id;
  useEffect(() => {
    if (id !== undefined) takeInHand(matchId, id);
  }, [matchId, id]);
  return chosen;
}
