import { Link } from "react-router";
import type { BatchOut, BatchPlan } from "../api/types";
import { Tick } from "./Tick";

interface WrappingPartProps {
  batch: BatchOut;
  plan: BatchPlan;
  change: (edit: (old: BatchPlan) => BatchPlan) => void;
}

/** What the pieces are wrapped in: how many of each, and what that costs. */
export function WrappingPart({ batch, plan, change }: WrappingPartProps) {
  const chosen = plan.wrapped_in;
  const { wrapping, wraps } = batch;
  const lineOf = (id: string) => wrapping?.lines.find((one) => one.id === id);
  return (
    <section aria-label="Wrapping" className={chosen.length ? "" : "no-print"}>
      <h2 className="text-lg">Wrapping</h2>
      {wrapping?.words && <p className="no-print mb-1 text-sm text-ink-2">{wrapping.words}</p>}
      <ul>
        {wraps.map((one) => {
          const used = chosen.includes(one.id);
          const line = lineOf(one.id);
          return (
            <li
              key={one.id}
              className={`border-b border-line/60 py-1 leading-tight ${used ? "" : "no-print"}`}
            >
              <label className="no-print flex items-center gap-2">
                <input
                  type="checkbox"
                  className="size-4 accent-fern-700"
                  checked={used}
                  onChange={(event) => {
                    const take = event.target.checked;
                    change((old) => ({
                      ...old,
                      wrapped_in: take
                        ? [...old.wrapped_in, one.id]
                        : old.wrapped_in.filter((id) => id !== one.id),
                    }));
                  }}
                />
                {one.name}
              </label>
              <span className="hidden print:inline">
                <Tick />
                {one.name}{" "}
              </span>
              {line && (
                <span className={`text-sm ${line.count === null ? "text-amber-ink" : "text-ink-2"}`}>
                  {line.words}
                </span>
              )}
            </li>
          );
        })}
      </ul>
      <p className="no-print mt-1 text-sm">
        <Link to="../kitchen" relative="path" className="text-fern-700 underline">
          {wraps.length ? "Wrapping is kept in the kitchen" : "Say in the kitchen what you wrap in"}
        </Link>
      </p>
    </section>
  );
}
