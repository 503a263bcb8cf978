import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useSearchParams } from "react-router";
import { useMatch } from "../app/match";
import { takeEstimate } from "../batch/batchApi";
import { studyQuery } from "../study/studyApi";
import { Button, Heading, Notice, TabRow } from "../ui/Parts";
import { EvidencePanel } from "./EvidencePanel";
import { LabelPanel } from "./LabelPanel";
import { LayerTable } from "./LayerTable";

/** Estimate: what is probably in it, and what speaks for and against. */
export function EstimatePage() {
  const { estimate, estimateState } = useMatch();
  const [search, setSearch] = useSearchParams();
  const side = search.get("side") === "label" ? "label" : "evidence";
  if (!estimate) return <NothingYet />;
  const fights = estimate.evidence
    .filter((piece) => piece.sentence)
    .sort((a, b) => (b.tension ?? 0) - (a.tension ?? 0));
  const used = estimate.evidence.filter((piece) => piece.used).length;
  return (
    <>
      <Heading title="What is probably in it" action={<TakeAsVersion />}>
        From {used} pieces of evidence, for the mean piece. Each range holds nine times in ten.
        {estimateState.kind === "computing" && " Updating …"}
      </Heading>
      <div className="grid gap-6 min-[1200px]:grid-cols-[minmax(0,1fr)_minmax(300px,340px)]">
        <div className="min-w-0">
          <LayerTable estimate={estimate} />
          {estimate.assumed.map((sentence) => (
            <div key={sentence} className="mt-3">
              <Notice tone="plain">{sentence}</Notice>
            </div>
          ))}
        </div>
        <aside aria-label="Evidence and label" className="min-w-0">
          {fights.slice(0, 2).map((piece) => (
            <div key={piece.id} className="mb-3">
              <Notice>{piece.sentence}</Notice>
            </div>
          ))}
          <TabRow
            label="Side matters"
            chosen={side}
            onChoose={(id) => setSearch({ side: id }, { replace: true })}
            items={[
              { id: "evidence", title: "Evidence", note: String(estimate.evidence.length) },
              { id: "label", title: "Label" },
            ]}
          />
          {side === "evidence" ? (
            <EvidencePanel evidence={estimate.evidence} />
          ) : (
            <LabelPanel estimate={estimate} />
          )}
        </aside>
      </div>
    </>
  );
}

function NothingYet() {
  const { estimateState } = useMatch();
  if (estimateState.kind === "computing") {
    return (
      <Heading title="What is probably in it">
        <span role="status">Estimating, {Math.round(100 * estimateState.done)} % done …</span>
      </Heading>
    );
  }
  const sentences = estimateState.kind === "not_yet" ? estimateState.sentences : [];
  return (
    <>
      <Heading title="What is probably in it">Nothing can be said yet.</Heading>
      {estimateState.kind === "failed" && <Notice>{estimateState.message}</Notice>}
      <ul className="max-w-2xl space-y-2">
        {sentences.map((sentence) => (
          <li key={sentence}>
            <Notice>{sentence}</Notice>
          </li>
        ))}
      </ul>
    </>
  );
}

function TakeAsVersion() {
  const { matchId, study, estimateState } = useMatch();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const taking = useMutation({
    mutationFn: () => takeEstimate(matchId, study.revision),
    onSuccess: (batches) => {
      queries.setQueryData(["batches", matchId], batches);
      void queries.invalidateQueries({ queryKey: studyQuery(matchId).queryKey });
      void navigate("../batch", { relative: "path" });
    },
  });
  return (
    <div className="text-right">
      <Button
        look="main"
        disabled={taking.isPending || estimateState.kind !== "ready"}
        onClick={() => taking.mutate()}
      >
        Take as the faithful version
      </Button>
      {taking.error && <p className="mt-1 max-w-xs text-sm text-amber-ink">{taking.error.message}</p>}
    </div>
  );
}
