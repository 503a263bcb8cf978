import type { CookOut, CookPlan } from "../api/types";
import { Select } from "../ui/Select";

interface SchoolsProps {
  cook: CookOut;
  plan: CookPlan;
  change: (edit: (old: CookPlan) => CookPlan) => void;
}

/** Where there are several good ways: which is taken, and why the one we recommend. */
export function Schools({ cook, plan, change }: SchoolsProps) {
  if (!cook.schools.length) return null;
  return (
    <aside aria-label="Ways" className="no-print space-y-4">
      <h2 className="text-lg">Your way</h2>
      {cook.schools.map((school) => {
        const chosen = plan.schools?.[school.id] ?? school.chosen;
        const option = school.options.find((one) => one.id === chosen);
        const best = school.options.find((one) => one.recommended);
        return (
          <div key={school.id}>
            <Select
              showLabel
              label={school.layer ? `${school.asks}: ${school.layer}` : school.asks}
              value={chosen}
              options={school.options.map((one) => [one.id, one.title] as const)}
              onChoose={(id) => change((old) => ({ ...old, schools: { ...old.schools, [school.id]: id } }))}
            />
            <p className="mt-0.5 text-sm text-ink-2">
              {option?.reason}
              {best && best.id !== chosen && ` We would take “${best.title}” here.`}
            </p>
          </div>
        );
      })}
    </aside>
  );
}
