/** How many documents of the page are on their way to the server: while any is, going back would race with it. */
import { useEffect, useSyncExternalStore } from "react";

const listeners = new Set<() => void>();
let count = 0;

function add(change: number) {
  count += change;
  for (const listener of listeners) listener();
}

/** Counts while something is on its way. */
export function useCounted(underway: boolean) {
  useEffect(() => {
    if (!underway) return;
    add(1);
    return () => add(-1);
  }, [underway]);
}

/** Whether anything is on its way. */
export const useUnderway = () =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => {
        listeners.delete(listener);
      };
    },
    () => count > 0,
  );
