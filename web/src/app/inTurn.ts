/** What is asked for while something else is under way waits for it; nothing pressed is lost. */
import { useEffect, useRef } from "react";

/** Asks at once, or as soon as nothing is under way any more: one after the other, in the order pressed. */
export function useInTurn<Asked>(busy: boolean, run: (asked: Asked) => void): (asked: Asked) => void {
  const waiting = useRef<Asked[]>([]);
  useEffect(() => {
    if (busy) return;
    const next = waiting.current.shift();
    if (next !== undefined) run(next);
  });
  return (asked) => {
    if (busy) waiting.current.push(asked);
    else run(asked);
  };
}
