import type { Ready } from "../api/types";
import { range } from "../ui/figures";

/** The label recomputed from the estimate, beside the declared one, in the same rounding. */
export function LabelPanel({ estimate }: { estimate: Ready }) {
  return (
    <>
      <table className="w-full">
        <thead>
          <tr className="border-b border-line text-right text-sm text-ink-2">
            <th className="py-1 text-left font-normal">
              per {Number(estimate.label_basis_g.toPrecision(3))} g
            </th>
            <th className="py-1 font-normal">label</th>
            <th className="py-1 font-normal">estimate</th>
            <th className="py-1 font-normal">90 % range</th>
          </tr>
        </thead>
        <tbody>
          {estimate.label.map((row) => (
            <tr key={row.row} className={`border-b border-line/60 ${row.pulls ? "bg-amber-wash" : ""}`}>
              <td className="py-1 leading-tight">
                {row.title}{" "}
                {!row.title.includes(row.unit) && <span className="text-sm text-ink-2">{row.unit}</span>}
              </td>
              <td className="py-1 text-right">{row.declared ?? "–"}</td>
              <td className="py-1 text-right font-semibold">{row.printed}</td>
              <td className="py-1 text-right text-sm whitespace-nowrap text-ink-2">
                {range(row.computed.low, row.computed.high)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 text-sm text-ink-2">
        The estimate’s figures are rounded as this region’s labels are. They are no lawful label: composition
        tables are typical values.
      </p>
    </>
  );
}
