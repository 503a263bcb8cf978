import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import type { VersionView } from "../api/types";
import { useMatch } from "../app/match";
import { Cell, told } from "../ui/Cell";
import { figure } from "../ui/figures";
import { Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { measuredQuery } from "./formulateApi";

/** What to weigh or scoop for a number of pieces, all amounts chosen together, with the error that makes. */
export function MeasurePanel({ view }: { view: VersionView }) {
  const { matchId } = useMatch();
  const [search, setSearch] = useSearchParams();
  const by = search.get("by") === "spoons" ? "spoons" : "scale";
  const pieces = search.get("pieces") ?? String(view.pieces);
  const keep = (name: "by" | "pieces", value: string) =>
    setSearch(
      (old) => {
        old.set(name, value);
        return old;
      },
      { replace: true },
    );
  const { data: answer, error } = useQuery(
    measuredQuery(matchId, view.version.id, view.revision, by, pieces),
  );
  const data = answer?.measured;
  const layers = [...new Set(data?.lines.map((line) => line.layer_id))];
  return (
    <div data-cells>
      <div className="mb-2 flex items-end gap-3">
        <Cell
          showLabel
          className="w-24"
          label="Pieces"
          value={pieces}
          {...told(answer?.pieces)}
          onCommit={(typed) => keep("pieces", typed)}
        />
        <Select
          showLabel
          label="Measured with"
          className=""
          value={by}
          options={[
            ["scale", "the scale"],
            ["spoons", "spoons and cups"],
          ]}
          onChoose={(chosen) => keep("by", chosen)}
        />
      </div>
      {error && <Notice>{error.message}</Notice>}
      {!data && !error && <p className="text-ink-2">Choosing the amounts …</p>}
      {data && (
        <>
          <p className="mb-2 leading-snug">{data.words}</p>
          {data.premixes.map((mix) => (
            <p key={mix.words} className="mb-2 leading-snug">
              <span className="font-semibold">Mix first. </span>
              {mix.words}
            </p>
          ))}
          {layers.map((layerId) => {
            const lines = data.lines.filter((line) => line.layer_id === layerId);
            return (
              <section key={layerId} className="mb-3">
                <h3 className="text-base">{lines[0]?.layer}</h3>
                <table className="w-full">
                  <tbody>
                    {lines.map((line) => (
                      <tr key={line.line_id} className="border-t border-line/60 align-top">
                        <td className="py-0.5 leading-tight">
                          {line.name}
                          {line.dilution && (
                            <span className="block text-sm leading-snug text-ink-2">{line.dilution}</span>
                          )}
                        </td>
                        <td className="py-0.5 pl-2 text-right font-semibold">{line.words}</td>
                        <td className="w-16 py-0.5 text-right text-sm whitespace-nowrap text-ink-2">
                          {Math.abs(line.error_g) < 0.005
                            ? "exact"
                            : `${line.error_g > 0 ? "+" : ""}${figure(line.error_g)} g`}
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </section>
            );
          })}
          <p className="text-sm text-ink-2">
            For all pieces, with what stays on the tools; the last column is how far each is from what was
            solved. Batch weighs out the same.
          </p>
        </>
      )}
    </div>
  );
}
