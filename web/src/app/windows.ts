/** Which window of the browser this is, and which others are open: unsent edits belong to one window, and a closed one's are
 * taken over by the next. */

import { keep, kept, keptKeys, letGo } from "../ui/storage";

const OPEN = "fern-match:window:";
const BEAT_MS = 2000;
const GONE_MS = 7000;

export const thisWindow = Math.random().toString(36).slice(2, 10);

/** Whether a window is still open: its last sign of life is recent. */
export function isOpen(windowId: string): boolean {
  const seen = Number(kept(OPEN + windowId) ?? 0);
  return windowId === thisWindow || Date.now() - seen < GONE_MS;
}

/** Gives signs of life while the page is open. */
export function keepAlive() {
  const beat = () => keep(OPEN + thisWindow, String(Date.now()));
  beat();
  const timer = setInterval(beat, BEAT_MS);
  window.addEventListener("pagehide", () => {
    clearInterval(timer);
    letGo(OPEN + thisWindow);
  });
  window.addEventListener("pageshow", (event) => {
    if (event.persisted) beat();
  });
}

/** Takes over the oldest thing that a window, now closed, left under a name; null where there is none. */
export function takeOver(name: string): string | null {
  for (const key of keptKeys()) {
    if (!key.startsWith(`${name}:`)) continue;
    const owner = key.slice(name.length + 1);
    if (isOpen(owner)) continue;
    const left = kept(key);
    letGo(key);
    if (left) return left;
  }
  return null;
}
