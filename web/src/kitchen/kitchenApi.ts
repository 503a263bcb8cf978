/** Server state of the kitchen. */
import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";
import { answered, client, Refused } from "../api/client";
import type { KitchenFile } from "../api/types";

export const kitchenQuery = queryOptions({
  queryKey: ["kitchen"],
  queryFn: () => answered(client.GET("/api/kitchen")),
});

const saveKitchen = (kitchen: KitchenFile) => answered(client.PUT("/api/kitchen", { body: kitchen }));

/** Changes go out in order, each on the kitchen as last known; without the server they stand on the page and are tried again. */
export function useKitchenSaver() {
  const queries = useQueryClient();
  const { queryKey } = kitchenQuery;
  const saving = useMutation({
    scope: { id: "kitchen" },
    mutationFn: (part: Partial<KitchenFile>) =>
      saveKitchen({ ...queries.getQueryData(queryKey)?.kitchen, ...part } as KitchenFile),
    onMutate: (part) =>
      queries.setQueryData(
        queryKey,
        (known) => known && { ...known, kitchen: { ...known.kitchen, ...part } },
      ),
    onSuccess: (kitchen) => {
      queries.setQueryData(queryKey, kitchen);
      for (const key of ["batches", "study", "estimate"]) void queries.invalidateQueries({ queryKey: [key] });
    },
    retry: (_count, error) => !(error instanceof Refused),
    retryDelay: 2000,
  });
  return { change: saving.mutate, error: saving.error ?? saving.failureReason };
}
