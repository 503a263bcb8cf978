import { Link } from "react-router";
import type { Ready } from "../api/types";
import { figure, range } from "../ui/figures";
import { Notice } from "../ui/Parts";

/** What a reader of the table should know: layers told together, names left out, what was assumed, what to weigh next. */
export function Beneath({ estimate }: { estimate: Ready }) {
  const counted = estimate.left_out.filter((one) => !one.is_trace);
  const traces = estimate.left_out.filter((one) => one.is_trace);
  return (
    <div className="mt-4 space-y-3">
      {estimate.sums.map((one) => (
        <p key={one.name}>
          {one.name}: nothing parts them; together <b>{figure(one.grams.best, 1)} g</b> (
          {range(one.grams.low, one.grams.high, 1)}).
        </p>
      ))}
      {estimate.together.map((one) => (
        <p key={one.name}>
          {one.name} share one recipe; together <b>{figure(one.grams.best, 1)} g</b> (
          {range(one.grams.low, one.grams.high, 1)}).
        </p>
      ))}
      {estimate.assumed.map((sentence) => (
        <Notice key={sentence} tone="plain">
          {sentence}
        </Notice>
      ))}
      {counted.map((one) => (
        <Notice key={one.name}>
          “{one.name}” is left out: {one.why}.{" "}
          <Link className="underline" to="../study?part=statement" relative="path">
            Say what it is
          </Link>
        </Notice>
      ))}
      {traces.length > 0 && (
        <p className="text-sm text-ink-2">Left out as traces: {traces.map((one) => one.name).join(", ")}.</p>
      )}
      {estimate.to_weigh.length > 0 && (
        <section aria-label="What to weigh next" className="border-t border-line pt-3">
          <h2 className="text-lg">What to weigh next</h2>
          <ol className="list-decimal space-y-1 pl-5">
            {estimate.to_weigh.slice(0, 3).map((one) => (
              <li key={one.subject}>{one.sentence}</li>
            ))}
          </ol>
        </section>
      )}
    </div>
  );
}
