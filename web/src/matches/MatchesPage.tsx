import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { DeletedMatch, MatchSummary } from "../api/types";
import { SmallSliceDrawing } from "../frame/SmallSliceDrawing";
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
  const [justDeleted, setJustDeleted] = useState<string | null>(null);
  return (
    <div className="min-h-dvh">
      <a
        href="#new"
        className="sr-only focus:not-sr-only focus:absolute focus:z-40 focus:m-2 focus:rounded focus:bg-card focus:px-3 focus:py-2 focus:text-fern-700"
      >
        To a new match
      </a>
      <header className="flex items-center justify-between bg-fern-900 px-8 py-4 text-white">
        <div>
          <p className="font-head text-xl font-semibold">Fern Match</p>
          <p className="text-fern-100">Recreate a bar from its label, a knife and a scale.</p>
        </div>
        <nav aria-label="Kitchen and pantry" className="flex">
          <Link
            to="/kitchen"
            className="rounded px-2.5 py-1.5 text-fern-100 hover:bg-fern-950 hover:text-white"
          >
            Kitchen
          </Link>
          <Link
            to="/pantry"
            className="rounded px-2.5 py-1.5 text-fern-100 hover:bg-fern-950 hover:text-white"
          >
            Pantry
          </Link>
        </nav>
      </header>
      <main className="mx-auto grid max-w-5xl gap-10 px-8 py-8 lg:grid-cols-[1fr_320px]">
        <section aria-labelledby="matches">
          <h1 id="matches" className="mb-3 text-2xl">
            Matches
          </h1>
          {error && <Notice>{error.message}</Notice>}
          {isPending && <p className="text-ink-2">Looking for your matches …</p>}
          {data?.matches.length === 0 && (
            <p className="text-ink-2">None yet. Name the bar you want to recreate, on the right.</p>
          )}
          <ul className="space-y-3">
            {data?.matches.map((match) => (
              <MatchLine key={match.id} match={match} onDeleted={() => setJustDeleted(match.id)} />
            ))}
          </ul>
          {data && data.deleted.length > 0 && <Deleted matches={data.deleted} justDeleted={justDeleted} />}
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

function MatchLine({ match, onDeleted }: { match: MatchSummary; onDeleted: () => void }) {
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries({ queryKey: matchesQuery.queryKey });
  const acting = useMutation({ mutationFn: (act: () => Promise<unknown>) => act(), onSuccess: refresh });
  const name = match.name || "Unnamed match";
  return (
    <li className={`flex gap-5 rounded-lg border border-line px-5 py-4 ${match.archived ? "" : "bg-card"}`}>
      <span className="flex w-28 shrink-0 items-center">
        <SmallSliceDrawing slice={match.picture} name={name} />
      </span>
      <div className="min-w-0 flex-1">
        <div className="flex items-baseline justify-between gap-4">
          <Link
            to={`/m/${match.id}/study`}
            className="font-head text-lg font-semibold text-fern-700 hover:underline"
          >
            {name}
          </Link>
          <span className="text-sm whitespace-nowrap text-ink-2">
            {match.archived && "put away · "}changed{" "}
            {new Date(`${match.changed_at}Z`).toLocaleDateString(undefined, {
              day: "numeric",
              month: "short",
            })}
          </span>
        </div>
        <p className="text-ink-2">{match.facts.join(" · ")}</p>
        <p>{match.progress}</p>
        <MatchActions match={match} name={name} act={acting.mutate} onDeleted={onDeleted} />
        {acting.error && <p className="text-amber-ink">{acting.error.message}</p>}
      </div>
    </li>
  );
}

interface MatchActionsProps {
  match: MatchSummary;
  name: string;
  act: (action: () => Promise<unknown>) => void;
  onDeleted: () => void;
}

function MatchActions({ match, name, act, onDeleted }: MatchActionsProps) {
  return (
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
        onClick={() => act(() => duplicateMatch(match.id))}
      >
        Duplicate
      </Button>
      <Button
        look="bare"
        aria-label={match.archived ? `Take out ${name}` : `Put away ${name}`}
        onClick={() => act(() => archiveMatch(match.id, !match.archived))}
      >
        {match.archived ? "Take out" : "Put away"}
      </Button>
      <Button
        look="bare"
        aria-label={`Delete ${name}`}
        onClick={() => act(() => deleteMatch(match.id).then(onDeleted))}
      >
        Delete
      </Button>
    </p>
  );
}

interface DeletedProps {
  matches: readonly DeletedMatch[];
  /** The one that was deleted a moment ago: its way back takes the focus. */
  justDeleted: string | null;
}

/** What was deleted and is still kept, with the way back. */
function Deleted({ matches, justDeleted }: DeletedProps) {
  const queries = useQueryClient();
  const back = useMutation({
    mutationFn: bringBackMatch,
    onSuccess: () => queries.invalidateQueries({ queryKey: matchesQuery.queryKey }),
  });
  const wayBack = useRef<HTMLButtonElement>(null);
  const newest = matches[0]?.id;
  useEffect(() => {
    if (newest === justDeleted) wayBack.current?.focus();
  }, [newest, justDeleted]);
  return (
    <section aria-labelledby="deleted" className="mt-8">
      <h2 id="deleted" className="mb-2 text-lg">
        Deleted
      </h2>
      <ul className="space-y-1">
        {matches.map((match, at) => (
          <li key={match.id} className="flex items-baseline gap-3 text-ink-2">
            <span>
              {match.name}, kept for {match.days_left} more days
            </span>
            <Button
              ref={at === 0 ? wayBack : undefined}
              look="bare"
              aria-label={`Bring back ${match.name}`}
              onClick={() => back.mutate(match.id)}
            >
              Bring back
            </Button>
          </li>
        ))}
      </ul>
      {back.error && <Notice>{back.error.message}</Notice>}
    </section>
  );
}
