import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { useMatch } from "../app/match";
import { SaveNotice } from "../app/SaveNotice";
import type { Batches, BatchOut, Version } from "../api/types";
import { Cell, told } from "../ui/Cell";
import { figure } from "../ui/figures";
import { Button, Heading, Notice } from "../ui/Parts";
import { BatchTable } from "./BatchTable";
import { batchesQuery, usePlan, withCell } from "./batchApi";
import { Cautions } from "./Cautions";
import { Shopping } from "./Shopping";

/** Batch: how many pieces, and the grams to weigh out for them. */
export function BatchPage() {
  const { matchId } = useMatch();
  const [search, setSearch] = useSearchParams();
  const { data, error } = useQuery(batchesQuery(matchId));
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Opening the batch …</p>;
  const batch =
    data.batches.find((one) => one.plan.id === search.get("batch")) ??
    data.batches.find((one) => one.plan.version === search.get("version")) ??
    data.batches[0];
  if (!batch) {
    return (
      <>
        <Heading title="How much to make">There is no version to scale yet.</Heading>
        <p>
          <Link to="../estimate" relative="path" className="text-fern-700 underline">
            Look at the estimate
          </Link>{" "}
          and take it as the faithful version.
        </p>
      </>
    );
  }
  const name = (one: BatchOut) =>
    data.versions.find((version) => version.id === one.plan.version)?.name ?? "Batch";
  return (
    <>
      {data.batches.length > 1 && (
        <nav aria-label="Batches" className="no-print mb-3 flex gap-4">
          {data.batches.map((one) => (
            <Button
              key={one.plan.id}
              look="bare"
              aria-current={one === batch ? "true" : undefined}
              className={one === batch ? "font-semibold" : ""}
              onClick={() => setSearch({ batch: one.plan.id }, { replace: true })}
            >
              {name(one)}
              {one.batch && `, ${one.batch.pieces} pieces`}
            </Button>
          ))}
        </nav>
      )}
      <OneBatch key={batch.plan.id} batches={data} batch={batch} />
    </>
  );
}

function OneBatch({ batches, batch }: { batches: Batches; batch: BatchOut }) {
  const { frame, matchId } = useMatch();
  const { plan, change, ...saver } = usePlan(matchId, batch);
  const version = batches.versions.find((one) => one.id === batch.plan.version);
  const { batch: scaled } = batch;
  return (
    <>
      <Heading
        title={`${frame.name}, ${version?.name.toLowerCase() ?? ""} version`}
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
      {version && <MovedOn version={version} />}
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
        {saver.saving.kind === "sending" && <p className="pt-7 text-sm text-ink-2">saving …</p>}
      </div>
      {scaled && (
        <div className="grid gap-8 min-[1200px]:grid-cols-[minmax(0,1fr)_340px]">
          <BatchTable
            scaled={scaled}
            unit={batches.mass_unit}
            step={batches.scale_step_g}
            cookEnds={batch.cook_ends}
            losses={batch.left_on_tools}
            typedLosses={plan.left_on_tools ?? {}}
            onLoss={(layerId, typed) => change((old) => withCell(old, "left_on_tools", layerId, typed))}
          />
          <aside aria-label="Shopping and cautions" className="space-y-5">
            <Cautions cautions={batch.cautions} />
            <Shopping
              scaled={scaled}
              unit={batches.mass_unit}
              stock={batch.stock}
              words={batch.stock_words}
              inHouse={batch.in_house}
              typed={plan.in_house ?? {}}
              onInHouse={(food, typed) => change((old) => withCell(old, "in_house", food, typed))}
            />
          </aside>
        </div>
      )}
    </>
  );
}

/** What moved on since the version was made, and what in it was not read. */
function MovedOn({ version }: { version: Version }) {
  return (
    <>
      {version.outdated && (
        <div className="no-print mb-4">
          <Notice>
            {version.outdated}{" "}
            <Link to="../estimate" relative="path" className="text-fern-700 underline">
              To the estimate
            </Link>
          </Notice>
        </div>
      )}
      {version.problems.map((problem) => (
        <div key={problem} className="mb-4">
          <Notice>{problem}</Notice>
        </div>
      ))}
    </>
  );
}
