import type { VersionNote } from "../api/types";
import { Button } from "../ui/Parts";

const TITLES: Record<VersionNote["kind"], string> = {
  mind: "To be said and minded",
  cook: "In the cook",
  eater: "Who eats it will notice",
};

/** What adapting taught of a version: it goes with it through every step, on paper too. */
export function Taught(props: {
  notes: readonly VersionNote[];
  open?: boolean;
  /** Lets go of a note that no longer holds, as of an ingredient that has gone out again. */
  onDrop?: (id: string) => void;
}) {
  const { notes, open = false, onDrop } = props;
  const kinds = (["mind", "cook", "eater"] as const).filter((kind) => notes.some((one) => one.kind === kind));
  if (kinds.length === 0) return null;
  return (
    <details open={open} className="mb-3 rounded-lg border border-line bg-card px-4 py-2">
      <summary className="cursor-pointer font-head font-semibold">What goes with this version</summary>
      {kinds.map((kind) => (
        <section key={kind} className="mt-2">
          <h3 className="text-sm font-semibold">{TITLES[kind]}</h3>
          <ul className="space-y-1 text-sm">
            {notes
              .filter((one) => one.kind === kind)
              .map((one) => (
                <li key={one.id}>
                  {one.text}{" "}
                  {onDrop && (
                    <Button look="bare" aria-label={`drop: ${one.text}`} onClick={() => onDrop(one.id)}>
                      drop
                    </Button>
                  )}
                </li>
              ))}
          </ul>
        </section>
      ))}
    </details>
  );
}
