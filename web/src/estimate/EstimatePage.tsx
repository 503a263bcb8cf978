import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useSearchParams } from "react-router";
import { Refused } from "../api/client";
import { useMatch } from "../app/match";
import { useAct } from "../app/act";
import { versionsQuery } from "../formulate/formulateApi";
import { Button, Heading, Notice } from "../ui/Parts";
import { Tabs } from "../ui/Tabs";
import { takeEstimate } from "./estimateApi";
import { Beneath } from "./Beneath";
import { EvidencePanel } from "./EvidencePanel";
import { FitPanel } from "./FitPanel";
import { LabelPanel } from "./LabelPanel";
import { LayerTable } from "./LayerTable";

/** Estimate: what is probably in it, and what speaks for and against. */
export function EstimatePage() {
  const { estimate, estimateState } = useMatch();
  const [search, setSearch] = useSearchParams();
  const side = search.get("side") === "label" ? "label" : "evidence";
  if (!estimate) return <NothingYet />;
  const used = estimate.evidence.filter((piece) => piece.used).length;
  return (
    <>
      <Heading title="What is probably in it" action={<TakeAsVersion />}>
        From {used} pieces of evidence, for the mean piece.{" "}
        {estimate.fit === "fits" && "Each range holds nine times in ten."}
        {estimateState.kind === "computing" && " Updating …"}
      </Heading>
      <FitPanel estimate={estimate} />
      <div className="grid gap-6 min-[1200px]:grid-cols-[minmax(0,1fr)_minmax(300px,340px)]">
        <div className="min-w-0">
          <LayerTable estimate={estimate} />
          <Beneath estimate={estimate} />
        </div>
        <aside aria-label="Evidence and label" className="min-w-0">
          <Tabs
            label="Side matters"
            chosen={side}
            onChoose={(id) => setSearch({ side: id }, { replace: true })}
            items={[
              {
                id: "evidence",
                title: "Evidence",
                note: String(estimate.evidence.length),
                panel: <EvidencePanel evidence={estimate.evidence} />,
              },
              { id: "label", title: "Label", panel: <LabelPanel estimate={estimate} /> },
            ]}
          />
        </aside>
      </div>
    </>
  );
}

function NothingYet() {
  const { estimateState, matchId } = useMatch();
  const navigate = useNavigate();
  const { data: versions } = useQuery(versionsQuery(matchId));
  const stands = versions?.versions.some((one) => one.origin === "recipe");
  if (estimateState.kind === "computing") {
    return (
      <Heading title="What is probably in it">
        <span role="status">Estimating, {Math.round(100 * estimateState.done)} % done …</span>
      </Heading>
    );
  }
  const missing = estimateState.kind === "not_yet" ? estimateState.missing : [];
  return (
    <>
      <Heading title="What is probably in it">
        {stands
          ? "Nothing can be estimated without the original; the recipe stands in for it, in Formulate."
          : "Nothing can be said yet."}
      </Heading>
      {estimateState.kind === "failed" && <Notice>{estimateState.message}</Notice>}
      <ul className="max-w-2xl space-y-3">
        {missing.map((one) => (
          <li key={one.sentence}>
            <Notice>
              <p>{one.sentence}</p>
              {one.part && (
                <p className="mt-2">
                  <Button onClick={() => void navigate(`../study?part=${one.part}`, { relative: "path" })}>
                    {PARTS[one.part] ?? "Go there"}
                  </Button>
                </p>
              )}
            </Notice>
          </li>
        ))}
      </ul>
    </>
  );
}

const PARTS: Record<string, string> = {
  layers: "Choose the build",
  label: "Type the weight",
  statement: "Look at the ingredients",
  weighings: "Weigh something",
};

/** Takes the estimate as a version; where that would overwrite one, it asks first. */
function TakeAsVersion() {
  const { matchId, estimateState } = useMatch();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const taking = useAct(
    matchId,
    (revision, how: { replace?: boolean; keepBoth?: boolean }) => takeEstimate(matchId, revision, how),
    {
      then: async ({ version }) => {
        await queries.query(versionsQuery(matchId)); // so that the page that comes has it
        await navigate(`../formulate?version=${version.id}`, { relative: "path" });
      },
    },
  );
  const asks = taking.error instanceof Refused && taking.error.problem.code === "WouldOverwrite";
  return (
    <div className="text-right">
      <Button
        look="main"
        disabled={taking.isPending || estimateState.kind !== "ready"}
        onClick={() => taking.mutate({})}
      >
        Take as the faithful version
      </Button>
      {taking.error && (
        <div role="alert" className="mt-2 max-w-sm text-left text-sm">
          <Notice>
            <p>{taking.error.message}</p>
            {asks && (
              <p className="mt-2 flex gap-2">
                <Button onClick={() => taking.mutate({ replace: true })}>Replace it</Button>
                <Button onClick={() => taking.mutate({ keepBoth: true })}>Keep both</Button>
              </p>
            )}
          </Notice>
        </div>
      )}
    </div>
  );
}
