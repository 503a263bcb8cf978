import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { useMatch } from "../app/match";
import { SaveNotice } from "../app/SaveNotice";
import type { BatchOut } from "../api/types";
import { Cell, told } from "../ui/Cell";
import { figure } from "../ui/figures";
import { Button, Heading, Notice } from "../ui/Parts";
import { BatchTable } from "./BatchTable";
import { batchesQuery, batchQuery, usePlan, withCell } from "./batchApi";
import { useInHand } from "../versions/inHand";
import { Taught } from "../versions/Taught";
import { Cautions } from "./Cautions";
import { Shopping } from "./Shopping";

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
      {data.batches.length > 1 && (
        <nav aria-label="Batches" className="no-print mb-3 flex flex-wrap gap-x-4 gap-y-1">
          {data.batches.map((one) => (
            <Button
              key={one.id}
              look="bare"
              aria-current={one === batch ? "true" : undefined}
              className={one === batch ? "font-semibold no-underline" : ""}
              onClick={() => setSearch({ batch: one.id, version: one.version }, { replace: true })}
            >
              {one.version_name}
              {one.words && `, ${one.words}`}
            </Button>
          ))}
        </nav>
      )}
      <Opened key={batch.id} batchId={batch.id} />
    </>
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
          : "Say how many pieces, and the grams follow."}
      </Heading>
      <SaveNotice {...saver} />
      <MovedOn batch={batch} />
      <div className="no-print mb-5 flex items-start gap-4" data-cells>
        <Cell
          showLabel
          className="w-40"
          label="Pieces wanted"
          value={plan.pieces}
          {...told(batch.pieces)}
          placeholder="24"
          onCommit={(pieces) => change((old) => ({ ...old, pieces }))}
        />
        {batch.weighed && <p className="max-w-md pt-6 text-sm text-ink-2">{batch.weighed}</p>}
        {saver.saving.kind === "sending" && <p className="pt-7 text-sm text-ink-2">saving …</p>}
      </div>
      {scaled && (
        <div className="grid gap-8 min-[1200px]:grid-cols-[minmax(0,1fr)_340px]">
          <BatchTable
            scaled={scaled}
            unit={batch.mass_unit}
            step={batch.scale_step_g}
            cookEnds={batch.cook_ends}
            losses={batch.left_on_tools}
            typedLosses={plan.left_on_tools ?? {}}
            onLoss={(layerId, typed) => change((old) => withCell(old, "left_on_tools", layerId, typed))}
          />
          <aside aria-label="Shopping and cautions" className="space-y-5">
            <Cautions cautions={batch.cautions} />
            <Shopping
              scaled={scaled}
              unit={batch.mass_unit}
              stock={batch.stock}
              words={batch.stock_words}
              inHouse={batch.in_house}
              typed={plan.in_house ?? {}}
              onInHouse={(food, typed) => change((old) => withCell(old, "in_house", food, typed))}
            />
          </aside>
        </div>
      )}
      <div className="mt-5">
        <Taught notes={batch.notes} open />
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
