import type { BatchOut } from "../api/types";
import { Notice } from "../ui/Parts";

/** What can hurt in this batch, most dangerous first. */
export function Cautions({ cautions }: { cautions: BatchOut["cautions"] }) {
  if (cautions.length === 0) return null;
  return (
    <section>
      <h2 className="mb-2 text-lg">Mind this</h2>
      <ul className="space-y-2">
        {cautions.map((caution) => (
          <li key={caution.topic}>
            <Notice tone={caution.can_hurt ? "berry" : "amber"}>
              <strong>{caution.topic}.</strong> {caution.sentence}
            </Notice>
          </li>
        ))}
      </ul>
    </section>
  );
}
