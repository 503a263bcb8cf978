/** How each step of a match was left: its address, so that one comes back to the same part, rules and side. */
import { useEffect } from "react";
import { useLocation } from "react-router";
import { STEPS } from "./steps";

const searches = new Map<string, string>();
/** What belongs to one version: another one may be in hand when one comes back. */
const OF_A_VERSION = ["version", "batch", "cook", "trial", "with"];

/** Remembers the address of the step that is open. */
export function useLeaving(matchId: string) {
  const { pathname, search } = useLocation();
  useEffect(() => {
    const step = STEPS.find((one) => pathname === `/m/${matchId}/${one.id}`);
    if (step) searches.set(`${matchId}/${step.id}`, search);
  }, [matchId, pathname, search]);
}

/** The query with which a step is gone back to. */
export function leftAt(matchId: string, step: string): string {
  const search = new URLSearchParams(searches.get(`${matchId}/${step}`) ?? "");
  for (const name of OF_A_VERSION) search.delete(name);
  const kept = search.toString();
  return kept && `?${kept}`;
}
