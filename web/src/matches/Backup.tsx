import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { kitchenQuery } from "../kitchen/kitchenApi";
import { Button, Notice } from "../ui/Parts";
import { BACKUP_ADDRESS, matchesQuery, restoreBackup } from "./matchesApi";

/** Everything out into one file, and in again. */
export function Backup() {
  const queries = useQueryClient();
  const file = useRef<HTMLInputElement>(null);
  const restoring = useMutation({
    mutationFn: async (chosen: File) => restoreBackup(await chosen.text()),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: matchesQuery.queryKey });
      void queries.invalidateQueries({ queryKey: kitchenQuery.queryKey });
    },
  });
  return (
    <section aria-labelledby="backup" className="rounded-lg border border-line px-5 py-4">
      <h2 id="backup" className="mb-2 text-lg">
        Keep safe
      </h2>
      <p className="flex gap-4">
        <a
          className="text-fern-700 underline decoration-fern-200 underline-offset-2"
          href={BACKUP_ADDRESS}
          download
        >
          Back up everything
        </a>
        <Button look="bare" onClick={() => file.current?.click()}>
          Restore a backup
        </Button>
      </p>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        aria-label="Backup to restore"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) restoring.mutate(chosen);
          event.target.value = "";
        }}
      />
      {restoring.data && (
        <p role="status" className="mt-2 text-sm text-ink-2">
          {restoring.data.added} restored, {restoring.data.already_here} were already here.
        </p>
      )}
      {restoring.error && (
        <div role="alert" className="mt-2">
          <Notice>{restoring.error.message}</Notice>
        </div>
      )}
    </section>
  );
}
