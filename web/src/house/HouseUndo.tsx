import { useQuery } from "@tanstack/react-query";
import { Button, Notice } from "../ui/Parts";
import { kitchenQuery, useHouseHistory } from "../kitchen/kitchenApi";

/** The last change of kitchen and pantry back, and again; each says what it would do. */
export function HouseUndo({ busy = false }: { busy?: boolean }) {
  const { data: kitchen } = useQuery(kitchenQuery);
  const stepping = useHouseHistory();
  if (!kitchen) return null;
  const { undo, redo } = kitchen.undo_state;
  if (!undo && !redo) return null;
  const steps = [
    ["undo", "Undo", undo],
    ["redo", "Redo", redo],
  ] as const;
  return (
    <div>
      <p className="flex gap-2">
        {steps.map(([step, title, words]) => (
          <Button
            key={step}
            disabled={busy || stepping.isPending || !words}
            aria-label={words ? `${title}, kitchen: ${words}` : `Nothing to ${step} in the kitchen`}
            title={words ?? undefined}
            onClick={() => stepping.mutate(step)}
          >
            {title}
          </Button>
        ))}
      </p>
      {stepping.error && (
        <div role="alert" className="mt-2 max-w-sm">
          <Notice>{stepping.error.message}</Notice>
        </div>
      )}
    </div>
  );
}
