import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { LayerView, LineView, VersionRecord, VersionView } from "../api/types";
import { useMatch } from "../app/match";
import { useAct } from "../app/act";
import { refreshHouse } from "../app/queries";
import { usePointable } from "../frame/pointing";
import { keepComponent } from "../pantry/pantryApi";
import { familiesQuery, pantryQuery } from "../study/studyApi";
import { Cell } from "../ui/Cell";
import { Choice, Finder } from "../ui/Choice";
import { figure, percent } from "../ui/figures";
import { Button, Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { Sheet } from "../ui/Sheet";
import {
  shownAmount,
  withAmount,
  withHold,
  withLayerMoved,
  withLayerName,
  withLayerField,
  withLineField,
  withNewLine,
  withoutLayer,
  withoutLine,
  withShaping,
  withTarget,
  type Hold,
} from "./edits";
import { beginLayerAgain, type Replacement } from "./formulateApi";
import { WaysSheet } from "./WaysSheet";

export type Change = (edit: (version: VersionRecord) => VersionRecord) => void;

interface LayerCardProps {
  layer: LayerView;
  view: VersionView;
  version: VersionRecord;
  open: boolean;
  change: Change;
  solve: (layers: string[], replace?: Replacement | null) => void;
  busy: boolean;
}

/** One layer as a table to type into; one is open at a time. */
export function LayerCard(props: LayerCardProps) {
  const { layer, view, open } = props;
  const { pick } = useMatch();
  const pointable = usePointable(layer.layer_id);
  const own = view.targets.filter((target) => target.layer_id === layer.layer_id);
  const missed = own.filter((target) => !target.reached).length;
  return (
    <section
      className={`rounded-lg border bg-card data-pointed:border-fern-600 ${open ? "border-fern-600" : "border-line"}`}
      {...pointable}
    >
      <button
        type="button"
        aria-expanded={open}
        onClick={() => pick(layer.layer_id)}
        className="flex w-full items-center gap-2 px-4 py-2 text-left"
      >
        <span
          className="size-3.5 shrink-0 rounded-sm border border-ink/20"
          style={{ backgroundColor: layer.tone }}
        />
        <span className="font-head text-base font-semibold">{layer.name}</span>
        <span className="min-w-0 flex-1 truncate text-sm text-ink-2">
          {layer.family_name ?? layer.family}
        </span>
        <span className={`text-sm ${missed ? "text-amber-ink" : "text-ink-2"}`}>
          {missed ? `${missed} of ${own.length} missed` : own.length ? "all reached" : ""}
        </span>
        <span className="w-20 text-right text-base font-semibold">
          {figure(layer.finished_g, 2)} <span className="text-sm font-normal text-ink-2">g</span>
        </span>
      </button>
      {open && <Inside {...props} />}
    </section>
  );
}

function Inside({ layer, view, version, change, solve, busy }: LayerCardProps) {
  const [sheet, setSheet] = useState<"ways" | "family" | null>(null);
  const [replacing, setReplacing] = useState<LineView | null>(null);
  const typed = version.layers.find((one) => one.id === layer.layer_id);
  const mass = view.targets.find((target) => target.id === layer.mass_target);
  const massTyped = version.targets.find((target) => target.id === mass?.id);
  const { data: pantry } = useQuery(pantryQuery);
  return (
    <div className="border-t border-line px-4 pt-1 pb-3" data-cells>
      <table className="w-full table-fixed">
        <colgroup>
          <col />
          <col className="w-24" />
          <col className="w-10" />
          <col className="w-[176px]" />
        </colgroup>
        <thead>
          <tr className="text-sm text-ink-2">
            <th className="py-1 text-left font-normal">For one piece; spoons for {view.pieces}</th>
            <th className="py-1 pr-2 text-right font-normal">grams</th>
            <th className="py-1 text-right font-normal">%</th>
            <th className="py-1 pl-3 text-left font-normal">when solving</th>
          </tr>
        </thead>
        <tbody>
          {layer.lines.map((line) => (
            <Row
              key={line.line_id}
              line={line}
              layer={layer}
              version={version}
              change={change}
              onReplace={() => setReplacing(line)}
            />
          ))}
        </tbody>
        <tfoot className="text-ink-2">
          <tr>
            <td className="py-0.5">in the bowl</td>
            <td className="py-0.5 pr-2 text-right">{figure(layer.added_g, 2)} g</td>
          </tr>
          {(layer.loses_water || layer.water_lost_g > 0) && (
            <tr>
              <td className="py-0.5">driven off as water</td>
              <td className="py-0.5">
                <Cell
                  align="right"
                  label={`${layer.name}, water driven off`}
                  value={shownAmount(typed?.water_lost ?? "")}
                  problem={layer.water_problem}
                  onCommit={(text) =>
                    change((old) => withLayerField(old, layer.layer_id, "water_lost", text))
                  }
                />
              </td>
            </tr>
          )}
          {mass && (
            <tr className="text-ink">
              <td className="py-0.5">
                finished,{" "}
                {layer.moisture === null ? "water not known" : `${figure(100 * layer.moisture, 1)} % water`};
                wanted
              </td>
              <td className="py-0.5">
                <Cell
                  align="right"
                  label={`${layer.name}, finished weight wanted`}
                  value={shownAmount(massTyped?.wanted ?? "")}
                  problem={mass.problem}
                  onCommit={(text) => change((old) => withTarget(old, mass.id, "wanted", text))}
                />
              </td>
            </tr>
          )}
        </tfoot>
      </table>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <div className="w-52">
          <Choice
            label={`Add an ingredient to ${layer.name}`}
            placeholder="Add an ingredient"
            value={null}
            options={(pantry ?? []).map((food) => ({ id: food.id, name: food.name, also: food.also }))}
            onChoose={(id) => {
              const food = pantry?.find((one) => one.id === id);
              if (food) change((old) => withNewLine(old, layer.layer_id, food));
            }}
          />
        </div>
        <Button disabled={busy} onClick={() => solve([layer.layer_id])}>
          Solve this layer
        </Button>
        <Button onClick={() => setSheet("ways")}>Other ways to make it</Button>
        {layer.shapings.length > 0 && layer.shaping && (
          <Select
            label={`${layer.name}, shaped by`}
            className=""
            value={layer.shaping}
            options={layer.shapings.map((one) => [one, `to ${one}`] as const)}
            onChoose={(shaping) => change((old) => withShaping(old, layer.layer_id, shaping))}
          />
        )}
        <Button look="bare" onClick={() => setSheet("family")}>
          Begin again
        </Button>
        <KeepAsIngredient view={view} layer={layer} />
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Cell
          className="w-44"
          label={`Name of ${layer.name}`}
          value={typed?.name ?? layer.name}
          most={120}
          onCommit={(name) => {
            if (name.trim()) change((old) => withLayerName(old, layer.layer_id, name.trim()));
          }}
        />
        <Button
          look="bare"
          disabled={version.layers[0]?.id === layer.layer_id}
          onClick={() => change((old) => withLayerMoved(old, layer.layer_id, -1))}
        >
          Move up
        </Button>
        <Button
          look="bare"
          disabled={version.layers[version.layers.length - 1]?.id === layer.layer_id}
          onClick={() => change((old) => withLayerMoved(old, layer.layer_id, 1))}
        >
          Move down
        </Button>
        <Button look="bare" onClick={() => change((old) => withoutLayer(old, layer.layer_id))}>
          Take this layer out
        </Button>
      </div>
      {sheet === "ways" && <WaysSheet view={view} layer={layer} onClose={() => setSheet(null)} />}
      {sheet === "family" && <FamilySheet view={view} layer={layer} onClose={() => setSheet(null)} />}
      {replacing && (
        <Sheet title={`In place of ${replacing.name}`} open onClose={() => setReplacing(null)}>
          <p className="mb-2 text-ink-2">The layer is solved again with it, in one step.</p>
          <Finder
            label={`Ingredient in place of ${replacing.name}`}
            placeholder="an ingredient, by any name"
            options={(pantry ?? []).map((food) => ({
              id: food.id,
              name: food.name,
              note: food.category,
              also: food.also,
            }))}
            onChoose={(ingredient) => {
              solve([layer.layer_id], { layer: layer.layer_id, line: replacing.line_id, ingredient });
              setReplacing(null);
            }}
          />
        </Sheet>
      )}
    </div>
  );
}

const HOLDS: readonly (readonly [Hold, string])[] = [
  ["free", "free"],
  ["fixed", "fixed"],
  ["least", "at least"],
  ["ratio", "in ratio"],
  ["none", "none of this"],
];

interface RowProps {
  line: LineView;
  layer: LayerView;
  version: VersionRecord;
  change: Change;
  onReplace: () => void;
}

function Row({ line, layer, version, change, onReplace }: RowProps) {
  const typed = version.layers
    .find((one) => one.id === layer.layer_id)
    ?.ingredients.find((one) => one.id === line.line_id);
  if (!typed) return null;
  const { hold } = line;
  const at = [layer.layer_id, line.line_id] as const;
  return (
    <tr className="align-top">
      <td className="py-0.5 pr-2 leading-tight">
        <span className="flex items-baseline gap-2 pt-1">
          <span className={`min-w-0 ${line.known ? "" : "text-amber-ink"}`}>
            {line.name}
            {line.for_all && <span className="block text-sm text-ink-2">{line.for_all}</span>}
          </span>
        </span>
      </td>
      <td className="py-0.5">
        <Cell
          align="right"
          label={`${line.name} in ${layer.name}, grams`}
          value={shownAmount(typed.amount)}
          problem={line.problem}
          hint={line.read_as && `= ${line.read_as}`}
          unit="g"
          onCommit={(text) => change((old) => withAmount(old, ...at, text))}
        />
      </td>
      <td className="py-1.5 text-right">{percent(line.share)}</td>
      <td className="py-0.5 pl-3">
        <span className="flex items-center gap-1">
          <Select
            label={`${line.name}, when solving`}
            className={`w-[84px] ${hold === "free" ? "text-ink-2" : "font-semibold"}`}
            value={hold}
            options={HOLDS}
            onChoose={(chosen) => change((old) => withHold(old, ...at, chosen))}
          />
          {(hold === "least" || hold === "ratio") && (
            <Cell
              className="w-14"
              align="right"
              label={hold === "least" ? `${line.name}, at least` : `${line.name}, part of the ratio`}
              value={hold === "least" ? shownAmount(typed.least) : typed.part}
              problem={line.least_problem}
              onCommit={(text) =>
                change((old) => withLineField(old, ...at, hold === "least" ? "least" : "part", text))
              }
            />
          )}
          {hold !== "least" && hold !== "ratio" && (
            <>
              <Button
                look="bare"
                className="px-1 text-sm"
                aria-label={`swap ${line.name}`}
                onClick={onReplace}
              >
                swap
              </Button>
              <Button
                look="bare"
                className="px-1 text-sm"
                aria-label={`out: ${line.name}`}
                onClick={() => change((old) => withoutLine(old, ...at))}
              >
                out
              </Button>
            </>
          )}
        </span>
      </td>
    </tr>
  );
}

/** Starts a layer again by a family's working ratio, at the weight it has. */
function FamilySheet({ view, layer, onClose }: { view: VersionView; layer: LayerView; onClose: () => void }) {
  const { matchId } = useMatch();
  const { data: families } = useQuery(familiesQuery);
  const beginning = useAct(
    matchId,
    (revision, family: string) => beginLayerAgain(matchId, view.version.id, revision, layer.layer_id, family),
    { then: onClose },
  );
  return (
    <Sheet title={`${layer.name}, by a working ratio`} open onClose={onClose}>
      <p className="mb-2 text-ink-2">
        Its lines are replaced by the usual ones of the kind you choose; undo brings them back.
      </p>
      <Finder
        label="Kind of component"
        placeholder="caramel, nougat, short base …"
        options={(families ?? []).map((family) => ({
          id: family.id,
          name: family.name,
          note: family.note,
          also: family.also,
        }))}
        onChoose={(family) => beginning.mutate(family)}
      />
      {beginning.error && <Notice>{beginning.error.message}</Notice>}
    </Sheet>
  );
}

/** Keeps the finished layer as an ingredient of one's own, for any match. */
function KeepAsIngredient({ view, layer }: { view: VersionView; layer: LayerView }) {
  const { matchId } = useMatch();
  const queries = useQueryClient();
  const keeping = useMutation({
    mutationFn: () => keepComponent(matchId, view.version.id, layer.layer_id, layer.name),
    onSuccess: () => refreshHouse(queries),
  });
  if (keeping.isSuccess) return <span className="text-sm text-ink-2">kept in the pantry</span>;
  return (
    <>
      <Button look="bare" disabled={keeping.isPending} onClick={() => keeping.mutate()}>
        Keep as an ingredient
      </Button>
      {keeping.error && <span className="text-sm text-amber-ink">{keeping.error.message}</span>}
    </>
  );
}
