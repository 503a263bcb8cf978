import type { Batch, Scaled } from "../api/types";
import { figure } from "../ui/figures";
import { Notice } from "../ui/Parts";

/** What the batch takes in all, and what to mind. */
export function Shopping({ scaled, cautions }: { scaled: Scaled; cautions: Batch["cautions"] }) {
  return (
    <aside aria-label="Shopping and cautions" className="space-y-5">
      {cautions.length > 0 && (
        <section>
          <h2 className="mb-2 text-lg">Mind this</h2>
          <ul className="space-y-2">
            {cautions.map((caution) => (
              <li key={caution.topic}>
                <Notice
                  tone={caution.topic === "Allergens" || caution.topic === "Polyols" ? "amber" : "berry"}
                >
                  <strong>{caution.topic}.</strong> {caution.sentence}
                </Notice>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section>
        <h2 className="mb-1 text-lg">To have ready</h2>
        <table className="w-full">
          <tbody>
            {scaled.shopping.map((line) => (
              <tr key={line.ingredient_id} className="border-b border-line/60">
                <td className="py-1 leading-tight">
                  {line.name}
                  {line.allergens.length > 0 && (
                    <span className="block text-sm text-ink-2">{line.allergens.join(", ")}</span>
                  )}
                </td>
                <td className="w-24 py-1 text-right align-top">
                  {figure(line.grams, line.grams >= 10 ? 0 : 1)} <span className="text-sm text-ink-2">g</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </aside>
  );
}
