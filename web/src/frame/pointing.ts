/** Pointing at a layer anywhere points at it everywhere. Elements are marked where they stand, so that no table is rendered
 * anew for it; only what is drawn about the pointed layer listens. */
import { useCallback, useSyncExternalStore } from "react";

const marked = new Map<string, Set<Element>>();
const listeners = new Set<() => void>();
let pointed: string | null = null;

/** Points at a layer, or at none. */
export function point(layerId: string | null) {
  if (layerId === pointed) return;
  for (const element of marked.get(pointed ?? "") ?? []) element.removeAttribute("data-pointed");
  pointed = layerId;
  for (const element of marked.get(pointed ?? "") ?? []) element.setAttribute("data-pointed", "");
  for (const listener of listeners) listener();
}

/** Props of an element that stands for a layer: pointing at it points at the layer, and it is marked while that is pointed at. */
export function usePointable(layerId: string | null) {
  const ref = useCallback(
    (element: Element | null) => {
      if (!element || layerId === null) return;
      const same = marked.get(layerId) ?? new Set<Element>();
      marked.set(layerId, same.add(element));
      element.toggleAttribute("data-pointed", pointed === layerId);
      return () => {
        same.delete(element);
      };
    },
    [layerId],
  );
  return { ref, onPointerEnter: () => point(layerId), onPointerLeave: () => point(null) };
}

/** The layer that is pointed at; whoever asks is rendered when that changes. */
export const usePointed = () =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => {
        listeners.delete(listener);
      };
    },
    () => pointed,
  );
