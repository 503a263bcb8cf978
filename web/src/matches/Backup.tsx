import { useMutation, useQueryClient } from "@tanstack/react-query";
import { FileButton } from "../ui/FileButton";
import { Notice } from "../ui/Parts";
import { BACKUP_ADDRESS, restoreBackup } from "./matchesApi";

/** Everything out into one file, and in again. */
export function Backup() {
  const queries = useQueryClient();
  const restoring = useMutation({
    mutationFn: async (chosen: File) => restoreBackup(await chosen.text()),
    onSuccess: () => {
      void queries.invalidateQueries(); // matches, and perhaps the kitchen
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
        <FileButton label="Backup to restore" onChoose={(file) => restoring.mutate(file)}>
          Restore a backup
        </FileButton>
      </p>
      {restoring.data && (
        <p role="status" className="mt-2 text-sm text-ink-2">
          {restoring.data.words}
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
