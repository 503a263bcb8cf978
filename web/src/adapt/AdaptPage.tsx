import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import type { Breaches, Versions } from "../api/types";
import { useMatch } from "../app/match";
import { stopWork, versionQuery, versionsQuery } from "../formulate/formulateApi";
import { useInHand } from "../versions/inHand";
import { Begin } from "../versions/VersionBar";
import { Button, Heading, Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { breachesQuery, proposalsQuery, rulesQuery } from "./adaptApi";
import { Proposals } from "./Proposals";
import { RulePicker } from "./RulePicker";
import { nearestRules, readAsked, toSearch, type Asked } from "./asked";

/** Adapt: a version worked out anew under rules, as whole proposals side by side. */
export function AdaptPage() {
  const { matchId } = useMatch();
  const [search, setSearch] = useSearchParams();
  const { data, error } = useQuery(versionsQuery(matchId));
  const chosen = useInHand(matchId, data?.versions);
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Opening the versions …</p>;
  if (!chosen) {
    return (
      <Begin
        title="Adapt"
        words="A version is adapted. There is none yet; begin one:"
        onBegun={(id) => setSearch({ version: id })}
      />
    );
  }
  const asked = readAsked(search);
  const ask = (next: Asked) => setSearch(toSearch(chosen.id, next), { replace: true });
  return (
    <Adapting
      versions={data.versions}
      chosen={chosen}
      asked={asked}
      ask={ask}
      choose={(id) => setSearch(toSearch(id, { rules: asked.rules, forbidden: [], required: [] }))}
    />
  );
}

interface AdaptingProps {
  versions: Versions["versions"];
  chosen: Versions["versions"][number];
  asked: Asked;
  ask: (next: Asked) => void;
  choose: (id: string) => void;
}

function Adapting({ versions, chosen, asked, ask, choose }: AdaptingProps) {
  const { matchId, frame } = useMatch();
  const rules = useQuery(rulesQuery(matchId, chosen.id, frame.revision));
  const { data: view } = useQuery(versionQuery(matchId, chosen.id));
  const broken = useQuery(breachesQuery(matchId, chosen.id, frame.revision, asked));
  return (
    <>
      <Heading
        title={`Adapt ${chosen.name.toLowerCase()}`}
        action={
          versions.length > 1 && (
            <Select
              label="Version to adapt"
              className="w-48"
              value={chosen.id}
              options={versions.map((one) => [one.id, one.name] as const)}
              onChoose={choose}
            />
          )
        }
      >
        Pick what it must hold to. Each proposal is a whole version, worked out for the same weight and
        sweetness.
      </Heading>
      {rules.data && view && (
        <RulePicker
          rules={rules.data}
          version={view}
          read={broken.data?.rules ?? rules.data.rules}
          names={broken.data?.names ?? {}}
          asked={asked}
          ask={ask}
        />
      )}
      {broken.error && asked.rules.length > 0 && (
        <div role="alert" className="mt-3">
          <Notice>{broken.error.message}</Notice>
        </div>
      )}
      {asked.rules.length > 0 && !broken.error && broken.data && (
        <Broken breaches={broken.data.breaches} name={chosen.name} />
      )}
      {asked.rules.length > 0 && !broken.error && <Worked versionId={chosen.id} asked={asked} ask={ask} />}
    </>
  );
}

type Breach = Breaches["breaches"][number];

/** What of the version breaks the rules as it is, and what only may: of each question, who is to be asked. */
function Broken({ breaches, name }: { breaches: Breach[]; name: string }) {
  if (breaches.length === 0) {
    return <p className="mt-3 text-ink-2">Nothing in {name.toLowerCase()} breaks this.</p>;
  }
  const clear = breaches.filter((one) => !one.doubtful).map((one) => one.sentence);
  const doubtful = breaches.filter((one) => one.doubtful);
  const questions = [...new Set(doubtful.map((one) => one.ask).filter(Boolean))].map((ask) => {
    const whose = doubtful.filter((one) => one.ask === ask).map((one) => one.whose);
    return `${[...new Set(whose)].join(", ")}: ask ${ask}.`;
  });
  const others = doubtful.filter((one) => !one.ask).map((one) => one.sentence);
  const asked = new Map(
    doubtful.flatMap((one) =>
      one.ingredient_id && one.name ? [[one.ingredient_id, one.name] as const] : [],
    ),
  );
  return (
    <section aria-label="What breaks it now" className="mt-3 grid gap-x-6 gap-y-1 sm:grid-cols-2">
      {clear.length > 0 && <Sentences title="Breaks it now" of={clear} edge="border-berry" />}
      {doubtful.length > 0 && (
        <div>
          <Sentences title="Ask the maker" of={[...questions, ...others]} edge="border-amber" />
          {asked.size > 0 && (
            <p className="mt-1 pl-4 text-sm text-ink-2">
              Answered? Write it in the pantry:{" "}
              {[...asked].map(([id, called], at) => (
                <span key={id}>
                  {at > 0 && ", "}
                  <Link
                    to={`/pantry?ingredient=${encodeURIComponent(id)}`}
                    className="text-fern-700 underline"
                  >
                    {called}
                  </Link>
                </span>
              ))}
              .
            </p>
          )}
        </div>
      )}
    </section>
  );
}

function Sentences({ title, of, edge }: { title: string; of: string[]; edge: string }) {
  return (
    <div className={`border-l-4 pl-3 ${edge}`}>
      <h2 className="text-base">{title}</h2>
      <ul className="text-sm">
        {of.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </div>
  );
}

function Worked({ versionId, asked, ask }: { versionId: string; asked: Asked; ask: (next: Asked) => void }) {
  const { matchId, frame } = useMatch();
  const queries = useQueryClient();
  const query = proposalsQuery(matchId, versionId, frame.revision, asked);
  const { data, error, isFetching, isPending, refetch } = useQuery(query);
  const stop = async () => {
    await queries.cancelQueries({ queryKey: query.queryKey });
    await stopWork(matchId, versionId);
  };
  const stopped = isPending && !isFetching;
  if (error) {
    return (
      <div role="alert" className="mt-4">
        <Notice>{error.message}</Notice>
      </div>
    );
  }
  return (
    <section aria-labelledby="proposals" aria-busy={isFetching} className="mt-5">
      <div className="mb-2 flex items-baseline gap-3">
        <h2 id="proposals" className="text-lg">
          Proposals
        </h2>
        <span role="status" className="text-sm text-ink-2">
          {isFetching ? "working them out …" : stopped ? "stopped" : data && counted(data.proposals.length)}
        </span>
        {isFetching && (
          <Button look="bare" onClick={() => void stop()}>
            Stop
          </Button>
        )}
        {stopped && (
          <Button look="bare" onClick={() => void refetch()}>
            Work them out
          </Button>
        )}
      </div>
      {data?.unmet && !isFetching && (
        <Notice tone="berry">
          {data.unmet}{" "}
          {data.nearest && (
            <Button onClick={() => ask({ ...asked, rules: nearestRules(data.nearest ?? "") })}>
              Ask for “{data.nearest_words}” instead
            </Button>
          )}
        </Notice>
      )}
      {data && data.proposals.length > 0 && (
        <Proposals worked={data} versionId={versionId} asked={asked} ask={ask} stale={isFetching} />
      )}
      {data && !isFetching && <LeftOut of={data.left_out} />}
    </section>
  );
}

/** Systems that gave no proposal, and why: those of one reason together. */
function LeftOut({ of }: { of: { name: string; because: string }[] }) {
  if (of.length === 0) return null;
  const reasons = [...new Set(of.map((one) => one.because))];
  return (
    <section aria-label="No proposal by" className="mt-3 border-t border-line pt-3">
      <h3 className="text-base">No proposal by</h3>
      <ul>
        {reasons.map((because) => (
          <li key={because}>
            <strong>
              {of
                .filter((one) => one.because === because)
                .map((one) => one.name)
                .join(", ")}
            </strong>
            : {because}
          </li>
        ))}
      </ul>
    </section>
  );
}

const counted = (count: number) =>
  count === 0 ? "none" : count === 1 ? "one" : `${count}, in the order we would cook them`;
