import type { TargetView, VersionRecord, VersionView } from "../api/types";
import { Cell } from "../ui/Cell";
import { Choice } from "../ui/Choice";
import { figure, range } from "../ui/figures";
import { Button } from "../ui/Parts";
import { shownAmount, withNewTarget, withoutTarget, withTarget } from "./edits";
import type { Change } from "./LayerCard";

interface TargetsPanelProps {
  view: VersionView;
  version: VersionRecord;
  open: string | null;
  change: Change;
}

/** What the open layer, and the whole piece, are held to, and what they give; live as one types. */
export function TargetsPanel({ view, version, open, change }: TargetsPanelProps) {
  const layer = view.layers.find((one) => one.layer_id === open);
  const own = view.targets.filter((target) => target.layer_id === open && target.id !== layer?.mass_target);
  const piece = view.targets.filter((target) => target.layer_id === null && !target.by_label);
  const label = view.targets.filter((target) => target.by_label);
  return (
    <div className="space-y-4" data-cells>
      <p className="-mt-2 text-sm text-ink-2">For a piece, in grams; sweetness in grams of sugar.</p>
      {layer && (
        <Group
          title={layer.name}
          targets={own}
          further={further(view, open)}
          layerId={open}
          version={version}
          change={change}
        />
      )}
      <Group
        title="The whole piece"
        targets={piece}
        further={further(view, null)}
        layerId={null}
        version={version}
        change={change}
      />
      <section>
        <h3 className="mb-1 text-base">By the label, for a piece</h3>
        <table className="w-full">
          <tbody>
            {label.map((target) => (
              <tr key={target.id} className={target.reached ? "" : "text-amber-ink"}>
                <td className="py-0.5">{target.title}</td>
                <td className="py-0.5 text-right font-semibold">
                  {target.got === null ? "not known" : figure(target.got)}{" "}
                  <span className="text-sm font-normal text-ink-2">{target.unit}</span>
                </td>
                <td className="py-0.5 pl-3 text-right text-sm whitespace-nowrap text-ink-2">
                  {range(target.low, target.high)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {label.length === 0 && (
          <p className="text-ink-2">
            {version.origin?.kind === "adapted"
              ? "An adapted version is not held to the original’s label."
              : "The label declares nothing yet."}
          </p>
        )}
      </section>
    </div>
  );
}

/** What a layer, or the whole piece, is not held to yet. */
const further = (view: VersionView, layerId: string | null) => {
  const held = new Set(
    view.version.targets.filter((one) => (one.layer ?? null) === layerId).map((one) => one.property),
  );
  return view.properties.filter((one) => !held.has(one.property));
};

interface GroupProps {
  title: string;
  targets: readonly TargetView[];
  further: VersionView["properties"];
  layerId: string | null;
  version: VersionRecord;
  change: Change;
}

function Group({ title, targets, further, layerId, version, change }: GroupProps) {
  return (
    <section>
      <h3 className="mb-1 text-base">{title}</h3>
      <table className="w-full table-fixed">
        <colgroup>
          <col />
          <col className="w-16" />
          <col className="w-[74px]" />
          <col className="w-[66px]" />
          <col className="w-5" />
        </colgroup>
        <thead>
          <tr className="text-sm text-ink-2">
            <th className="text-left font-normal" />
            <th className="text-right font-normal">gives</th>
            <th className="pr-1 text-right font-normal">wanted</th>
            <th className="pr-1 text-right font-normal">within</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {targets.map((target) => {
            const typed = version.targets.find((one) => one.id === target.id);
            return (
              <tr key={target.id} className="align-top">
                <td className={`py-1 leading-tight ${target.reached ? "" : "text-amber-ink"}`}>
                  {target.title}
                </td>
                <td
                  className={`py-1 pr-1 text-right font-semibold ${target.reached ? "" : "text-amber-ink"}`}
                >
                  {target.got === null ? "not known" : figure(target.got, target.wanted >= 1 ? 2 : 3)}
                </td>
                <td className="py-0.5">
                  <Cell
                    align="right"
                    label={`${target.name}, wanted`}
                    value={short(typed?.wanted ?? "")}
                    problem={target.problem}
                    onCommit={(text) => change((old) => withTarget(old, target.id, "wanted", text))}
                  />
                </td>
                <td className="py-0.5 pl-1">
                  <Cell
                    align="right"
                    label={`${target.name}, within`}
                    value={short(typed?.tolerance ?? "")}
                    problem={target.tolerance_problem}
                    onCommit={(text) => change((old) => withTarget(old, target.id, "tolerance", text))}
                  />
                </td>
                <td className="py-1 text-right">
                  <Button
                    look="bare"
                    aria-label={`× ${target.name}, no longer a target`}
                    onClick={() => change((old) => withoutTarget(old, target.id))}
                  >
                    ×
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <div className="mt-1 flex justify-end pr-5">
        <div className="w-36">
          <Choice
            label={`${title}, add a target`}
            placeholder="Add a target"
            value={null}
            options={further.map((one) => ({ id: one.property, name: one.title }))}
            onChoose={(id) => {
              const chosen = further.find((one) => one.property === id);
              if (chosen) change((old) => withNewTarget(old, chosen.property, layerId));
            }}
          />
        </div>
      </div>
    </section>
  );
}

/** Without its unit: the whole group is in grams. */
const short = (typed: string) =>
  shownAmount(typed)
    .replace(/(\.\d{3})\d+ g$/, "$1 g")
    .replace(/ g$/, "");
