import { useQuery } from "@tanstack/react-query";
import { Button, Notice } from "../ui/Parts";
import { Sheet } from "../ui/Sheet";
import { momentsQuery, type Step } from "./historyApi";

interface ChangesSheetProps {
  matchId: string;
  revision: number;
  open: boolean;
  onClose: () => void;
  onStep: (step: Step) => void;
}

/** What changed, the latest first, and the way back to any moment. */
export function ChangesSheet({ matchId, revision, open, onClose, onStep }: ChangesSheetProps) {
  const { data, error } = useQuery({ ...momentsQuery(matchId), enabled: open });
  return (
    <Sheet title="What changed" open={open} onClose={onClose}>
      {error && <Notice>{error.message}</Notice>}
      {!data && !error && <p className="text-ink-2">Looking back …</p>}
      <ol>
        {data?.map((moment) => (
          <li key={moment.number} className="flex items-start gap-4 border-b border-line/60 py-2">
            <span className="w-28 shrink-0 text-sm text-ink-2">{when(moment.saved_at)}</span>
            <span className="min-w-0 flex-1">
              {moment.words.length === 0 && "Kept"}
              {moment.words.map((words) => (
                <span key={words} className="block">
                  {words}
                </span>
              ))}
            </span>
            {moment.number === revision ? (
              <span className="text-sm text-ink-2">now</span>
            ) : (
              <Button
                look="bare"
                aria-label={`Return to: ${moment.words[0] ?? `moment ${moment.number}`}`}
                onClick={() => onStep({ kind: "return", number: moment.number })}
              >
                Return
              </Button>
            )}
          </li>
        ))}
      </ol>
    </Sheet>
  );
}

function when(savedAt: string): string {
  return new Date(`${savedAt}Z`).toLocaleString(undefined, {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  });
}
