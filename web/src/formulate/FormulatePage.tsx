import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useSearchParams } from "react-router";
import type { VersionRecord, VersionView } from "../api/types";
import { useMatch } from "../app/match";
import { useAct } from "../app/act";
import { SaveNotice } from "../app/SaveNotice";
import { Cell } from "../ui/Cell";
import { figure } from "../ui/figures";
import { Button, Heading, Notice } from "../ui/Parts";
import { Tabs } from "../ui/Tabs";
import { AddLayer } from "./AddLayer";
import { BalancePanel } from "./BalancePanel";
import { ComparePanel } from "./ComparePanel";
import { withName, withoutNote } from "./edits";
import {
  heldBackQuery,
  solveVersion,
  stopWork,
  takeCompositions,
  useVersion,
  versionQuery,
  versionsQuery,
  type Replacement,
} from "./formulateApi";
import { useInHand } from "../versions/inHand";
import { LayerCard, type Change } from "./LayerCard";
import { MeasurePanel } from "./MeasurePanel";
import { PrintedPanel } from "./PrintedPanel";
import { TargetsPanel } from "./TargetsPanel";
import { AsItWas } from "../versions/AsItWas";
import { Taught } from "../versions/Taught";
import { Begin, VersionBar } from "../versions/VersionBar";

/** Formulate: a recipe for this kitchen that gives the original. */
export function FormulatePage() {
  const { matchId } = useMatch();
  const [, setSearch] = useSearchParams();
  const { data, error } = useQuery(versionsQuery(matchId));
  const chosen = useInHand(matchId, data?.versions);
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Opening the versions …</p>;
  const show = (id: string) => setSearch({ version: id }, { replace: true });
  if (!chosen) return <Begin onBegun={show} />;
  return (
    <>
      <VersionBar versions={data.versions} chosen={chosen.id} onChoose={show} />
      <OneVersion
        key={chosen.id}
        versionId={chosen.id}
        others={data.versions.filter((one) => one.id !== chosen.id)}
      />
    </>
  );
}

function OneVersion({ versionId, others }: { versionId: string; others: { id: string; name: string }[] }) {
  const { matchId } = useMatch();
  const { data, error } = useQuery(versionQuery(matchId, versionId));
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Opening the version …</p>;
  return <Worked view={data} others={others} />;
}

function Worked({ view, others }: { view: VersionView; others: { id: string; name: string }[] }) {
  const { matchId, frame, picked } = useMatch();
  const [search, setSearch] = useSearchParams();
  const { version, change, ...saver } = useVersion(matchId, view);
  const solving = useSolving(view);
  const solve = (layers: string[], replace: Replacement | null = null) => solving.mutate({ layers, replace });
  const open = view.layers.some((layer) => layer.layer_id === picked) ? picked : view.layers[0]?.layer_id;
  const side = search.get("side") ?? "targets";
  const missed = view.targets.filter((target) => !target.reached).length;
  return (
    <>
      <Heading
        title={`${frame.name}, ${version.name.toLowerCase()}`}
        action={
          <span className="flex items-start gap-2" data-cells>
            <Cell
              className="w-40"
              label="Name of this version"
              value={version.name}
              most={120}
              onCommit={(name) => {
                if (name.trim()) change((old) => withName(old, name.trim()));
              }}
            />
            <Button
              look="main"
              disabled={solving.isPending}
              onClick={() => solve(view.layers.map((layer) => layer.layer_id))}
            >
              {solving.isPending ? "Solving …" : "Solve all layers"}
            </Button>
            {solving.isPending && (
              <Button look="bare" onClick={solving.stop}>
                Stop
              </Button>
            )}
          </span>
        }
      >
        {figure(view.piece_g, 1)} g a piece, {view.targets.length - missed} of {view.targets.length} targets
        reached. What you type is fixed; what is free is solved.
      </Heading>
      <SaveNotice {...saver} />
      <Notices view={view} version={version} change={change} />
      {solving.error && (
        <div role="alert" className="mb-3">
          <Notice>{solving.error.message}</Notice>
        </div>
      )}
      {solving.data?.impossible && (
        <div role="status" className="mb-3">
          <Notice tone="berry">{solving.data.impossible}</Notice>
        </div>
      )}
      <div className="grid gap-6 min-[1200px]:grid-cols-[minmax(0,1fr)_340px]">
        <div className="min-w-0 space-y-2">
          {view.layers.map((layer) => (
            <LayerCard
              key={layer.layer_id}
              layer={layer}
              view={view}
              version={version}
              open={layer.layer_id === open}
              change={change}
              solve={solve}
              busy={solving.isPending}
            />
          ))}
          <AddLayer view={view} />
          <HeldBack view={view} />
        </div>
        <aside aria-label="Targets and more" className="min-w-0">
          <Tabs
            label="Side matters"
            chosen={side}
            onChoose={(id) =>
              setSearch(
                (old) => {
                  old.set("version", version.id);
                  old.set("side", id);
                  return old;
                },
                { replace: true },
              )
            }
            items={sides(view, version, open ?? null, change, others)}
          />
        </aside>
      </div>
    </>
  );
}

