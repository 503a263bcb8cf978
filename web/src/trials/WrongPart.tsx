import { useState } from "react";
import { useNavigate } from "react-router";
import type { LayerTrial, ProposedChange, ReachedThing, TrialOut } from "../api/types";
import { freshId } from "../app/ids";
import { useMatch } from "../app/match";
import { useAct } from "../app/act";
import { useUnderway } from "../app/underway";
import { Cell, told } from "../ui/Cell";
import { Button, Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { takeInHand } from "../versions/inHand";
import type { PartProps } from "./BesidePart";
import { takeNext, withTyped, type Change } from "./trialsApi";

/** What is wrong, layer by layer; its causes by this batch's own readings; and what to change next. */
export function WrongPart({ trial, typed, change }: PartProps) {
  // Causes that the user takes for the one, though another is likelier or no reading speaks for it.
  const [wanted, setWanted] = useState<readonly string[]>([]);
  const known = trial.layers.flatMap((layer) => layer.causes.map((cause) => cause.change));
  const chosen = known.filter((one) => wanted.includes(one.id));
  const toggle = (id: string) =>
    setWanted(wanted.includes(id) ? wanted.filter((one) => one !== id) : [...wanted, id]);
  const offered = offeredOf(trial, chosen);
  return (
    <div className="grid gap-x-8 gap-y-6 min-[1200px]:grid-cols-[minmax(0,1fr)_340px]">
      <div className="space-y-5">
        {trial.layers.map((layer) => (
          <LayerCard
            key={layer.layer_id}
            layer={layer}
            typed={typed}
            change={change}
            wanted={wanted}
            offered={offered.filter((one) => one.layer_id === layer.layer_id).map((one) => one.cause_id)}
            onWant={toggle}
          />
        ))}
      </div>
      <Next trial={trial} offered={offered} wanted={chosen} onUnwant={toggle} />
    </div>
  );
}

/** What stands under “Change next time”: what the user takes for a layer, in place of what is proposed for it. */
function offeredOf(trial: TrialOut, wanted: readonly ProposedChange[]): readonly ProposedChange[] {
  const layers = wanted.map((one) => one.layer_id);
  return [...wanted, ...trial.changes.filter((one) => !layers.includes(one.layer_id))].slice(
    0,
    trial.most_changes,
  );
}

interface LayerCardProps {
  layer: LayerTrial;
  typed: PartProps["typed"];
  change: Change;
}

interface CausesProps {
  layer: LayerTrial;
  wanted: readonly string[];
  offered: readonly string[];
  onWant: (id: string) => void;
}

function LayerCard({ layer, typed, change, wanted, offered, onWant }: LayerCardProps & CausesProps) {
  const seen = typed.faults.filter((one) => one.layer === layer.layer_id);
  const others = layer.can_be.filter((one) => !seen.some((fault) => fault.fault === one.id));
  const add = (fault: string) => {
    const entry = { id: freshId("fault"), fault, layer: layer.layer_id };
    change((old) => ({ ...old, faults: [...old.faults, entry] }));
  };
  const remove = (id: string) =>
    change((old) => ({ ...old, faults: old.faults.filter((one) => one.id !== id) }));
  return (
    <section aria-label={layer.name} className="border-b border-line pb-4">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <h2 className="text-lg">{layer.name}</h2>
        {seen.map((fault) => {
          const words = layer.can_be.find((one) => one.id === fault.fault)?.seen ?? fault.fault;
          return (
            <span key={fault.id} className="rounded bg-amber-wash px-2 py-0.5">
              {words}{" "}
              <button
                type="button"
                aria-label={`${layer.name} is not ${words.toLowerCase()}`}
                className="text-amber-ink"
                onClick={() => remove(fault.id)}
              >
                ×
              </button>
            </span>
          );
        })}
        <Select
          label={`What is wrong with ${layer.name}`}
          value=""
          empty={seen.length ? "And …" : "Nothing is wrong"}
          className="w-56"
          options={others.map((one) => [one.id, one.seen] as const)}
          onChoose={(id) => id && add(id)}
        />
      </div>
      {layer.ranking && <p className="mt-2 font-semibold">{layer.ranking}</p>}
      {layer.causes.length > 0 && <Causes layer={layer} wanted={wanted} offered={offered} onWant={onWant} />}
      {(seen.length > 0 || layer.reached.some((one) => one.says)) && layer.reached.length > 0 && (
        <ReachedTable layer={layer} typed={typed} change={change} />
      )}
      {layer.to_take.length > 0 && (
        <div className="mt-2 text-sm">
          <p className="text-ink-2">What would tell more:</p>
          <ul className="list-disc pl-5">
            {layer.to_take.map((one) => (
              <li key={one.ask}>
                {one.ask}{" "}
                {!one.is_now && <span className="text-ink-2">(next time, if nobody remembers)</span>}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}

const MANY = 3;

function Causes({ layer, wanted, offered, onWant }: CausesProps) {
  const [all, setAll] = useState(false);
  const shown = all ? layer.causes : layer.causes.slice(0, MANY);
  return (
    <div className="mt-2">
      <table className="w-full border-collapse">
        <thead className="sr-only">
          <tr>
            <th>Cause</th>
            <th>How likely</th>
            <th>What speaks for and against it</th>
            <th>Take it</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((one) => (
            <tr key={one.id} className="border-t border-line/60 align-top">
              <th scope="row" className="w-[34%] py-1.5 pr-3 text-left font-normal">
                {one.says}
              </th>
              <td className="w-28 py-1.5 pr-3">
                <span className="block h-2 rounded bg-line/60" aria-hidden="true">
                  <span
                    className="block h-2 rounded bg-fern-700"
                    style={{ width: `${Math.max(2, 100 * one.chance)}%` }}
                  />
                </span>
                <span className="text-sm whitespace-nowrap">{one.chance_words}</span>
              </td>
              <td className="py-1.5 text-sm">
                {one.spoken.length ? (
                  one.spoken.map((sentence) => <p key={sentence}>{sentence}</p>)
                ) : (
                  <p className="text-ink-2">nothing was read that would tell</p>
                )}
              </td>
              <td className="py-1.5 pl-2 text-right text-sm whitespace-nowrap">
                {offered.includes(one.change.cause_id) && !wanted.includes(one.change.id) ? (
                  <span className="text-ink-2">proposed</span>
                ) : (
                  <Button
                    look="bare"
                    aria-pressed={wanted.includes(one.change.id)}
                    aria-label={`${wanted.includes(one.change.id) ? "taken" : "take this one"}: ${one.says}`}
                    onClick={() => onWant(one.change.id)}
                  >
                    {wanted.includes(one.change.id) ? "taken" : "take this one"}
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="flex gap-3 text-sm text-ink-2">
        <span>Something else: {layer.something_else}</span>
        {layer.causes.length > MANY && (
          <Button look="bare" onClick={() => setAll(!all)}>
            {all ? "Only the likeliest" : `All ${layer.causes.length} causes`}
          </Button>
        )}
      </p>
    </div>
  );
}

/** What was reached: by the log, or typed afterwards; and what was seen. */
function ReachedTable({ layer, typed, change }: LayerCardProps) {
  return (
    <table className="mt-2 w-full border-collapse text-sm">
      <caption className="sr-only">What was read of {layer.name}</caption>
      <thead className="text-left text-ink-2">
        <tr className="border-b border-line">
          <th className="py-1 font-normal">What was read</th>
          <th className="w-20 py-1 font-normal">Plan</th>
          <th className="w-20 py-1 font-normal">Log</th>
          <th className="w-40 py-1 font-normal">As typed</th>
        </tr>
      </thead>
      <tbody>
        {layer.reached.map((one) => (
          <tr key={one.key} className="border-b border-line/60">
            <th scope="row" className="py-1 pr-2 text-left font-normal">
              {one.is_look ? one.ask : one.title}
            </th>
            <td className="py-1 pr-2">{one.planned}</td>
            <td className="py-1 pr-2">{one.logged}</td>
            <td className="py-1">
              <ReachedField one={one} layer={layer.name} typed={typed} change={change} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function ReachedField(props: {
  one: ReachedThing;
  layer: string;
  typed: PartProps["typed"];
  change: Change;
}) {
  const { one, layer, typed, change } = props;
  const value = typed.reached?.[one.key] ?? "";
  const commit = (text: string) => change((old) => withTyped(old, `reached.${one.key}`, text));
  const label = `${layer}: ${one.is_look ? one.ask : one.title}`;
  if (one.is_look)
    return (
      <Select
        label={label}
        value={value}
        empty="not known"
        options={[
          ["yes", "yes"],
          ["no", "no"],
        ]}
        onChoose={commit}
      />
    );
  return <Cell label={label} value={value} placeholder="not read" onCommit={commit} {...told(one.cell)} />;
}

/** The version to cook next: a few changes, each with its reason and what it should do. */
interface NextProps {
  trial: TrialOut;
  offered: readonly ProposedChange[];
  wanted: readonly ProposedChange[];
  onUnwant: (id: string) => void;
}

function Next({ trial, offered, wanted, onUnwant }: NextProps) {
  const { matchId } = useMatch();
  const navigate = useNavigate();
  const underway = useUnderway(); // what is proposed may be of before what was typed last
  const [left, setLeft] = useState<readonly string[]>([]);
  const chosen = offered.filter((one) => !left.includes(one.id)).map((one) => one.id);
  const take = useAct(matchId, (revision) => takeNext(matchId, trial.trial.id, chosen, revision), {
    then: async (made) => {
      takeInHand(matchId, made.version.id);
      await navigate(`../formulate?version=${made.version.id}`, { relative: "path" });
    },
  });
  const toggle = (one: ProposedChange) =>
    wanted.includes(one)
      ? onUnwant(one.id)
      : setLeft(left.includes(one.id) ? left.filter((id) => id !== one.id) : [...left, one.id]);
  return (
    <aside
      aria-label="Change next time"
      className="self-start rounded-lg border border-line bg-card p-4 min-[1200px]:sticky min-[1200px]:top-0"
    >
      <h2 className="mb-1 text-lg">Change next time</h2>
      {offered.length === 0 ? (
        <p className="text-ink-2">Say what is wrong with a layer, and what to change for it stands here.</p>
      ) : (
        <>
          <p className="mb-2 text-sm text-ink-2">
            Few at a time, or nobody knows what helped. All else stays as in {trial.version_name}.
          </p>
          <ul className="space-y-3">
            {offered.map((one) => (
              <li key={one.id}>
                <label className="flex gap-2">
                  <input
                    type="checkbox"
                    className="mt-1 size-4 shrink-0 accent-fern-700"
                    checked={!left.includes(one.id)}
                    onChange={() => toggle(one)}
                  />
                  <span>
                    <span className="block font-semibold">{one.words}</span>
                    <span className="block text-sm">
                      {one.why} ({one.chance}).
                    </span>
                    {one.effect && <span className="block text-sm text-ink-2">Should do: {one.effect}.</span>}
                  </span>
                </label>
              </li>
            ))}
          </ul>
          <Button
            look="main"
            className="mt-4"
            disabled={!chosen.length || take.isPending || underway}
            onClick={() => take.mutate()}
          >
            Make the next version
          </Button>
          {take.error && (
            <div className="mt-2" role="alert">
              <Notice>{take.error.message}</Notice>
            </div>
          )}
        </>
      )}
    </aside>
  );
}
