import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { CookOut, Cooks } from "../api/types";
import { useAct } from "../app/act";
import { useMatch } from "../app/match";
import { SaveNotice } from "../app/SaveNotice";
import { Button, Heading, Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { useInHand } from "../versions/inHand";
import { AsItWas } from "../versions/AsItWas";
import { Taught } from "../versions/Taught";
import { beginCook, cookQuery, cooksQuery, deleteCook, scheduleQuery, useCook } from "./cookApi";
import { Schools } from "./Schools";
import { StepsList } from "./StepsList";
import { TimelineDrawing } from "./TimelineDrawing";
import { When } from "./When";

/** Cook: in what order, how hot, how long; and from here to the stove. */
export function CookPage() {
  const { matchId } = useMatch();
  const [search, setSearch] = useSearchParams();
  const { data, error } = useQuery(cooksQuery(matchId));
  const version = useInHand(
    matchId,
    data?.batches.map((one) => ({ id: one.version })),
  );
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Opening the cook …</p>;
  const cook =
    data.cooks.find((one) => one.id === search.get("cook")) ??
    data.cooks.find((one) => one.version === version?.id) ??
    data.cooks[0];
  const choose = (id: string, versionId: string) =>
    setSearch({ cook: id, version: versionId }, { replace: true });
  return (
    <>
      <CooksBar cooks={data} chosen={cook?.id ?? null} wanted={version?.id ?? null} onChoose={choose} />
      {cook && <Opened key={cook.id} cookId={cook.id} />}
    </>
  );
}

interface CooksBarProps {
  cooks: Cooks;
  chosen: string | null;
  /** The version in hand: its batch is offered first. */
  wanted: string | null;
  onChoose: (id: string, version: string) => void;
}

/** Which cook is open; another one of a batch, or it taken out. */
function CooksBar({ cooks, chosen, wanted, onChoose }: CooksBarProps) {
  const { matchId } = useMatch();
  const [batch, setBatch] = useState<string | null>(null);
  const offered =
    batch ?? (cooks.batches.find((one) => one.version === wanted) ?? cooks.batches[0])?.id ?? "";
  const begin = useAct(matchId, (revision) => beginCook(matchId, offered, revision), {
    answered: (now) => {
      const last = now.cooks.at(-1);
      if (last) onChoose(last.id, last.version);
    },
  });
  const takeOut = useAct(matchId, (revision) => deleteCook(matchId, chosen ?? "", revision), {
    answered: (now) => {
      const next = now.cooks[0];
      if (next) onChoose(next.id, next.version);
    },
  });
  const refused = begin.error ?? takeOut.error;
  if (!cooks.batches.length)
    return (
      <Heading title="In what order, how hot, how long">
        There is no batch to cook yet.{" "}
        <Link to="../batch" relative="path" className="text-fern-700 underline">
          Say how much to make
        </Link>
        , and the plan follows.
      </Heading>
    );
  return (
    <div className="no-print mb-3">
      {!chosen && (
        <Heading title="In what order, how hot, how long">
          A plan is made from a batch, its families and this kitchen.
        </Heading>
      )}
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <nav aria-label="Cooks" className="flex flex-wrap gap-x-4 gap-y-1">
          {cooks.cooks.map((one, number) => (
            <Button
              key={one.id}
              look="bare"
              aria-current={one.id === chosen ? "true" : undefined}
              className={one.id === chosen ? "font-semibold no-underline" : ""}
              onClick={() => onChoose(one.id, one.version)}
            >
              {number + 1}. {one.words}
            </Button>
          ))}
        </nav>
        <span className={`flex items-center gap-3 text-sm ${chosen ? "ml-auto" : ""}`}>
          {cooks.batches.length > 1 && (
            <Select
              label="Batch to cook"
              value={offered}
              options={cooks.batches.map((one) => [one.id, one.words] as const)}
              className="max-w-56"
              onChoose={setBatch}
            />
          )}
          <Button
            look={chosen ? "bare" : "main"}
            disabled={begin.isPending || !offered}
            onClick={() => begin.mutate()}
          >
            Plan {chosen ? "another" : "a"} cook
          </Button>
          {chosen && (
            <Button look="bare" disabled={takeOut.isPending} onClick={() => takeOut.mutate()}>
              Take this cook out
            </Button>
          )}
        </span>
      </div>
      {refused && <Notice>{refused.message}</Notice>}
    </div>
  );
}

function Opened({ cookId }: { cookId: string }) {
  const { matchId } = useMatch();
  const { data, error } = useQuery(cookQuery(matchId, cookId));
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Opening the plan …</p>;
  return <OneCook cook={data} />;
}

function OneCook({ cook }: { cook: CookOut }) {
  const { frame, matchId } = useMatch();
  const { plan, change, ...saver } = useCook(matchId, cook);
  const { data: schedule, isFetching, error } = useQuery(scheduleQuery(matchId, plan.id));
  const [chosen, choose] = useState<string | null>(null);
  if (cook.waits)
    return (
      <>
        <Heading title={`${frame.name}, ${cook.name}`} />
        <Notice>
          {cook.waits}{" "}
          <Link to={`../batch?batch=${plan.batch}`} relative="path" className="text-fern-700 underline">
            To the batch
          </Link>
        </Notice>
      </>
    );
  return (
    <>
      <Heading
        title={`${frame.name}, ${cook.name.toLowerCase()}`}
        action={
          <span className="no-print flex items-center gap-4">
            <Button look="bare" onClick={() => window.print()}>
              Print
            </Button>
            <Link
              to={`/m/${matchId}/stove/${plan.id}`}
              className="inline-block rounded bg-fern-700 px-3 py-1.5 font-semibold text-white hover:bg-fern-900"
            >
              To the stove
            </Link>
          </span>
        }
      >
        {schedule?.words || "Finding the times …"}
      </Heading>
      <SaveNotice {...saver} />
      {error && <Notice>{error.message}</Notice>}
      <Clashes schedule={schedule?.clashes ?? []} missing={cook.missing} />
      <When cook={cook} plan={plan} change={change} />
      {schedule && schedule.lines.length > 0 && (
        <section
          aria-label="Timeline"
          aria-busy={isFetching}
          className="mb-4 rounded-lg border border-line bg-card px-4 py-3 max-md:hidden"
        >
          <TimelineDrawing schedule={schedule} layers={frame.layers} chosen={chosen} onChoose={choose} />
        </section>
      )}
      <Taught notes={cook.notes} />
      <AsItWas recipe={cook.recipe} />
      <div className="grid gap-8 print:block min-[1200px]:grid-cols-[minmax(0,1fr)_300px]">
        <StepsList
          cook={cook}
          plan={plan}
          lines={schedule?.lines ?? []}
          chosen={chosen}
          onChoose={choose}
          change={change}
        />
        <div className="space-y-6">
          <Schools cook={cook} plan={plan} change={change} />
          <Differences cook={cook} />
        </div>
      </div>
    </>
  );
}

/** What this version changes at the stove beside the one it was made after. */
function Differences({ cook }: { cook: CookOut }) {
  if (!cook.differences.length) return null;
  return (
    <aside aria-label={`Beside ${cook.parent}`} className="text-sm">
      <h2 className="mb-1 text-lg">Beside {cook.parent.toLowerCase()}</h2>
      <ul className="space-y-1">
        {cook.differences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
    </aside>
  );
}

/** Windows that cannot be kept, and changes of steps that the plan no longer has. */
function Clashes({ schedule, missing }: { schedule: readonly string[]; missing: readonly string[] }) {
  const lost = missing.length
    ? [`The plan no longer has ${missing.map((one) => `“${one}”`).join(", ")}: what was changed there waits.`]
    : [];
  const all = [...schedule, ...lost];
  if (!all.length) return null;
  return (
    <div className="no-print mb-4">
      <Notice>
        {all.map((sentence) => (
          <p key={sentence}>{sentence}</p>
        ))}
      </Notice>
    </div>
  );
}
