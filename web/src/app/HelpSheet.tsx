import { useState } from "react";
import { Sheet } from "../ui/Sheet";
import { singleKeysOff, switchSingleKeys } from "./keys";
import { STEPS } from "./steps";

const NUMBERS = STEPS.map((_, at) => at + 1).join(", ");
const KEYS: [string, string][] = [
  [`g, then ${NUMBERS}`, `go to ${STEPS.map((step) => step.title).join(", ")}`],
  ["j", "jump to anything by name"],
  ["k", "the kitchen"],
  ["c", "show what changed"],
  ["?", "this sheet"],
  ["Ctrl Z, Ctrl Shift Z", "undo, redo (where no text is typed)"],
  ["Arrows, Tab", "in a table: on to the next field"],
  ["F2, Enter, or typing", "edit the field one stands on"],
  ["Enter, Shift Enter", "while editing or on an empty field: keep it, one down or up"],
  ["Escape", "leave a field as it was; once more leaves the table"],
  ["Delete", "on an ingredient’s mark: back to the proposal"],
];

/** The keyboard, listed; single keys can be switched off. */
export function HelpSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [on, setOn] = useState(!singleKeysOff());
  return (
    <Sheet title="Keyboard" open={open} onClose={onClose}>
      <table className="w-full">
        <tbody>
          {KEYS.map(([keys, words]) => (
            <tr key={keys} className="border-b border-line/60">
              <td className="w-52 py-1.5 font-semibold">{keys}</td>
              <td className="py-1.5">{words}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <label className="mt-4 flex items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-fern-700"
          checked={on}
          onChange={(event) => {
            switchSingleKeys(event.target.checked);
            setOn(event.target.checked);
          }}
        />
        Single keys outside fields
      </label>
    </Sheet>
  );
}
