/** Keys that work outside fields: g then a digit goes to a step; single keys can be switched off. */
import { useEffect, useRef } from "react";
import { keep, kept, letGo } from "../ui/storage";

export interface KeyActions {
  goTo: (step: number) => void;
  undo: () => void;
  redo: () => void;
  changes: () => void;
  jump: () => void;
  kitchen: () => void;
  help: () => void;
}

const OFF = "fern-match:single-keys-off";
const CHORD_MS = 1500;

export const singleKeysOff = () => kept(OFF) !== null;

export function switchSingleKeys(on: boolean) {
  if (on) letGo(OFF);
  else keep(OFF, "yes");
}

/** The action a key press asks for; null where it belongs to a field, a sheet or the browser. */
export function actionOf(event: KeyboardEvent, afterG: boolean): keyof KeyActions | "g" | null {
  if (document.querySelector('[role="dialog"]')) return null;
  const key = event.key.toLowerCase();
  if (event.ctrlKey || event.metaKey) {
    if (event.altKey || (key !== "z" && key !== "y") || isTyped(event.target)) return null;
    return key === "y" || event.shiftKey ? "redo" : "undo";
  }
  if (event.altKey || singleKeysOff() || inField(event.target)) return null;
  if (afterG && /^[1-7]$/.test(key)) return "goTo";
  const single: Record<string, keyof KeyActions | "g"> = {
    g: "g",
    c: "changes",
    j: "jump",
    k: "kitchen",
    "?": "help",
  };
  return single[key] ?? null;
}

/** Whether keys mean something to what has the focus: letters go into it, or choose in it. */
const inField = (target: EventTarget | null) =>
  isTyped(target) || target instanceof HTMLInputElement || target instanceof HTMLSelectElement;

/** Whether text is typed in it, which has a way back of its own; in a cell that one only stands on nothing is typed. */
function isTyped(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement) {
    return target.dataset.cell !== "ready" && !/^(checkbox|radio|range|file|button|color)$/.test(target.type);
  }
  return target instanceof HTMLElement && (target.isContentEditable || target instanceof HTMLTextAreaElement);
}

/** Listens while the page is shown. */
export function useKeys(actions: KeyActions) {
  const latest = useRef(actions);
  useEffect(() => {
    latest.current = actions;
  });
  useEffect(() => {
    let pressedG = 0;
    const listen = (event: KeyboardEvent) => {
      const action = actionOf(event, event.timeStamp - pressedG < CHORD_MS && pressedG > 0);
      if (action === null) return;
      if (action === "g") {
        pressedG = event.timeStamp;
        return;
      }
      pressedG = 0;
      event.preventDefault();
      if (action === "goTo") latest.current.goTo(Number(event.key));
      else latest.current[action]();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}
