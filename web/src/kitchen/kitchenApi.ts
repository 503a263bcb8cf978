/** Server state of the kitchen. */
import { queryOptions, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { answered, client } from "../api/client";
import type { KitchenFile, KitchenOut } from "../api/types";
import { useSaver, type Desk } from "../app/saver";

export const kitchenQuery = queryOptions({
  queryKey: ["kitchen"],
  queryFn: () => answered(client.GET("/api/kitchen")),
});

/** What is typed and not yet answered; the server keeps the fields that are left out. */
export type KitchenChange = Partial<KitchenFile>;

/** The kitchen as typed, changes not yet answered included, and how safe they are. */
export function useKitchen() {
  const queries = useQueryClient();
  const { data, error } = useQuery(kitchenQuery);
  const desk = useMemo(() => kitchenDesk(queries), [queries]);
  const { draft, change, saving, resolve } = useSaver(desk);
  const kitchen: KitchenOut | undefined =
    data && draft ? { ...data, kitchen: { ...data.kitchen, ...draft } } : data;
  return { kitchen, error, change, saving, resolve };
}

function kitchenDesk(queries: QueryClient): Desk<KitchenChange, KitchenOut> {
  const { queryKey } = kitchenQuery;
  return {
    key: "fern-match:unsent:kitchen",
    known: () => (queries.getQueryData(queryKey) ? { revision: 0, doc: {} } : null),
    send: ({ doc }) => answered(client.PATCH("/api/kitchen", { body: doc })),
    take: (saved) => {
      queries.setQueryData(queryKey, saved);
      for (const key of ["batches", "study", "estimate"]) void queries.invalidateQueries({ queryKey: [key] });
    },
    newest: () => answered(client.GET("/api/kitchen")),
  };
}
