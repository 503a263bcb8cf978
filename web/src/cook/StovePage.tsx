import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { CookOut, CookStep, Doing, Run } from "../api/types";
import { Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { AsItWas } from "../versions/AsItWas";
import { Taught } from "../versions/Taught";
import { cookQuery } from "./cookApi";
import { DevicePanel } from "./DevicePanel";
import { LogPart } from "./LogPart";
import { RescueSheet } from "./RescueSheet";
import { useRun, type NewEntry, type RunDesk } from "./runApi";
import { StoveButton } from "./StoveButton";
import { StoveStep } from "./StoveStep";
import { Timers } from "./Timers";
import { useAwake, useSound, useTicking } from "./useTicking";

const SPEEDS = [
  ["0", "For real"],
  ["1", "Practice, as in life"],
  ["10", "Practice, 10 × as fast"],
  ["60", "Practice, 60 × as fast"],
] as const;

/** At the stove: one step at a time, at arm's length. */
export function StovePage() {
  const { matchId = "", cookId = "" } = useParams();
  const { data: cook, error } = useQuery(cookQuery(matchId, cookId));
  const desk = useRun(matchId, cookId);
  if (error)
    return (
      <main className="p-8">
        <Notice>{error.message}</Notice>
      </main>
    );
  if (!cook || !desk.run) return <p className="p-8 text-ink-2">Opening the cook …</p>;
  return <AtTheStove cook={cook} run={desk.run} desk={desk} matchId={matchId} />;
}

interface AtTheStoveProps {
  cook: CookOut;
  run: Run;
  desk: RunDesk;
  matchId: string;
}

function AtTheStove({ cook, run, desk, matchId }: AtTheStoveProps) {
  const [looked, look] = useState<string | null>(null);
  const [rescuing, setRescuing] = useState(false);
  const now = useTicking();
  const gone = ((now - desk.answeredAt) / 1000) * (run.speed || 1);
  const up = [
    ...run.timers.filter((one) => one.left_s - gone <= 0).map((one) => one.id),
    run.device?.alarm ? `${run.device.name} ${run.device.alarm}` : "",
  ]
    .filter(Boolean)
    .join();
  useAwake(run.is_on);
  useSound(up);
  const keyOf = (one: Doing) => `${one.step} ${one.round}`;
  const doing =
    run.doing.find((one) => keyOf(one) === looked) ??
    (run.at_hand === null ? undefined : run.doing[run.at_hand]);
  const step = cook.steps.find((one) => one.id === doing?.step);
  const log = (...entries: NewEntry[]) => {
    if (entries.some((one) => one.kind === "done" || one.kind === "opened")) look(null);
    desk.log(...entries);
  };
  return (
    <div className="flex min-h-dvh flex-col">
      <Head cook={cook} run={run} matchId={matchId} log={log} />
      <div className="grid flex-1 gap-6 px-5 py-4 min-[1024px]:grid-cols-[minmax(0,1fr)_320px]">
        <main id="main" className="min-w-0 space-y-4">
          {desk.problem && (
            <div role="alert">
              <Notice>
                {desk.problem}
                {desk.waiting > 0 && ` ${desk.waiting} entries wait here and go out by themselves.`}
              </Notice>
            </div>
          )}
          {!run.has_begun && step && <Beginning onBegin={() => log({ kind: "begun" })} step={step} />}
          {run.has_begun && step && doing && (
            <>
              <StoveStep step={step} doing={doing} run={run} gone={gone} log={log} />
              <DevicePanel step={step} run={run} log={log} />
              <LogPart step={step} doing={doing} run={run} log={log} onRescue={() => setRescuing(true)} />
            </>
          )}
          {run.has_begun && !step && (
            <p className="text-2xl">All steps are done. What came out is for the trial.</p>
          )}
        </main>
        <aside className="space-y-5" aria-label="Timers and steps">
          <Timers run={run} gone={gone} log={log} />
          <Taught notes={cook.notes} />
          <AsItWas recipe={cook.recipe} />
          <Steps run={run} chosen={doing ? keyOf(doing) : null} onLook={look} />
        </aside>
      </div>
      {step && doing && (
        <RescueSheet
          step={step}
          open={rescuing}
          onClose={() => setRescuing(false)}
          onTake={(text) => log({ kind: "rescue", step: step.id, round: doing.round, text })}
        />
      )}
    </div>
  );
}

interface HeadProps {
  cook: CookOut;
  run: Run;
  matchId: string;
  log: (...entries: NewEntry[]) => void;
}

function Head({ cook, run, matchId, log }: HeadProps) {
  return (
    <header className="flex flex-wrap items-center gap-x-5 gap-y-2 bg-fern-900 px-5 py-2 text-white">
      <h1 className="font-head text-lg font-semibold">{cook.name}</h1>
      <p className="text-fern-100">
        {run.done} of {run.doing.length} done
      </p>
      <div className="ml-auto flex flex-wrap items-center gap-3">
        <Select
          label="For real or practice"
          value={String(run.speed) as (typeof SPEEDS)[number][0]}
          options={SPEEDS}
          className="min-h-11"
          onChoose={(speed) => log({ kind: "practice", value: Number(speed) })}
        />
        {run.is_on && (
          <StoveButton look="dark" onClick={() => log({ kind: "ended" })}>
            End the cook
          </StoveButton>
        )}
        {run.has_begun && !run.is_on && (
          <StoveButton look="dark" onClick={() => log({ kind: "begun" })}>
            Go on
          </StoveButton>
        )}
        <Link
          to={`/m/${matchId}/cook?cook=${cook.plan.id}&version=${cook.version}`}
          className="flex min-h-11 items-center px-2 underline"
        >
          To the plan
        </Link>
      </div>
    </header>
  );
}

function Beginning({ step, onBegin }: { step: CookStep; onBegin: () => void }) {
  return (
    <section className="space-y-3">
      <p className="text-3xl font-semibold">First: {step.title}</p>
      <p className="max-w-xl text-lg text-ink-2">
        From here on everything is logged with its time. Timers go on when this page is closed; a second
        tablet shows the same.
      </p>
      <StoveButton look="main" onClick={onBegin}>
        Begin the cook
      </StoveButton>
    </section>
  );
}

const STATES: Record<string, string> = { done: "done", open: "under way", ready: "can begin", waits: "" };

/** All steps in their order; any can be looked at. */
function Steps({ run, chosen, onLook }: { run: Run; chosen: string | null; onLook: (key: string) => void }) {
  const first = Math.max(
    0,
    run.doing.findIndex((one) => one.state !== "done"),
  );
  const [all, setAll] = useState(false);
  const shown = all ? run.doing : run.doing.slice(first, first + 8);
  return (
    <nav aria-label="Steps">
      <h2 className="mb-1 text-lg">Steps</h2>
      <ol>
        {shown.map((one) => {
          const key = `${one.step} ${one.round}`;
          return (
            <li key={key}>
              <button
                type="button"
                aria-current={key === chosen ? "step" : undefined}
                className={`flex min-h-11 w-full items-baseline gap-2 rounded px-2 py-2 text-left hover:bg-linen ${key === chosen ? "bg-linen font-semibold" : ""} ${one.state === "done" || one.state === "waits" ? "text-ink-2" : ""}`}
                onClick={() => onLook(key)}
              >
                <span className="w-11 shrink-0 text-sm text-ink-2">{one.planned}</span>
                <span className="min-w-0 flex-1">
                  {one.title}
                  {one.rounds > 1 && ` · round ${one.round}`}
                </span>
                <span className="shrink-0 text-sm text-ink-2">{STATES[one.state]}</span>
              </button>
            </li>
          );
        })}
      </ol>
      {run.doing.length > shown.length || all ? (
        <StoveButton onClick={() => setAll(!all)}>{all ? "Only what is next" : "All steps"}</StoveButton>
      ) : null}
    </nav>
  );
}
