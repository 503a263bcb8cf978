import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { useMatch } from "../app/match";
import type { Batch, Batches } from "../api/types";
import { noteRevision, studyQuery } from "../study/studyApi";
import { Cell } from "../ui/Cell";
import { figure } from "../ui/figures";
import { Button, Heading, Notice } from "../ui/Parts";
import { BatchTable } from "./BatchTable";
import { batchesQuery, saveBatch, type BatchChange } from "./batchApi";
import { Shopping } from "./Shopping";

/** Batch: how many pieces, and the grams to weigh out for them. */
export function BatchPage() {
  const { matchId } = useMatch();
  const { data, error } = useQuery(batchesQuery(matchId));
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Opening the batch …</p>;
  const batch = data.batches[0];
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
  return <OneBatch key={batch.id} batches={data} batch={batch} />;
}

function OneBatch({ batches, batch }: { batches: Batches; batch: Batch }) {
  const { study, matchId } = useMatch();
  const { save, saving } = useBatchSaver(matchId);
  const version = batches.versions.find((one) => one.id === batch.version_id);
  const typedLosses = Object.fromEntries(
    Object.entries(batch.left_on_tools).map(([id, typed]) => [id, typed.typed]),
  );
  const change = (part: Partial<BatchChange>) =>
    save.mutate({ batchId: batch.id, pieces: batch.pieces.typed, leftOnTools: typedLosses, ...part });
  const { batch: scaled } = batch;
  return (
    <>
      <Heading
        title={`${study.study.name}, ${version?.name.toLowerCase() ?? ""} version`}
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
      <div className="no-print mb-5 flex items-start gap-4" data-cells>
        <Cell
          showLabel
          className="w-40"
          label="Pieces wanted"
          value={batch.pieces.typed}
          problem={batch.pieces.problem}
          placeholder="24"
          onCommit={(pieces) => change({ pieces })}
        />
        {saving && <p className="pt-7 text-sm text-ink-2">saving …</p>}
        {save.error && (
          <div role="alert" className="max-w-md">
            <Notice>{save.error.message}</Notice>
          </div>
        )}
      </div>
      {scaled && (
        <div className="grid gap-8 min-[1200px]:grid-cols-[minmax(0,1fr)_300px]">
          <BatchTable
            scaled={scaled}
            unit={batches.mass_unit}
            step={batches.scale_step_g}
            losses={batch.left_on_tools}
            onLoss={(layerId, typed) => change({ leftOnTools: withLoss(typedLosses, layerId, typed) })}
          />
          <Shopping scaled={scaled} cautions={batch.cautions} />
        </div>
      )}
    </>
  );
}

function withLoss(losses: Record<string, string>, layerId: string, typed: string): Record<string, string> {
  return Object.fromEntries(
    Object.entries({ ...losses, [layerId]: typed }).filter(([, text]) => text.trim() !== ""),
  );
}

function useBatchSaver(matchId: string) {
  const queries = useQueryClient();
  const save = useMutation({
    scope: { id: `batch-${matchId}` }, // one after the other, each on the revision before
    mutationFn: (change: BatchChange) => {
      const revision = queries.getQueryData(studyQuery(matchId).queryKey)?.revision ?? 0;
      return saveBatch(matchId, revision, change);
    },
    onSuccess: (batches) => {
      queries.setQueryData(batchesQuery(matchId).queryKey, batches);
      void queries.invalidateQueries({ queryKey: ["moments", matchId] });
      void noteRevision(queries, matchId, batches.revision);
    },
  });
  return { save, saving: save.isPending };
}
