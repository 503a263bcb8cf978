import type { CookOut, CookPlan } from "../api/types";
import { useMatch } from "../app/match";
import { Cell, told } from "../ui/Cell";

type Field = "begins" | "ready_by" | "cooks" | "day_from" | "day_to";
const FIELDS: readonly (readonly [Field, string, string, string])[] = [
  ["begins", "Begins at", "09:00", "w-40"],
  ["ready_by", "or ready by", "18:00", "w-40"],
  ["cooks", "Cooks", "as the kitchen", "w-32"],
  ["day_from", "The day from", "07:00", "w-28"],
  ["day_to", "to", "22:00", "w-28"],
];

interface WhenProps {
  cook: CookOut;
  plan: CookPlan;
  change: (edit: (old: CookPlan) => CookPlan) => void;
}

/** When it is cooked, and by how many. */
export function When({ cook, plan, change }: WhenProps) {
  const { matchId } = useMatch();
  return (
    <section aria-label="When" className="no-print mb-3 flex flex-wrap items-start gap-3" data-cells>
      {FIELDS.map(([field, title, placeholder, width]) => (
        <Cell
          key={field}
          showLabel
          label={title}
          className={width}
          value={plan[field]}
          placeholder={placeholder}
          {...told(cook.cells[field])}
          onCommit={(typed) => change((old) => ({ ...old, [field]: typed }))}
        />
      ))}
      <p className="ml-auto flex gap-4 self-end pb-1 text-sm">
        <a
          className="text-fern-700 underline"
          href={`/api/matches/${matchId}/cooks/${plan.id}/recipe`}
          download="recipe.json"
        >
          As a recipe file
        </a>
        <a
          className="text-fern-700 underline"
          href={`/api/matches/${matchId}/cooks/${plan.id}/calendar`}
          download="cook.ics"
        >
          As a calendar file
        </a>
      </p>
    </section>
  );
}
