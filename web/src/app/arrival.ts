/** Where the keyboard stands after one has gone to another page: on its main part, not lost on the page. */
import { useEffect, type RefObject } from "react";

/** How long a dialog that closes may take to let go of the focus. */
const FRAMES = 30;

/** Begins each page at its top, and moves the focus to it when the place changes and nothing else takes it. */
export function useArrival(main: RefObject<HTMLElement | null>, page: string, place: string) {
  useEffect(() => {
    main.current?.scrollTo({ top: 0 });
  }, [main, page]);
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
