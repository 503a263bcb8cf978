/** What is being typed and not yet committed, so that a reload brings it back. It belongs to this tab alone. */
import { useCallback, useRef, useState } from "react";
import { keep, kept, letGo } from "./storage";

const TYPING = "fern-match:typing:";

/** A text under way: null while nothing is typed. `latest` has it before the next render. */
export function useTyping(field: string) {
  const key = `${TYPING}${window.location.pathname}:${field}`;
  const [draft, setDraft] = useState<string | null>(() => kept(key, "sessionStorage"));
  const latest = useRef<string | null>(draft);
  const write = useCallback(
    (text: string | null) => {
      latest.current = text;
      setDraft(text);
      if (text === null) letGo(key, "sessionStorage");
      else keep(key, text, "sessionStorage");
    },
    [key],
  );
  return { draft, latest, write };
}
