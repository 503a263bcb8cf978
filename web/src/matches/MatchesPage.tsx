import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { MatchSummary } from "../api/types";
import { Button, Notice } from "../ui/Parts";
import { deleteMatch, exportAddress, matchesQuery } from "./matchesApi";
import { NewMatch } from "./NewMatch";

/** All matches, and the way to a new one. */
export function MatchesPage() {
  const { data, error, isPending } = useQuery(matchesQuery);
  return (
    <div className="min-h-dvh">
      <header className="bg-fern-900 px-8 py-4 text-white">
        <p className="font-head text-xl font-semibold">Fern Match</p>
        <p className="text-fern-100">Recreate a bar from its label, a knife and a scale.</p>
      </header>
      <main className="mx-auto grid max-w-5xl gap-10 px-8 py-8 lg:grid-cols-[1fr_320px]">
        <section aria-labelledby="matches">
          <h1 id="matches" className="mb-3 text-2xl">
            Matches
          </h1>
          {error && <Notice>{error.message}</Notice>}
          {isPending && <p className="text-ink-2">Looking for your matches …</p>}
          {data?.length === 0 && (
            <p className="text-ink-2">None yet. Name the bar you want to recreate, on the right.</p>
          )}
          <ul className="space-y-3">
            {data?.map((match) => (
              <MatchLine key={match.id} match={match} />
            ))}
          </ul>
        </section>
        <NewMatch />
      </main>
      <footer className="mx-auto max-w-5xl px-8 pb-8 text-sm text-ink-2">
        Estimates are estimates. For sale, allergies and medical diets, ask qualified people and follow local
        food law.
      </footer>
    </div>
  );
}

function MatchLine({ match }: { match: MatchSummary }) {
  const queries = useQueryClient();
  const [asking, setAsking] = useState(false);
  const removal = useMutation({
    mutationFn: () => deleteMatch(match.id),
    onSuccess: () => queries.invalidateQueries({ queryKey: matchesQuery.queryKey }),
  });
  const facts = [
    match.maker,
    match.net_weight,
    `${match.region} label`,
    counted(match.layers, "layer"),
    match.versions > 0 && counted(match.versions, "version"),
    match.batches > 0 && counted(match.batches, "batch", "batches"),
  ].filter(Boolean);
  return (
    <li className="rounded-lg border border-line bg-card px-5 py-4">
      <div className="flex items-baseline justify-between gap-4">
        <Link
          to={`/m/${match.id}/study`}
          className="font-head text-lg font-semibold text-fern-700 hover:underline"
        >
          {match.name || "Unnamed match"}
        </Link>
        <span className="text-sm whitespace-nowrap text-ink-2">
          changed{" "}
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
        {asking ? (
          <>
            <span>Delete {match.name || "this match"} for good?</span>
            <Button look="bare" className="text-berry" onClick={() => removal.mutate()}>
              Delete
            </Button>
            <Button look="bare" onClick={() => setAsking(false)}>
              Keep
            </Button>
          </>
        ) : (
          <Button look="bare" onClick={() => setAsking(true)}>
            Delete …
          </Button>
        )}
      </p>
      {removal.error && <p className="text-amber-ink">{removal.error.message}</p>}
    </li>
  );
}

function counted(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}