const sides = (
  view: VersionView,
  version: VersionRecord,
  open: string | null,
  change: (edit: (version: VersionRecord) => VersionRecord) => void,
  others: { id: string; name: string }[],
) => [
  {
    id: "targets",
    title: "Targets",
    panel: <TargetsPanel view={view} version={version} open={open} change={change} />,
  },
  { id: "balance", title: "Balance", panel: <BalancePanel notes={view.notes} natures={view.natures} /> },
  { id: "label", title: "Label", panel: <PrintedPanel view={view} /> },
  { id: "measure", title: "Measure", panel: <MeasurePanel view={view} /> },
  ...(others.length > 0
    ? [{ id: "compare", title: "Compare", panel: <ComparePanel view={view} others={others} /> }]
    : []),
];

/** Solving, kept in one step; everything of the match is asked for again. */
function useSolving(view: VersionView) {
  const { matchId } = useMatch();
  const queries = useQueryClient();
  const asking = useRef<AbortController | null>(null);
  const solve = async (
    revision: number,
    { layers, replace }: { layers: string[]; replace: Replacement | null },
  ) => {
    asking.current = new AbortController();
    const { signal } = asking.current;
    try {
      return await solveVersion(matchId, view.version.id, revision, layers, replace, signal);
    } catch (error) {
      if (signal.aborted) return null; // stopped: nothing was changed
      throw error;
    }
  };
  const solving = useAct(matchId, solve, {
    answered: (solved) =>
      solved && queries.setQueryData(versionQuery(matchId, view.version.id).queryKey, solved.view),
    part: "version",
  });
  const stop = () => {
    asking.current?.abort();
    void stopWork(matchId, view.version.id);
  };
  return { ...solving, stop };
}

/** What moved on since the version was made, and what in it was not read. */
function Notices({ view, version, change }: { view: VersionView; version: VersionRecord; change: Change }) {
  const { matchId } = useMatch();
  const taking = useAct(matchId, (revision) => takeCompositions(matchId, view.version.id, revision));
  return (
    <>
      <Holding view={view} />
      <Taught notes={version.notes} onDrop={(id) => change((old) => withoutNote(old, id))} />
      <AsItWas recipe={version.recipe} />
      {view.outdated && (
        <div className="mb-3">
          <Notice>{view.outdated}</Notice>
        </div>
      )}
      {view.problems.map((problem) => (
        <div key={problem} className="mb-3">
          <Notice>{problem}</Notice>
        </div>
      ))}
      {view.stale.length > 0 && (
        <div className="mb-3">
          <Notice>
            The pantry has other figures now for {view.stale.map((one) => one.name).join(", ")}. This match
            keeps the ones it began with.{" "}
            <Button onClick={() => taking.mutate()} disabled={taking.isPending}>
              Take the new figures
            </Button>
          </Notice>
        </div>
      )}
    </>
  );
}

/** The rules the version was adapted under, and what of it no longer holds to them. */
function Holding({ view }: { view: VersionView }) {
  if (view.holding.length === 0) return null;
  const broken = view.holding.filter((one) => one.broken.length > 0);
  const rules = view.holding.map((one) => one.rule).join("; ");
  return (
    <div role="status" className="mb-3">
      {broken.length === 0 ? (
        <Notice tone="plain">Adapted under: {rules}. It holds; solving and weighing out keep to it.</Notice>
      ) : (
        broken.map((one) => (
          <Notice key={one.rule} tone="berry">
            <strong>{one.rule} no longer holds.</strong> {one.broken.join(" ")}
          </Notice>
        ))
      )}
    </div>
  );
}

/** What stops the targets that are missed, found by moving limits; hidden while nothing is. */
function HeldBack({ view }: { view: VersionView }) {
  const { matchId } = useMatch();
  const [shown, show] = useState(true);
  const missed = view.targets.some((target) => !target.reached);
  const { data } = useQuery({ ...heldBackQuery(matchId, view.version.id, view.revision), enabled: missed });
  if (!missed || !data || (data.held_back.length === 0 && !data.impossible)) return null;
  return (
    <section aria-labelledby="held-back" className="rounded-lg border border-line bg-card px-4 py-3">
      <div className="flex items-baseline justify-between">
        <h2 id="held-back" className="text-base">
          What holds it back
        </h2>
        <Button look="bare" aria-expanded={shown} onClick={() => show(!shown)}>
          {shown ? "Hide" : "Show"}
        </Button>
      </div>
      {shown && (
        <ul className="mt-1 space-y-1.5">
          {data.impossible && <li>{data.impossible}</li>}
          {data.held_back.map((sentence) => (
            <li key={sentence} className="border-l-4 border-amber pl-3">
              {sentence}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
