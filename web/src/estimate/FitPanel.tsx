import { useMatch } from "../app/match";
import type { Cause, Ready } from "../api/types";
import { figure, range } from "../ui/figures";
import { Button, Notice } from "../ui/Parts";
import { useCauses } from "./estimateApi";
import { useReadAnew } from "./readAnew";

/** Said first where the evidence fights: that it does not fit, the likeliest cause, and what would come of mending it. */
export function FitPanel({ estimate }: { estimate: Ready }) {
  const { matchId, estimateState } = useMatch();
  const causes = useCauses(matchId, estimate);
  const { now, back } = useReadAnew(estimate, causes);
  if (now && estimate.fit === "fits")
    return (
      <section aria-label="Read anew" className="mb-5">
        <Notice>
          <div className="flex items-start justify-between gap-4">
            <p role="status">
              As it was read first, {now.fought === 1 ? "1 thing" : `${now.fought} things`} fought and the
              ranges were not to be relied on. The evidence asks for this instead, and all fits:{" "}
              <span className="font-semibold">{now.title}</span>.
            </p>
            <Button className="shrink-0" onClick={back}>
              Read it as before
            </Button>
          </div>
        </Notice>
      </section>
    );
  if (estimate.fit === "fits") return null;
  const fights = estimate.fit === "fights";
  return (
    <section
      aria-label="What does not fit"
      className={`mb-5 rounded border-l-4 px-4 py-3 ${fights ? "border-berry bg-berry-wash" : "border-amber bg-amber-wash"}`}
    >
      <h2 className="text-lg">{estimate.fit_words}</h2>
      {causes === null && <p role="status">Looking for the cause …</p>}
      {causes?.length === 0 && (
        <p>
          No single change mends it. Look at what fights on the right, and at the brackets and families in
          Study.
        </p>
      )}
      {causes && causes.length > 0 && (
        <ol className="mt-2 space-y-3">
          {causes.map((cause, at) => (
            <CauseLine
              key={cause.title}
              cause={cause}
              first={at === 0}
              ready={estimateState.kind === "ready"}
            />
          ))}
        </ol>
      )}
    </section>
  );
}

function CauseLine({ cause, first, ready }: { cause: Cause; first: boolean; ready: boolean }) {
  const { change } = useMatch();
  return (
    <li className={first ? "" : "text-sm"}>
      <div className="flex items-start justify-between gap-4">
        <p>
          {first ? "Most likely: " : "Or: "}
          <span className="font-semibold">{cause.title}</span>: {cause.outcome}.
        </p>
        <Button
          className="shrink-0"
          disabled={!ready}
          onClick={() => change(() => cause.changed)}
          title="Undo takes it back"
        >
          {cause.kind === "figure" ? "Leave it out" : "Try it"}
        </Button>
      </div>
      {first && (
        <table className="mt-2 text-sm">
          <thead>
            <tr className="text-left text-ink-2">
              <th className="pr-6 font-normal">g a piece</th>
              <th className="pr-6 text-right font-normal">now</th>
              <th className="text-right font-normal">then</th>
            </tr>
          </thead>
          <tbody>
            {cause.layers.map((layer) => (
              <tr key={layer.name}>
                <td className="pr-6">{layer.name}</td>
                <td className="pr-6 text-right">
                  {figure(layer.before.best, 1)} ({range(layer.before.low, layer.before.high, 1)})
                </td>
                <td className="text-right font-semibold">
                  {figure(layer.after.best, 1)} ({range(layer.after.low, layer.after.high, 1)})
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </li>
  );
}
