import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { VersionView } from "../api/types";
import { useMatch } from "../app/match";
import { figure } from "../ui/figures";
import { Select } from "../ui/Select";
import { comparedQuery } from "./formulateApi";

/** This version beside another, line by line. */
export function ComparePanel({
  view,
  others,
}: {
  view: VersionView;
  others: { id: string; name: string }[];
}) {
  const [chosen, choose] = useState(view.version.parent ?? others[0]?.id ?? "");
  const other = others.find((one) => one.id === chosen) ?? others[0];
  if (!other) return null;
  return (
    <>
      <Select
        showLabel
        label="Beside"
        value={other.id}
        options={others.map((one) => [one.id, one.name] as const)}
        onChoose={choose}
      />
      <Compared view={view} other={other} />
    </>
  );
}

function Compared({ view, other }: { view: VersionView; other: { id: string; name: string } }) {
  const { matchId } = useMatch();
  const { data } = useQuery(comparedQuery(matchId, view.version.id, other.id, view.revision));
  if (!data) return <p className="mt-2 text-ink-2">Comparing …</p>;
  const layers = [...new Set(data.lines.map((line) => line.layer_id))];
  const grams = (value: number | null) => (value === null ? "–" : figure(value, 2));
  return (
    <div className="mt-3 space-y-3">
      <table className="w-full">
        <thead>
          <tr className="text-sm text-ink-2">
            <th className="text-left font-normal">grams a piece</th>
            <th className="text-right font-normal">{other.name}</th>
            <th className="text-right font-normal">{view.version.name}</th>
          </tr>
        </thead>
        {layers.map((layerId) => {
          const lines = data.lines.filter((line) => line.layer_id === layerId);
          return (
            <tbody key={layerId}>
              <tr>
                <th colSpan={3} className="pt-2 text-left font-head font-semibold">
                  {lines[0]?.layer}
                </th>
              </tr>
              {lines.map((line) => (
                <tr key={line.ingredient_id} className={differs(line) ? "font-semibold" : "text-ink-2"}>
                  <td className="py-0.5">{line.name}</td>
                  <td className="text-right">{grams(line.before_g)}</td>
                  <td className="text-right">{grams(line.after_g)}</td>
                </tr>
              ))}
            </tbody>
          );
        })}
        <tbody>
          <tr>
            <th colSpan={3} className="pt-2 text-left font-head font-semibold">
              Label
            </th>
          </tr>
          {data.rows.map(([title, before, after]) => (
            <tr key={title} className={before === after ? "text-ink-2" : "font-semibold"}>
              <td className="py-0.5">{title}</td>
              <td className="text-right">{before}</td>
              <td className="text-right">{after}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What the core calls the same is shown to two decimals; a line that reads the same in both is not stressed. */
const differs = (line: { before_g: number | null; after_g: number | null }) =>
  line.before_g === null || line.after_g === null || line.before_g.toFixed(2) !== line.after_g.toFixed(2);
