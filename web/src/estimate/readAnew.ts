/** A study that the evidence decided to read otherwise: done once for each study, said on the page, and taken back in one press. */
import { useEffect, useSyncExternalStore } from "react";
import type { Cause, Ready, Study } from "../api/types";
import { useMatch } from "../app/match";
import { keep, kept } from "../ui/storage";

export interface Anew {
  /** Of the estimates before and after. */
  from: string;
  to: string;
  title: string;
  fought: number;
  before: Study;
}

const MOST = 20;
const place = (matchId: string) => `fern-match:read-anew:${matchId}`;
const known = new Map<string, readonly Anew[]>();
const listeners = new Set<() => void>();

function listen(listener: () => void) {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

/** What was read anew of a match, the newest last. */
export function readAnew(matchId: string): readonly Anew[] {
  const here = known.get(matchId);
  if (here) return here;
  const all = parsed(kept(place(matchId)));
  known.set(matchId, all);
  return all;
}

function parsed(text: string | null): readonly Anew[] {
  try {
    return text ? (JSON.parse(text) as Anew[]) : [];
  } catch {
    return [];
  }
}

export function remember(matchId: string, one: Anew) {
  const all = [...readAnew(matchId), one].slice(-MOST);
  known.set(matchId, all);
  keep(place(matchId), JSON.stringify(all));
  for (const listener of [...listeners]) listener();
}

/** The cause by which a study is to be read anew: one that decides, and that was not taken for this very study before. */
export const deciding = (causes: readonly Cause[] | null, from: string, done: readonly Anew[]) =>
  causes?.find((one) => one.decides && one.key !== from && done.every((before) => before.from !== from));

/** Reads the study anew where a cause decides. Returns what the page is read by, and how to go back to how it was. */
export function useReadAnew(estimate: Ready, causes: readonly Cause[] | null) {
  const { matchId, study, estimateState, change } = useMatch();
  const done = useSyncExternalStore(listen, () => readAnew(matchId));
  const settled = estimateState.kind === "ready";
  const cause = settled ? deciding(causes, estimate.key, done) : undefined;
  const fought = estimate.evidence.filter((piece) => piece.pulls).length;
  useEffect(() => {
    if (!cause) return;
    remember(matchId, {
      from: estimate.key,
      to: cause.key,
      title: cause.title,
      fought,
      before: study.study,
    });
    change(() => cause.changed);
  }, [cause, matchId, estimate.key, fought, study.study, change]);
  const now = done.find((one) => one.to === estimate.key);
  return { now, back: () => now && change(() => now.before) };
}
