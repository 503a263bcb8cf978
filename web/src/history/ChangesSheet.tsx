import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button, Notice } from "../ui/Parts";
import { Sheet } from "../ui/Sheet";
import { momentsQuery, type HistoryStep } from "./historyApi";

interface ChangesSheetProps {
  matchId: string;
  revision: number;
  open: boolean;
  onClose: () => void;
  onStep: (step: HistoryStep) => void;
}

/** What changed, the latest first, and the way back to any revision. */
export function ChangesSheet({ matchId, revision, open, onClose, onStep }: ChangesSheetProps) {
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
    ...momentsQuery(matchId),
    enabled: open,
  });
  return (
    <Sheet title="What changed" open={open} onClose={onClose}>
      {error && <Notice>{error.message}</Notice>}
      {!data && !error && <p className="text-ink-2">Looking back …</p>}
      <ol>
        {data?.pages.flat().map((moment) => (
          <li key={moment.number} className="flex items-start gap-4 border-b border-line/60 py-2">
            <span className="w-28 shrink-0 text-sm text-ink-2">{when(moment.saved_at)}</span>
            <Words words={moment.words} />
            {moment.number === revision ? (
              <span className="text-sm text-ink-2">now</span>
            ) : (
              <Button
                look="bare"
                aria-label={`Return to: ${moment.words[0] ?? `revision ${moment.number}`}`}
                onClick={() => onStep({ kind: "return", number: moment.number })}
              >
                Return
              </Button>
            )}
          </li>
        ))}
      </ol>
      {hasNextPage && (
        <Button className="mt-3" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          Earlier changes
        </Button>
      )}
    </Sheet>
  );
}

const FEW = 4;

/** What one change did; a long one can be unfolded. */
function Words({ words }: { words: readonly string[] }) {
  const [all, setAll] = useState(words.length <= FEW + 1);
  return (
    <span className="min-w-0 flex-1">
      {words.length === 0 && "Kept"}
      {(all ? words : words.slice(0, FEW)).map((sentence) => (
        <span key={sentence} className="block">
          {sentence}
        </span>
      ))}
      {!all && (
        <Button look="bare" onClick={() => setAll(true)}>
          and {words.length - FEW} more
        </Button>
      )}
    </span>
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
