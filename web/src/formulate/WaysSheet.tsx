import { useQuery } from "@tanstack/react-query";
import type { LayerView, VersionView } from "../api/types";
import { useMatch } from "../app/match";
import { useAct } from "../app/act";
import { figure } from "../ui/figures";
import { Button, Notice } from "../ui/Parts";
import { Sheet } from "../ui/Sheet";
import { shownAmount } from "./edits";
import { takeWay, waysQuery } from "./formulateApi";

interface WaysSheetProps {
  view: VersionView;
  layer: LayerView;
  onClose: () => void;
}

/** Ways to make a layer that differ in kind, each worked out; taking one is one step. */
export function WaysSheet({ view, layer, onClose }: WaysSheetProps) {
  const { matchId } = useMatch();
  const { data, error } = useQuery(waysQuery(matchId, view.version.id, layer.layer_id, view.revision));
  const taking = useAct(
    matchId,
    (revision, { key, number }: { key: string; number: number }) =>
      takeWay(matchId, view.version.id, layer.layer_id, { revision, key, number }),
    { then: onClose },
  );
  return (
    <Sheet title={`Other ways to make ${layer.name}`} open onClose={onClose}>
      {error && <Notice>{error.message}</Notice>}
      {taking.error && (
        <div role="alert" className="mb-3">
          <Notice>{taking.error.message}</Notice>
        </div>
      )}
      {!data && !error && <p className="text-ink-2">Working them out …</p>}
      {data?.ways.length === 0 && <p>With what the pantry holds there is no other way that fits.</p>}
      <ul className="space-y-4">
        {data?.ways.map((way, number) => (
          <li
            key={`${way.family_id}${way.words}`}
            className="rounded-lg border border-line bg-card px-4 py-3"
          >
            <div className="flex items-baseline justify-between gap-3">
              <h3 className="text-base">
                {way.name}
                {way.bought && <span className="ml-2 text-sm font-normal text-ink-2">bought</span>}
              </h3>
              <Button disabled={taking.isPending} onClick={() => taking.mutate({ key: data.key, number })}>
                Take this way
              </Button>
            </div>
            <p className="text-ink-2">{way.words}</p>
            {way.buy && <p className="mt-1">{way.buy}</p>}
            <table className="mt-2 w-full">
              <tbody>
                {way.layer.ingredients.map((line) => (
                  <tr key={line.id}>
                    <td className="py-0.5">{line.name}</td>
                    <td className="py-0.5 text-right">{shownAmount(line.amount)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <p className="mt-1 text-sm text-ink-2">
              {way.reached} of {way.reached + way.missed} targets reached
              {way.cost !== null && data.now_cost !== null && (
                <>
                  {" · "}
                  {figure(way.cost, 3)} a piece by the pantry’s prices, in its money, now{" "}
                  {figure(data.now_cost, 3)}
                </>
              )}
            </p>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
