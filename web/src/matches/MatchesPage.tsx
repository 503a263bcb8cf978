import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { MatchSummary } from "../api/types";
import { Button, Notice } from "../ui/Parts";
import {
  archiveMatch,
  bringBackMatch,
  deleteMatch,
  duplicateMatch,
  exportAddress,
  matchesQuery,
} from "./matchesApi";
import { Backup } from "./Backup";
import { NewMatch } from "./NewMatch";

/** All matches, and the way to a new one. */
export function MatchesPage() {
  const { data, error, isPending } = useQuery(matchesQuery);
  const [deleted, setDeleted] = useState<MatchSummary | null>(null);
  return (
    <div className="min-h-dvh">
      <header className="flex items-center justify-between bg-fern-900 px-8 py-4 text-white">
        <div>
          <p className="font-head text-xl font-semibold">Fern Match</p>
          <p className="text-fern-100">Recreate a bar from its label, a knife and a scale.</p>
        </div>
        <Link
          to="/kitchen"
          className="rounded px-2.5 py-1.5 text-fern-100 hover:bg-fern-950 hover:text-white"
        >
          Kitchen
        </Link>
      </header>
      <main className="mx-auto grid max-w-5xl gap-10 px-8 py-8 lg:grid-cols-[1fr_320px]">
        <section aria-labelledby="matches">
          <h1 id="matches" className="mb-3 text-2xl">
            Matches
          </h1>
          {deleted && <Deleted match={deleted} onBack={() => setDeleted(null)} />}
          {error && <Notice>{error.message}</Notice>}
          {isPending && <p className="text-ink-2">Looking for your matches …</p>}
          {data?.length === 0 && (
            <p className="text-ink-2">None yet. Name the bar you want to recreate, on the right.</p>
          )}
          <ul className="space-y-3">
            {data?.map((match) => (
              <MatchLine key={match.id} match={match} onDeleted={setDeleted} />
            ))}
          </ul>
        </section>
        <div className="space-y-6">
          <NewMatch />
          <Backup />
        </div>
      </main>
      <footer className="mx-auto max-w-5xl px-8 pb-8 text-sm text-ink-2">
        Estimates are estimates. For sale, allergies and medical diets, ask qualified people and follow local
        food law.
      </footer>
    </div>
  );
}

function MatchLine({ match, onDeleted }: { match: MatchSummary; onDeleted: (match: MatchSummary) => void }) {
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries({ queryKey: matchesQuery.queryKey });
  const acting = useMutation({ mutationFn: (act: () => Promise<unknown>) => act(), onSuccess: refresh });
  const facts = [
    match.maker,
    match.net_weight,
    `${match.region} label`,
    counted(match.layers, "layer"),
    match.versions > 0 && counted(match.versions, "version"),
    match.batches > 0 && counted(match.batches, "batch", "batches"),
  ].filter(Boolean);
  const name = match.name || "Unnamed match";
  return (
    <li className={`rounded-lg border border-line px-5 py-4 ${match.archived ? "" : "bg-card"}`}>
      <div className="flex items-baseline justify-between gap-4">
        <Link
          to={`/m/${match.id}/study`}
          className="font-head text-lg font-semibold text-fern-700 hover:underline"
        >
          {name}
        </Link>
        <span className="text-sm whitespace-nowrap text-ink-2">
          {match.archived && "put away · "}changed{" "}
          {new Date(`${match.changed_at}Z`).toLocaleDateString(undefined, { day: "numeric", month: "short" })}
        </span>
      </div>
      <p className="text-ink-2">{facts.join(" · ")}</p>
      <p className="mt-2 flex flex-wrap gap-4 text-sm">
        <a
          className="text-fern-700 underline decoration-fern-200 underline-offset-2"
          href={exportAddress(match.id)}
          download
        >
          Export
        </a>
        <Button
          look="bare"
          aria-label={`Duplicate ${name}`}
          onClick={() => acting.mutate(() => duplicateMatch(match.id))}
        >
          Duplicate
        </Button>
        <Button
          look="bare"
          aria-label={match.archived ? `Take out ${name}` : `Put away ${name}`}
          onClick={() => acting.mutate(() => archiveMatch(match.id, !match.archived))}
        >
          {match.archived ? "Take out" : "Put away"}
        </Button>
        <Button
          look="bare"
          aria-label={`Delete ${name}`}
          onClick={() => acting.mutate(() => deleteMatch(match.id).then(() => onDeleted(match)))}
        >
          Delete
        </Button>
      </p>
      {acting.error && <p className="text-amber-ink">{acting.error.message}</p>}
    </li>
  );
}

/** The way back for what was just deleted. */
function Deleted({ match, onBack }: { match: MatchSummary; onBack: () => void }) {
  const queries = useQueryClient();
  const back = useMutation({
    mutationFn: () => bringBackMatch(match.id),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: matchesQuery.queryKey });
      onBack();
    },
  });
  return (
    <div role="status" className="mb-3">
      <Notice tone="plain">
        {match.name || "The match"} is deleted; it can be brought back for 30 days.{" "}
        <Button look="bare" onClick={() => back.mutate()}>
          Bring it back
        </Button>
        {back.error && <span className="block text-amber-ink">{back.error.message}</span>}
      </Notice>
    </div>
  );
}

function counted(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}
