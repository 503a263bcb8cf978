import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { useAct } from "../app/act";
import { useMatch } from "../app/match";
import { SaveNotice } from "../app/SaveNotice";
import type { BatchLine, BatchOut } from "../api/types";
import { figure } from "../ui/figures";
import { Button, Heading, Notice } from "../ui/Parts";
import { BatchTable } from "./BatchTable";
import { anotherBatch, batchesQuery, batchQuery, deleteBatch, usePlan, withCell } from "./batchApi";
import { useInHand } from "../versions/inHand";
import { AsItWas } from "../versions/AsItWas";
import { Taught } from "../versions/Taught";
import { Cautions } from "./Cautions";
import { HowMuch } from "./HowMuch";
import { LotsPart } from "./LotsPart";
import { PieceCard } from "./PieceCard";
import { Shopping } from "./Shopping";
import { WrappingPart } from "./WrappingPart";

/** Batch: how many pieces, and the grams to weigh out for them. */
export function BatchPage() {
  const { matchId } = useMatch();
  const [search, setSearch] = useSearchParams();
  const { data, error } = useQuery(batchesQuery(matchId));
  const version = useInHand(
    matchId,
    data?.batches.map((one) => ({ id: one.version })),
  );
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Opening the batch …</p>;
  const batch =
    data.batches.find((one) => one.id === search.get("batch")) ??
    data.batches.find((one) => one.version === version?.id) ??
    data.batches[0];
  if (!batch) {
    return (
      <>
        <Heading title="How much to make">There is no version to scale yet.</Heading>
        <p>
          <Link to="../formulate" relative="path" className="text-fern-700 underline">
            Begin a version
          </Link>
          : from the estimate, from a recipe or from working ratios.
        </p>
      </>
    );
  }
  return (
    <>
      <BatchesBar
        batches={data.batches}
        chosen={batch.id}
        onChoose={(one) => setSearch({ batch: one.id, version: one.version }, { replace: true })}
      />
      <Opened key={batch.id} batchId={batch.id} />
    </>
  );
}

interface BatchesBarProps {
  batches: readonly BatchLine[];
  chosen: string;
  onChoose: (batch: BatchLine) => void;
}

/** Which batch is open; another one like it, or it taken out. */
function BatchesBar({ batches, chosen, onChoose }: BatchesBarProps) {
  const { matchId } = useMatch();
  const begin = useAct(matchId, (revision) => anotherBatch(matchId, chosen, revision), {
    answered: (now) => {
      const last = now.batches.at(-1);
      if (last) onChoose(last);
    },
  });
  const takeOut = useAct(matchId, (revision) => deleteBatch(matchId, chosen, revision), {
    answered: (now) => {
      const next = now.batches[0];
      if (next) onChoose(next);
    },
  });
  const refused = begin.error ?? takeOut.error;
  return (
    <div className="no-print mb-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <nav aria-label="Batches" className="flex flex-wrap gap-x-4 gap-y-1">
          {batches.map((one) => (
            <Button
              key={one.id}
              look="bare"
              aria-current={one.id === chosen ? "true" : undefined}
              className={one.id === chosen ? "font-semibold no-underline" : ""}
              onClick={() => onChoose(one)}
            >
              {one.version_name}
              {one.words && `, ${one.words}`}
            </Button>
          ))}
        </nav>
        <span className="ml-auto flex gap-4 text-sm">
          <Button look="bare" disabled={begin.isPending} onClick={() => begin.mutate()}>
            Another batch like this
          </Button>
          {batches.length > 1 && (
            <Button look="bare" disabled={takeOut.isPending} onClick={() => takeOut.mutate()}>
              Take this batch out
            </Button>
          )}
        </span>
      </div>
      {refused && <Notice>{refused.message}</Notice>}
    </div>
  );
}

function Opened({ batchId }: { batchId: string }) {
  const { matchId } = useMatch();
  const { data, error } = useQuery(batchQuery(matchId, batchId));
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Opening the batch …</p>;
  return <OneBatch batch={data} />;
}

function OneBatch({ batch }: { batch: BatchOut }) {
  const { frame, matchId } = useMatch();
  const { plan, change, ...saver } = usePlan(matchId, batch);
  const { batch: scaled } = batch;
  return (
    <>
      <Heading
        title={`${frame.name}, ${batch.version_name.toLowerCase()}`}
        action={
          scaled && (
            <Button look="main" className="no-print" onClick={() => window.print()}>
              Print
            </Button>
          )
        }
      >
        {scaled
          ? `${scaled.pieces} pieces of ${figure(scaled.piece_g, 1)} g: ${figure(scaled.finished_g, 0)} g in all.`
          : "How much is made, and in what: the grams follow."}
      </Heading>
      <SaveNotice {...saver} />
      <MovedOn batch={batch} />
      <HowMuch batch={batch} plan={plan} change={change} saving={saver.saving.kind === "sending"} />
      {scaled && (
        <div className="grid gap-8 print:block min-[1200px]:grid-cols-[minmax(0,1fr)_340px]">
          <BatchTable
            scaled={scaled}
            premixes={batch.premixes}
            unit={batch.mass_unit}
            step={batch.scale_step_g}
            cookEnds={batch.cook_ends}
            coatWords={batch.coat_words}
            losses={batch.left_on_tools}
            typedLosses={plan.left_on_tools ?? {}}
            setOut={batch.set_out}
            leftOver={batch.left_over}
            typedLeft={plan.left_over ?? {}}
            onLeft={(layerId, typed) => change((old) => withCell(old, "left_over", layerId, typed))}
            onLoss={(layerId, typed) => change((old) => withCell(old, "left_on_tools", layerId, typed))}
          />
          <aside aria-label="Shopping and cautions" className="space-y-5 print:space-y-2">
            <Cautions cautions={batch.cautions} />
            <Shopping
              scaled={scaled}
              unit={batch.mass_unit}
              stock={batch.stock}
              words={batch.stock_words}
              inHouse={batch.in_house}
              typed={plan.in_house ?? {}}
              onInHouse={(food, typed) => change((old) => withCell(old, "in_house", food, typed))}
              packs={batch.packs}
            />
            <WrappingPart batch={batch} plan={plan} change={change} />
          </aside>
        </div>
      )}
      {scaled && <LotsPart batch={batch} plan={plan} change={change} />}
      {batch.cards.length > 0 && (
        <div className="grid gap-x-6 min-[1200px]:grid-cols-2 print:block">
          {batch.cards.map((card, number) => (
            <PieceCard
              key={card.lot}
              card={card}
              onMadeOn={number === 0 ? (made_on) => change((old) => ({ ...old, made_on })) : undefined}
            />
          ))}
        </div>
      )}
      <div className="mt-5">
        <Taught notes={batch.notes} open />
        <AsItWas recipe={batch.recipe} />
      </div>
    </>
  );
}

/** What moved on since the version was made, and what in it was not read. */
function MovedOn({ batch }: { batch: BatchOut }) {
  return (
    <>
      {batch.outdated && (
        <div className="no-print mb-4">
          <Notice>
            {batch.outdated}{" "}
            <Link to="../estimate" relative="path" className="text-fern-700 underline">
              To the estimate
            </Link>
          </Notice>
        </div>
      )}
      {batch.problems.map((problem) => (
        <div key={problem} className="mb-4">
          <Notice>{problem}</Notice>
        </div>
      ))}
    </>
  );
}
