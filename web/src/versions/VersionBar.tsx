import { useState } from "react";
import { Link } from "react-router";
import { Refused } from "../api/client";
import type { RecipeAsked, Versions } from "../api/types";
import { useAct } from "../app/act";
import { useMatch } from "../app/match";
import { takeEstimate } from "../estimate/estimateApi";
import { Button, Heading, Notice } from "../ui/Parts";
import { deleteVersion, startVersion, versionFromRecipe } from "../formulate/formulateApi";
import { RecipeSheet } from "./RecipeSheet";

interface VersionBarProps {
  versions: Versions["versions"];
  chosen: string;
  onChoose: (id: string) => void;
}

/** The versions there are, and how a further one begins. */
export function VersionBar({ versions, chosen, onChoose }: VersionBarProps) {
  const { matchId } = useMatch();
  const [recipe, setRecipe] = useState(false);
  const acting = useAct(
    matchId,
    (revision, act: (revision: number) => Promise<string | null>) => act(revision),
    { then: (id) => id && onChoose(id) },
  );
  const takeOut = (sure: boolean) =>
    acting.mutate(async (revision) => {
      await deleteVersion(matchId, chosen, revision, sure);
      return null;
    });
  const asks = acting.error instanceof Refused && acting.error.problem.code === "WouldOverwrite";
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line pb-2">
      <nav aria-label="Versions" className="flex flex-wrap gap-4">
        {versions.map((one) => (
          <Button
            key={one.id}
            look="bare"
            aria-current={one.id === chosen ? "true" : undefined}
            className={one.id === chosen ? "font-semibold no-underline" : ""}
            onClick={() => onChoose(one.id)}
          >
            {one.name}
            {one.outdated && " (study changed)"}
          </Button>
        ))}
      </nav>
      <span className="ml-auto flex gap-3 text-sm">
        <Button
          look="bare"
          onClick={() =>
            acting.mutate(async (revision) => (await startVersion(matchId, revision, chosen)).version.id)
          }
        >
          Copy this one
        </Button>
        <Button look="bare" onClick={() => setRecipe(true)}>
          From a recipe
        </Button>
        <Button look="bare" onClick={() => takeOut(false)}>
          Delete this one
        </Button>
      </span>
      {acting.error && (
        <div role="alert" className="w-full">
          <Notice>
            {acting.error.message}
            {asks && (
              <span className="mt-2 flex gap-2">
                <Button onClick={() => takeOut(true)}>Take it out</Button>
                <Button look="bare" onClick={() => acting.reset()}>
                  Keep it
                </Button>
              </span>
            )}
          </Notice>
        </div>
      )}
      {recipe && <FromRecipe onBegun={onChoose} onClose={() => setRecipe(false)} />}
    </div>
  );
}

/** How the first version begins: from the estimate, from a recipe, or from working ratios. */
export function Begin({
  title = "A recipe for your kitchen",
  words = "There is no version yet. Begin one:",
  onBegun,
}: {
  title?: string;
  words?: string;
  onBegun: (id: string) => void;
}) {
  const { matchId, estimateState } = useMatch();
  const [recipe, setRecipe] = useState(false);
  const beginning = useAct(
    matchId,
    (revision, begin: (revision: number) => Promise<{ version: { id: string } }>) => begin(revision),
    { then: ({ version }) => onBegun(version.id) },
  );
  return (
    <>
      <Heading title={title}>{words}</Heading>
      <ul className="max-w-2xl space-y-3">
        <li className="rounded-lg border border-line bg-card px-4 py-3">
          <p className="mb-2">
            From the estimate: what is probably in the original, with what a kitchen buys, its amounts solved
            for the label.
          </p>
          <Button
            look="main"
            disabled={estimateState.kind !== "ready" || beginning.isPending}
            onClick={() => beginning.mutate((revision) => takeEstimate(matchId, revision, {}))}
          >
            Take the estimate
          </Button>
          {estimateState.kind === "not_yet" && (
            <p className="mt-2 text-ink-2">
              There is none yet.{" "}
              <Link to="../estimate" relative="path" className="text-fern-700 underline">
                See what it lacks
              </Link>
            </p>
          )}
        </li>
        <li className="rounded-lg border border-line bg-card px-4 py-3">
          <p className="mb-2">From a recipe of your own, in cups, cans, sticks or grams.</p>
          <Button onClick={() => setRecipe(true)}>Paste a recipe</Button>
        </li>
        <li className="rounded-lg border border-line bg-card px-4 py-3">
          <p className="mb-2">From the working ratio of each layer’s family.</p>
          <Button
            disabled={beginning.isPending}
            onClick={() => beginning.mutate((revision) => startVersion(matchId, revision, null))}
          >
            Start from working ratios
          </Button>
        </li>
      </ul>
      {beginning.error && (
        <div role="alert" className="mt-3 max-w-2xl">
          <Notice>{beginning.error.message}</Notice>
        </div>
      )}
      {recipe && <FromRecipe onBegun={onBegun} onClose={() => setRecipe(false)} />}
    </>
  );
}

/** A version from a recipe that is pasted. */
function FromRecipe({ onBegun, onClose }: { onBegun: (id: string) => void; onClose: () => void }) {
  const { matchId } = useMatch();
  const taking = useAct(matchId, (revision, asked: RecipeAsked) =>
    versionFromRecipe(matchId, revision, asked),
  );
  return (
    <RecipeSheet
      take={async (asked) => (await taking.mutateAsync(asked)).version.id}
      onTaken={(id) => {
        onClose();
        onBegun(id);
      }}
      onClose={onClose}
    />
  );
}
