import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useMatch } from "../app/match";
import { latestRevision, refreshMatch } from "../app/queries";
import { Button, Notice } from "../ui/Parts";
import { Sheet } from "../ui/Sheet";
import { addIngredient } from "./studyApi";

const FIGURES = [
  ["fat", "Fat"],
  ["saturates", "of which saturates"],
  ["carbohydrate", "Carbohydrate, without fibre"],
  ["sugars", "of which sugars"],
  ["fibre", "Fibre"],
  ["polyols", "Polyols"],
  ["protein", "Protein"],
  ["salt", "Salt"],
  ["alcohol", "Alcohol"],
] as const;

/** A name outside the pantry becomes an ingredient of this match, from the figures on its packet. */
export function OwnIngredient({ item, name, onDone }: { item: string; name: string; onDone: () => void }) {
  const { matchId } = useMatch();
  const queries = useQueryClient();
  const [called, setCalled] = useState(name);
  const [figures, setFigures] = useState<Record<string, string>>({});
  const adding = useMutation({
    mutationFn: () =>
      addIngredient(matchId, { revision: latestRevision(queries, matchId), item, name: called, figures }),
    onSuccess: async () => {
      await refreshMatch(queries, matchId);
      onDone();
    },
  });
  return (
    <Sheet title={`“${name}”, from its packet`} open onClose={onDone}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          adding.mutate();
        }}
      >
        <p className="mb-3 text-ink-2">
          Grams per 100 g. What the packet does not say counts as none; what is left counts as water.
        </p>
        <label className="mb-3 block">
          <span className="block text-sm text-ink-2">Name</span>
          <input
            className="w-full rounded border border-line bg-card px-2 py-1"
            value={called}
            maxLength={120}
            onChange={(event) => setCalled(event.target.value)}
          />
        </label>
        <div className="grid grid-cols-2 gap-x-4 gap-y-2">
          {FIGURES.map(([row, title]) => (
            <label key={row} className="flex items-center justify-between gap-2">
              <span className="text-sm">{title}</span>
              <input
                className="w-24 rounded border border-line bg-card px-2 py-1 text-right"
                inputMode="decimal"
                value={figures[row] ?? ""}
                maxLength={80}
                onChange={(event) => setFigures({ ...figures, [row]: event.target.value })}
              />
            </label>
          ))}
        </div>
        {adding.error && (
          <div role="alert" className="mt-3">
            <Notice>{adding.error.message}</Notice>
          </div>
        )}
        <p className="mt-4">
          <Button look="main" type="submit" disabled={adding.isPending}>
            Add and take it
          </Button>
        </p>
      </form>
    </Sheet>
  );
}
