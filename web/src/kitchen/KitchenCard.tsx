import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import type { KitchenFile } from "../api/types";
import { matchesQuery } from "../matches/matchesApi";
import { Cell } from "../ui/Cell";
import { Button, Notice } from "../ui/Parts";
import { BACKUP_ADDRESS, kitchenQuery, restoreBackup, saveKitchen } from "./kitchenApi";

/** The kitchen: what amounts are weighed and scooped with; and everything out into one file and in again. */
export function KitchenCard() {
  const queries = useQueryClient();
  const { data } = useQuery(kitchenQuery);
  const saving = useMutation({
    scope: { id: "kitchen" },
    mutationFn: saveKitchen,
    onSuccess: (kitchen) => {
      queries.setQueryData(kitchenQuery.queryKey, kitchen);
      void queries.invalidateQueries({ queryKey: ["batches"] });
    },
  });
  if (!data) return null;
  const change = (part: Partial<KitchenFile>) => saving.mutate({ ...data.kitchen, ...part });
  return (
    <section aria-labelledby="kitchen" className="rounded-lg border border-line bg-card px-5 py-4">
      <h2 id="kitchen" className="mb-3 text-lg">
        Kitchen
      </h2>
      <div className="space-y-3" data-cells>
        <Cell
          showLabel
          label="Smallest step of the scale"
          value={data.kitchen.scale_step ?? ""}
          problem={data.scale_step.problem}
          placeholder="0.1 g"
          onCommit={(typed) => change({ scale_step: typed })}
        />
        <Pick
          label="Spoons and cups"
          value={data.kitchen.measures ?? "metric"}
          options={[
            ["metric", "metric: 5, 15, 250 mL"],
            ["US", "US: 4.9, 14.8, 237 mL"],
            ["UK", "UK: 5, 15, 284 mL"],
            ["AU", "Australian: 5, 20, 250 mL"],
          ]}
          onPick={(measures) => change({ measures: measures as KitchenFile["measures"] })}
        />
        <Pick
          label="Beside grams, show"
          value={data.kitchen.mass_unit ?? "g"}
          options={[
            ["g", "nothing more"],
            ["oz", "ounces"],
          ]}
          onPick={(unit) => change({ mass_unit: unit as KitchenFile["mass_unit"] })}
        />
        {saving.error && <Notice>{saving.error.message}</Notice>}
      </div>
      <Backup />
    </section>
  );
}

function Pick(props: {
  label: string;
  value: string;
  options: [string, string][];
  onPick: (value: string) => void;
}) {
  return (
    <label className="block">
      <span className="mb-0.5 block text-sm text-ink-2">{props.label}</span>
      <select
        className="w-full rounded border border-line bg-card px-2 py-1"
        value={props.value}
        onChange={(event) => props.onPick(event.target.value)}
      >
        {props.options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

function Backup() {
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
    <div className="mt-5 border-t border-line pt-3">
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
    </div>
  );
}
