import { useEffect } from "react";
import { createPortal } from "react-dom";
import type { TrialOut } from "../api/types";

/** An empty score sheet on paper, for whoever must not see what others marked; it prints as it comes in. */
export function Ballot({ senses, onPrinted }: { senses: TrialOut["senses"]; onPrinted: () => void }) {
  useEffect(() => {
    const wait = requestAnimationFrame(() => {
      window.print();
      onPrinted();
    });
    return () => cancelAnimationFrame(wait);
  }, [onPrinted]);
  return createPortal(
    <div data-ballot aria-hidden="true">
      <h1 className="text-2xl">Score sheet</h1>
      <p className="mt-2 flex gap-10">
        <span>Taster ______________________</span>
        <span>Piece A, code ________</span>
        <span>Piece B, code ________</span>
      </p>
      <p className="mt-2">
        Put an A and a B on each line, from left (0) to right (10). Water between the pieces; back and forth
        as you like.
      </p>
      <table className="mt-3 w-full border-collapse">
        <tbody>
          {senses.map((sense) => (
            <tr key={sense.id}>
              <th scope="row" className="w-36 py-2 text-left font-normal">
                {sense.title}
              </th>
              <td className="w-28 py-2 pr-2 text-right text-xs">{sense.low}</td>
              <td className="py-2">
                <span className="block h-3 border-x border-b border-ink" />
              </td>
              <td className="w-32 py-2 pl-2 text-xs">{sense.high}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-4">In words:</p>
      <p className="mt-8 border-b border-ink" />
      <p className="mt-8 border-b border-ink" />
    </div>,
    document.body,
  );
}
