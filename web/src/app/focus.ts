/** Where the keyboard stands when what had the focus goes: at what is nearest to where it was, not lost on the page. */
import { useEffect } from "react";

const FOCUSABLE =
  'a[href], button:not([disabled]), input:not([disabled]), select:not([disabled]), textarea:not([disabled]), [tabindex="0"]';
/** How long a page may take to settle: longer than an answer of the server usually does. */
const SETTLED_MS = [0, 60, 250, 800];

/** Keeps the focus near where it was when its element goes away or is disabled. */
export function useKeptFocus() {
  useEffect(() => {
    let trail: { parent: Element; at: number }[] = [];
    let last: Element | null = null;
    let timers: ReturnType<typeof setTimeout>[] = [];
    const remember = (event: FocusEvent) => {
      timers.forEach(clearTimeout);
      last = event.target as Element;
      trail = [];
      for (let one: Element = last; one.parentElement; one = one.parentElement) {
        trail.push({ parent: one.parentElement, at: [...one.parentElement.children].indexOf(one) });
      }
    };
    const look = () => {
      const here = document.activeElement;
      if ((here && here !== document.body) || !last) return;
      if (last.isConnected && !last.matches(":disabled")) return; // it was left on purpose
      nearest(trail)?.focus();
    };
    const left = () => {
      timers = SETTLED_MS.map((wait) => setTimeout(look, wait));
    };
    // An element that is taken out says nothing of it in every browser: its place is watched.
    const watch = new MutationObserver(() => {
      if (
        last &&
        (!last.isConnected || last.matches(":disabled")) &&
        document.activeElement === document.body
      ) {
        left();
      }
    });
    document.addEventListener("focusin", remember);
    document.addEventListener("focusout", left);
    watch.observe(document.body, {
      childList: true,
      subtree: true,
      attributes: true,
      attributeFilter: ["disabled"],
    });
    return () => {
      document.removeEventListener("focusin", remember);
      document.removeEventListener("focusout", left);
      watch.disconnect();
      timers.forEach(clearTimeout);
    };
  }, []);
}

/** What can take the focus in the innermost part that is still there: what moved into the place first, else what is before it. */
function nearest(trail: readonly { parent: Element; at: number }[]): HTMLElement | null {
  for (const { parent, at } of trail) {
    if (parent === document.body) return null; // beyond the page or the dialog it was in: whoever closed it says where to go
    if (!parent.isConnected || parent.querySelector("main")) continue;
    const children = [...parent.children];
    for (const child of [...children.slice(at), ...children.slice(0, at).reverse()]) {
      const found = child.matches(FOCUSABLE) ? child : child.querySelector(FOCUSABLE);
      if (found instanceof HTMLElement) return found;
    }
  }
  return null;
}
