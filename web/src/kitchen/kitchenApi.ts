/** Server state of the kitchen, and the backup of everything. */
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "../api/client";
import type { KitchenFile } from "../api/types";

export const kitchenQuery = queryOptions({
  queryKey: ["kitchen"],
  queryFn: () => answered(client.GET("/api/kitchen")),
});

export const saveKitchen = (kitchen: KitchenFile) => answered(client.PUT("/api/kitchen", { body: kitchen }));

export const BACKUP_ADDRESS = "/api/backup";

/** Sends the text of a backup as it is; the server says what is wrong with it. */
export const restoreBackup = (text: string) =>
  answered(
    client.POST("/api/restore", {
      body: text as unknown as Record<string, never>,
      bodySerializer: (body) => body as unknown as string,
      headers: { "Content-Type": "application/json" },
    }),
  );
