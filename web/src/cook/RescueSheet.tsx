import type { CookStep } from "../api/types";
import { Sheet } from "../ui/Sheet";
import { StoveButton } from "./StoveButton";

interface RescueSheetProps {
  step: CookStep;
  open: boolean;
  onClose: () => void;
  onTake: (text: string) => void;
}

/** What is seen, what saves this batch now, or that nothing does. */
export function RescueSheet({ step, open, onClose, onTake }: RescueSheetProps) {
  return (
    <Sheet title="What saves it now" open={open} onClose={onClose} wide>
      <ul className="divide-y divide-line">
        {step.rescues.map((one) => (
          <li key={`${one.seen} ${one.now}`} className="flex items-start justify-between gap-5 py-3">
            <div>
              <h3 className="text-lg">{one.seen}</h3>
              <p className="text-lg">{one.now}</p>
              {one.cannot && <p className="text-ink-2">Nothing saves: {one.cannot.toLowerCase()}.</p>}
            </div>
            <StoveButton
              className="shrink-0"
              aria-label={`Log it: ${one.seen}`}
              onClick={() => {
                onTake(`${one.seen}: ${one.now}`);
                onClose();
              }}
            >
              Log it
            </StoveButton>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
