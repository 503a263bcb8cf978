import type { Note, VersionView } from "../api/types";
import { figure, percent } from "../ui/figures";

const TONES: Record<string, string> = {
  fails: "border-berry bg-berry-wash",
  look: "border-amber bg-amber-wash",
  fine: "border-fern-200",
};

/** What the piece is like as a whole: what will fail first, then what to look at, then what is fine. */
export function BalancePanel({
  notes,
  natures,
}: {
  notes: readonly Note[];
  natures: VersionView["natures"];
}) {
  return (
    <div className="space-y-3">
      <ul className="space-y-2">
        {notes.map((note) => (
          <li key={note.sentence} className={`border-l-4 py-1 pl-3 ${TONES[note.tone] ?? ""}`}>
            <p className="text-sm text-ink-2">{note.topic}</p>
            <p className="leading-snug">{note.sentence}</p>
            {note.help && <p className="mt-0.5 text-sm leading-snug text-ink-2">{note.help}</p>}
          </li>
        ))}
      </ul>
      <table className="w-full text-sm">
        <thead>
          <tr className="text-ink-2">
            <th className="text-left font-normal">Layer</th>
            <th className="text-right font-normal">water %</th>
            <th className="text-right font-normal">sweet</th>
            <th className="text-right font-normal">solid 20°</th>
            <th className="text-right font-normal">a_w</th>
          </tr>
        </thead>
        <tbody>
          {natures.map((one) => (
            <tr key={one.layer_id} className="border-t border-line/60">
              <td className="py-0.5">{one.name}</td>
              <td className="text-right">{one.water === null ? "not known" : figure(100 * one.water, 1)}</td>
              <td className="text-right">
                {one.sweetness === null ? "not known" : figure(100 * one.sweetness, 0)}
              </td>
              <td className="text-right">{one.solid_20 === null ? "–" : `${percent(one.solid_20)} %`}</td>
              <td className="text-right">
                {one.water_activity === null ? "–" : `~${one.water_activity.toFixed(2)}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-sm text-ink-2">
        Sweet: grams of sugar that 100 g are as sweet as. Solid: share of its fat at 20 °C. Estimates from the
        composition.
      </p>
    </div>
  );
}
