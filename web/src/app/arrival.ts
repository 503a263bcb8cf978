/** Where the keyboard stands after one has gone to another page: on its main part, not lost on the page. */
import { useEffect, type RefObject } from "react";

/** How long a dialog that closes may take to let go of the focus. */
const FRAMES = 30;

/** Moves the focus to the main part when the place changes and nothing else takes it. */
export function useArrival(main: RefObject<HTMLElement | null>, place: string) {
  useEffect(() => {
    let next = 0;
    const look = (left: number) => {
      const here = document.activeElement;
      const lost = here === null || here === document.body;
      if (lost && main.current) main.current.focus({ preventScroll: true });
      else if (left > 0) next = requestAnimationFrame(() => look(left - 1));
    };
    next = requestAnimationFrame(() => look(FRAMES));
    return () => cancelAnimationFrame(next);
  }, [main, place]);
}
