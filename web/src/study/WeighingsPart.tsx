import { useMatch } from "../app/match";
import type { Weighing } from "../api/types";
import { usePointable } from "../frame/pointing";
import { Cell, told } from "../ui/Cell";
import { figure } from "../ui/figures";
import { readingsOf, withReading, withSide } from "./edits";

/** Weighings: whole pieces, and whichever layers come off cleanly; several readings each. */
export function WeighingsPart() {
  const { study } = useMatch();
  const names = new Map(study.study.layers.map((layer) => [layer.id, layer.name]));
  return (
    <div className="max-w-4xl">
      <p className="mb-3 text-ink-2">
        Grams or ounces, sums are fine (“42/3” for three pieces at once); Tab goes on to the next reading. One
        layer weighed well is worth more than three guessed.
      </p>
      <table className="w-full" data-cells>
        <thead>
          <tr className="border-b border-line text-left text-sm text-ink-2">
            <th className="w-44 py-1 font-normal">Weighed</th>
            <th className="py-1 font-normal">Readings</th>
            <th className="w-24 py-1 text-right font-normal">Mean</th>
            <th className="w-24 py-1 text-right font-normal">Scatter</th>
          </tr>
        </thead>
        <tbody>
          {study.reading.weighings.map((weighing) => (
            <WeighingLine
              key={weighing.subject}
              weighing={weighing}
              name={
                weighing.subject === "piece"
                  ? "Whole piece"
                  : (names.get(weighing.subject) ?? weighing.subject)
              }
            />
          ))}
        </tbody>
      </table>
      <SizeFields />
    </div>
  );
}

const SIDES = [
  ["length", "long"],
  ["width", "wide"],
  ["height", "high"],
] as const;

/** The piece's outside dimensions: the slice is drawn to them. */
function SizeFields() {
  const { study, change } = useMatch();
  return (
    <section className="mt-8" aria-labelledby="size">
      <h2 id="size" className="text-lg">
        Size of a piece
      </h2>
      <p className="mb-2 text-ink-2">
        Millimetres, cm or inches (“1 1/2 in”). With all three the slice is drawn in this size.
      </p>
      <table data-cells>
        <tbody>
          <tr className="align-top">
            {SIDES.map(([side, words]) => (
              <td key={side} className="pr-3">
                <Cell
                  showLabel
                  className="w-36"
                  align="right"
                  unit="mm"
                  label={words}
                  value={study.study.size?.[side] ?? ""}
                  {...told(study.reading.size[side])}
                  onCommit={(typed) => change((old) => withSide(old, side, typed))}
                />
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </section>
  );
}

function WeighingLine({ weighing, name }: { weighing: Weighing; name: string }) {
  const { study, change } = useMatch();
  const pointable = usePointable(weighing.subject === "piece" ? null : weighing.subject);
  const typed = readingsOf(study.study, weighing.subject);
  const problems = [...new Set(weighing.readings.map((one) => one.problem).filter(Boolean))];
  const readAs = weighing.readings.flatMap((one, index) =>
    one.read_as ? [weighing.readings.length > 1 ? `${index + 1}: ${one.read_as}` : one.read_as] : [],
  );
  return (
    <tr className="border-b border-line/60 align-top data-pointed:bg-fern-100/60" {...pointable}>
      <td className="py-2">{name}</td>
      <td className="py-1.5">
        <span className="flex flex-wrap gap-1.5">
          {[...typed, null].map((reading, index) => (
            <Cell
              key={index}
              className="w-24"
              align="right"
              unit="g"
              label={`${name}, reading ${index + 1}`}
              value={reading?.typed ?? ""}
              grows={reading === null}
              onCommit={(text) =>
                change((old) => withReading(old, weighing.subject, reading?.id ?? null, text))
              }
            />
          ))}
        </span>
        {readAs.length > 0 && (
          <span className="mt-1 block text-sm text-ink-2">read as {readAs.join("; ")}</span>
        )}
        {problems.map((problem) => (
          <span key={problem} className="mt-1 block text-sm text-amber-ink">
            {problem}
          </span>
        ))}
      </td>
      <td className="py-2 text-right">
        {weighing.mean_g !== null && (
          <>
            {figure(weighing.mean_g, 2)} <span className="text-sm text-ink-2">g</span>
            {weighing.mean_in_ounces && (
              <span className="block text-sm text-ink-2">{weighing.mean_in_ounces}</span>
            )}
          </>
        )}
      </td>
      <td className="py-2 text-right text-ink-2">
        {weighing.sd_g !== null && (
          <>
            ± {figure(weighing.sd_g, 2)} <span className="text-sm">g</span>
          </>
        )}
      </td>
    </tr>
  );
}
