/** How many documents of the page are on their way to the server: while any is, going back or making something of what is typed
 * would race with it. */
import { useSyncExternalStore } from "react";

const listeners = new Set<() => void>();
let count = 0;

function listen(listener: () => void) {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

function add(change: number) {
  count += change;
  for (const listener of [...listeners]) listener();
}

/** Counts something that is on its way, until the answer is called. */
export function counted(): () => void {
  add(1);
  return () => add(-1);
}

/** Whether anything is on its way. */
export const useUnderway = () => useSyncExternalStore(listen, () => count > 0);

const MOST_WAIT_MS = 10_000;
const NOT_SENT =
  "What was typed last has not reached the server yet. It is kept here; try this again when it has.";

/** Waits until nothing is on its way any more; fails where that takes too long. */
export function allSent(): Promise<void> {
  return new Promise((done, fail) => {
    if (count === 0) {
      done();
      return;
    }
    const late = setTimeout(() => {
      leave();
      fail(new Error(NOT_SENT));
    }, MOST_WAIT_MS);
    const leave = listen(() => {
      if (count > 0) return;
      clearTimeout(late);
      leave();
      done();
    });
  });
}
