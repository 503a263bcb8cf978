import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { TrialOut, Trials } from "../api/types";
import { useAct } from "../app/act";
import { useMatch } from "../app/match";
import { SaveNotice } from "../app/SaveNotice";
import { Button, Heading, Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { Tabs } from "../ui/Tabs";
import { useInHand } from "../versions/inHand";
import { BesidePart } from "./BesidePart";
import { MadePart } from "./MadePart";
import { OverTimePart } from "./OverTimePart";
import { TastePart } from "./TastePart";
import { beginTrial, deleteTrial, trialQuery, trialsQuery, useTrial } from "./trialsApi";
import { WrongPart } from "./WrongPart";

/** Trials: is it the same, why not, and what to change next. */
export function TrialsPage() {
  const { matchId } = useMatch();
  const [search, setSearch] = useSearchParams();
  const { data, error } = useQuery(trialsQuery(matchId));
  const version = useInHand(
    matchId,
    data?.cooked.map((one) => ({ id: one.version })),
  );
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Opening the trials …</p>;
  const trial =
    data.trials.find((one) => one.id === search.get("trial")) ??
    data.trials.findLast((one) => one.version === version?.id) ??
    data.trials.at(-1);
  const choose = (id: string, versionId: string) => {
    const next = new URLSearchParams(search);
    next.set("trial", id);
    next.set("version", versionId);
    setSearch(next, { replace: true });
  };
  return (
    <>
      <TrialsBar trials={data} chosen={trial?.id ?? null} wanted={version?.id ?? null} onChoose={choose} />
      {trial && <Opened key={trial.id} trialId={trial.id} />}
    </>
  );
}

interface TrialsBarProps {
  trials: Trials;
  chosen: string | null;
  /** The version in hand: what was cooked of it is offered first. */
  wanted: string | null;
  onChoose: (id: string, version: string) => void;
}

/** Which trial is open; another one of what was cooked, or it taken out. */
function TrialsBar({ trials, chosen, wanted, onChoose }: TrialsBarProps) {
  const { matchId } = useMatch();
  const [picked, setPicked] = useState<string | null>(null);
  const keyed = trials.cooked.map((one) => ({ ...one, key: `${one.batch} ${one.cook ?? ""}` }));
  const offered =
    keyed.find((one) => one.key === picked) ?? keyed.find((one) => one.version === wanted) ?? keyed[0];
  const toLast = (now: Trials) => {
    const one = now.trials.at(-1);
    if (one) onChoose(one.id, one.version);
  };
  const begin = useAct(
    matchId,
    (revision) => beginTrial(matchId, offered?.batch ?? "", offered?.cook ?? null, revision),
    { answered: toLast },
  );
  const takeOut = useAct(matchId, (revision) => deleteTrial(matchId, chosen ?? "", revision), {
    answered: toLast,
  });
  const refused = begin.error ?? takeOut.error;
  if (!trials.cooked.length)
    return (
      <Heading title="Is it the same?">
        There is no batch to try yet.{" "}
        <Link to="../batch" relative="path" className="text-fern-700 underline">
          Say how much to make
        </Link>
        , cook it, and come back with a piece of each.
      </Heading>
    );
  return (
    <div className="no-print mb-3">
      {!chosen && (
        <Heading title="Is it the same?">
          Weigh, measure and taste a piece of each. What differs is told with its doubt, what went wrong with
          its likely cause, and what to change next.
        </Heading>
      )}
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <nav aria-label="Trials" className="flex flex-wrap gap-x-4 gap-y-1">
          {trials.trials.map((one) => (
            <Button
              key={one.id}
              look="bare"
              aria-current={one.id === chosen ? "true" : undefined}
              className={one.id === chosen ? "font-semibold no-underline" : ""}
              onClick={() => onChoose(one.id, one.version)}
            >
              {one.name}, {one.version_name}
            </Button>
          ))}
        </nav>
        <span className={`flex items-center gap-3 text-sm ${chosen ? "ml-auto" : ""}`}>
          {keyed.length > 1 && offered && (
            <Select
              label="What was cooked"
              value={offered.key}
              options={keyed.map((one) => [one.key, one.words] as const)}
              className="max-w-64"
              onChoose={setPicked}
            />
          )}
          <Button look={chosen ? "bare" : "main"} disabled={begin.isPending} onClick={() => begin.mutate()}>
            {chosen ? "Another trial" : "Begin a trial"}
          </Button>
          {chosen && (
            <Button look="bare" disabled={takeOut.isPending} onClick={() => takeOut.mutate()}>
              Take this trial out
            </Button>
          )}
        </span>
      </div>
      {refused && <Notice>{refused.message}</Notice>}
    </div>
  );
}

function Opened({ trialId }: { trialId: string }) {
  const { matchId } = useMatch();
  const { data, error } = useQuery(trialQuery(matchId, trialId));
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Opening the trial …</p>;
  return <OneTrial trial={data} />;
}

function OneTrial({ trial }: { trial: TrialOut }) {
  const { frame, matchId } = useMatch();
  const [search, setSearch] = useSearchParams();
  const { typed, change, ...saver } = useTrial(matchId, trial);
  const choose = (part: string) => {
    const next = new URLSearchParams(search);
    next.set("part", part);
    setSearch(next, { replace: true });
  };
  const wrong = trial.layers.reduce((sum, one) => sum + one.wrong.length, 0);
  const shared = { trial, typed, change };
  return (
    <>
      <Heading title={`${frame.name}, ${trial.trial.name || "unnamed trial"}`}>
        {trial.close && <strong className="text-ink">Closeness {trial.close.words}. </strong>}
        {trial.summary}
        {trial.estimate_under_way && " The estimate of the original is being worked out."}
      </Heading>
      <SaveNotice {...saver} />
      <Tabs
        label="Parts of a trial"
        chosen={search.get("part") ?? "beside"}
        onChoose={choose}
        items={[
          { id: "beside", title: "Beside the original", panel: <BesidePart {...shared} /> },
          { id: "made", title: "Made and kept", panel: <MadePart {...shared} /> },
          {
            id: "wrong",
            title: "What is wrong, and next",
            note: wrong ? String(wrong) : undefined,
            panel: <WrongPart {...shared} />,
          },
          { id: "taste", title: "Taste", panel: <TastePart {...shared} revision={trial.revision} /> },
          { id: "over-time", title: "Over time", panel: <OverTimePart chosen={trial.trial.id} /> },
        ]}
      />
    </>
  );
}
