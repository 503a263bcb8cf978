/** Server state of the kitchen. */
import { queryOptions, useMutation, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { answered, client } from "../api/client";
import type { Kitchen, KitchenOut } from "../api/types";
import { houseKey, newer, refreshHouse } from "../app/queries";
import { useSaver, type Desk } from "../app/saver";

export const kitchenQuery = queryOptions({
  queryKey: houseKey("kitchen"),
  queryFn: () => answered(client.GET("/api/kitchen")),
  structuralSharing: newer,
});

/** Usual sizes of gear, in this kitchen’s measures. */
export const usualGearQuery = queryOptions({
  queryKey: houseKey("usual gear"),
  queryFn: () => answered(client.GET("/api/kitchen/usual-gear")),
});

/** The kitchen as typed, changes not yet answered included, and how safe they are. */
export function useKitchen() {
  const queries = useQueryClient();
  const { data, error } = useQuery(kitchenQuery);
  const desk = useMemo(() => kitchenDesk(queries), [queries]);
  const { draft, ...saver } = useSaver(desk);
  const kitchen: KitchenOut | undefined = data && draft ? { ...data, kitchen: draft } : data;
  return { kitchen, error, ...saver };
}

/** The way back and forth of the whole house, pantry included; the first save of either is one change. */
export function useHouseHistory() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (step: "undo" | "redo") => {
      const body = { revision: queries.getQueryData(kitchenQuery.queryKey)?.revision ?? 0 };
      return step === "undo"
        ? answered(client.POST("/api/kitchen/undo", { body }))
        : answered(client.POST("/api/kitchen/redo", { body }));
    },
    onSuccess: (kept) => queries.setQueryData(kitchenQuery.queryKey, kept),
    onSettled: () => refreshHouse(queries),
  });
}

function kitchenDesk(queries: QueryClient): Desk<Kitchen, KitchenOut> {
  const { queryKey } = kitchenQuery;
  return {
    key: "fern-match:unsent:kitchen",
    known: () => {
      const known = queries.getQueryData(queryKey);
      return known ? { revision: known.revision, doc: known.kitchen } : null;
    },
    send: ({ revision, doc }, decidedOn) =>
      answered(client.PUT("/api/kitchen", { body: { revision, kitchen: doc, decided_on: decidedOn } })),
    take: (saved) => {
      queries.setQueryData(queryKey, saved);
      void refreshHouse(queries);
    },
    newest: () => answered(client.GET("/api/kitchen")),
  };
}
