import type { VersionView } from "../api/types";
import { figure, interval } from "../ui/figures";

const ALLOWED: Record<string, string> = { true: "by its figures", false: "not", null: "not known" };

/** The label as this version would print it, beside the original's; allergens, claims and cost. */
export function PrintedPanel({ view }: { view: VersionView }) {
  return (
    <div className="space-y-4">
      <table className="w-full">
        <thead>
          <tr className="text-sm text-ink-2">
            <th className="text-left font-normal">{view.basis}</th>
            <th className="text-right font-normal">prints</th>
            <th className="text-right font-normal">original</th>
          </tr>
        </thead>
        <tbody>
          {view.rows.map((row) => (
            <tr
              key={row.row}
              className={`border-t border-line/60 ${row.reached === false ? "text-amber-ink" : ""}`}
            >
              <td className="py-0.5 leading-tight">
                {row.title}
                {row.unknown.length > 0 && (
                  <span className="block text-sm text-ink-2">not known for {row.unknown.join(", ")}</span>
                )}
              </td>
              <td className="py-0.5 text-right align-top font-semibold whitespace-nowrap">
                {row.printed}{" "}
                {row.computed !== null && <span className="text-sm font-normal text-ink-2">{row.unit}</span>}
              </td>
              <td
                className="py-0.5 text-right align-top whitespace-nowrap text-ink-2"
                title={
                  row.declared_low !== null && row.declared_high !== null
                    ? `stands for ${interval(row.declared_low, row.declared_high)}`
                    : undefined
                }
              >
                {row.declared ?? "–"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <section>
        <h3 className="text-base">Contains</h3>
        <p>{view.allergens.holds.length ? view.allergens.holds.join(", ") : "No allergen by the pantry."}</p>
        {view.allergens.not_known.length > 0 && (
          <p className="text-amber-ink">Not all known of {view.allergens.not_known.join(", ")}.</p>
        )}
        {view.allergens.may.map((one) => (
          <p key={one.allergen} className="leading-snug text-amber-ink">
            May hold {one.allergen}: ask the maker of {one.foods.join(", ")}.
          </p>
        ))}
        <p className="text-sm text-ink-2">By the pantry. Read your own packets, also for traces.</p>
      </section>
      {view.to_say.length > 0 && (
        <section>
          <h3 className="text-base">To be said</h3>
          {view.to_say.map((one) => (
            <p key={one} className="leading-snug">
              {one}
            </p>
          ))}
        </section>
      )}
      <section>
        <h3 className="mb-1 text-base">Claims</h3>
        <ul className="space-y-1.5">
          {view.claims.map((claim) => (
            <li key={claim.claim} className="leading-snug">
              <span className={claim.allowed ? "font-semibold text-fern-700" : "text-ink-2"}>
                {claim.claim}: {ALLOWED[String(claim.allowed)]}.
              </span>{" "}
              <span className="text-sm text-ink-2">{claim.sentence}</span>
            </li>
          ))}
        </ul>
        {view.vegan !== "yes" && view.vegan_doubts.length > 0 && (
          <p className="mt-1 text-sm text-ink-2">
            Not vegan, or to be asked: {view.vegan_doubts.join(", ")}.
          </p>
        )}
        <p className="mt-1 text-sm text-ink-2">
          Figures only. Label law is local and changes: ask a qualified person before you sell.
        </p>
      </section>
      <section>
        <h3 className="text-base">Cost</h3>
        {view.cost === null ? (
          <p className="text-ink-2">Some ingredient has no price in the pantry.</p>
        ) : (
          <>
            <p>
              <strong>{figure(view.cost, 2)}</strong> a piece for its ingredients, by the pantry’s prices, in
              its money (euros or dollars)
              {view.shop_price !== null && <>; the original costs {figure(view.shop_price, 2)} in the shop</>}
              .
            </p>
            <table className="mt-1 w-full text-sm">
              <tbody>
                {view.layers.map((layer) => (
                  <tr key={layer.layer_id}>
                    <td>{layer.name}</td>
                    <td className="text-right">{layer.cost === null ? "–" : figure(layer.cost, 3)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </section>
    </div>
  );
}
