import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { OverTime } from "../api/types";
import { useMatch } from "../app/match";
import { useAct } from "../app/act";
import { batchesQuery } from "../batch/batchApi";
import { figure } from "../ui/figures";
import { Button, Notice } from "../ui/Parts";
import { RangeBar } from "../ui/RangeBar";
import { Select } from "../ui/Select";
import { overTimeQuery, takeLearnt } from "./trialsApi";

/** Every trial beside the one before: how close, what it gave, what was changed, and which change helped. */
export function OverTimePart({ chosen }: { chosen: string }) {
  const { matchId } = useMatch();
  const { data, error } = useQuery(overTimeQuery(matchId));
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return <p className="text-ink-2">Laying the trials side by side …</p>;
  return (
    <div className="space-y-6">
      <table className="w-full border-collapse">
        <caption className="sr-only">Trials in their order</caption>
        <thead className="text-left text-sm text-ink-2">
          <tr className="border-b border-line">
            <th className="py-1 font-normal">Trial</th>
            <th className="w-56 py-1 font-normal">Closeness, 0 to 100</th>
            <th className="py-1 pl-4 font-normal">What was changed, and what it did</th>
            <th className="py-1 pl-4 font-normal">Gave</th>
            <th className="py-1 pl-4 text-right font-normal">Cost a piece</th>
          </tr>
        </thead>
        <tbody>
          {data.lines.map((line) => (
            <tr
              key={line.trial_id}
              aria-current={line.trial_id === chosen ? "true" : undefined}
              className="border-b border-line/60 align-top"
            >
              <th scope="row" className="py-2 pr-3 text-left font-normal">
                <span className={line.trial_id === chosen ? "font-semibold" : ""}>{line.name}</span>
                <span className="block text-sm text-ink-2">
                  {line.version}
                  {line.tried_on && `, ${line.tried_on}`}
                </span>
              </th>
              <td className="py-2">
                {line.close ? (
                  <>
                    <RangeBar {...line.close} most={100} label={`Closeness ${line.close.words}`} />
                    <span className="text-sm">{line.close.words}</span>
                  </>
                ) : (
                  <span className="text-ink-2">nothing read of both</span>
                )}
              </td>
              <td className="py-2 pl-4 text-sm">
                <WhatChanged line={line} />
              </td>
              <td className="py-2 pl-4 text-sm">{line.gave}</td>
              <td className="py-2 pl-4 text-right">
                {line.cost === null ? "not known" : figure(line.cost, 2)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="no-print text-sm">
        <a
          className="text-fern-700 underline"
          href={`/api/matches/${matchId}/trials/table`}
          download="trials.csv"
        >
          All readings as a table
        </a>
      </p>
      <Learnt data={data} />
    </div>
  );
}

function WhatChanged({ line }: { line: OverTime["lines"][number] }) {
  const nothing = !line.changed.length && !line.closer_words;
  if (nothing) return <span className="text-ink-2">the first</span>;
  return (
    <>
      {line.closer_words && <p className="font-semibold">{line.closer_words}</p>}
      {line.changed.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
      {line.helped.map((one) => (
        <p key={one.title} className="text-fern-700">
          Nearer: {one.title} {one.words}
        </p>
      ))}
      {line.worse.map((one) => (
        <p key={one.title} className="text-amber-ink">
          Further off: {one.title} {one.words}
        </p>
      ))}
    </>
  );
}

/** What past trials would have planned otherwise, to be taken for a batch. */
function Learnt({ data }: { data: OverTime }) {
  const { matchId } = useMatch();
  const { data: batches } = useQuery(batchesQuery(matchId));
  const [picked, setPicked] = useState<string | null>(null);
  const [taken, setTaken] = useState<string | null>(null);
  const batch = picked ?? batches?.batches.at(-1)?.id ?? "";
  const take = useAct(matchId, (revision, layer: string) => takeLearnt(matchId, batch, layer, revision), {
    answered: (_, layer) => setTaken(layer),
  });
  if (!data.learnt.length) return null;
  return (
    <section aria-label="What trials teach">
      <h2 className="text-lg">What trials teach the next batch</h2>
      <p className="mb-2 text-sm text-ink-2">
        While trials are few, a figure is drawn towards the usual one, which counts for three of them.
      </p>
      {batches && batches.batches.length > 1 && (
        <Select
          showLabel
          label="For the batch"
          value={batch}
          className="mb-2 max-w-96"
          options={batches.batches.map(
            (one) => [one.id, `${one.version_name}${one.words ? `, ${one.words}` : ""}`] as const,
          )}
          onChoose={setPicked}
        />
      )}
      <ul className="space-y-1">
        {data.learnt.map((one) => (
          <li key={one.layer_id} className="flex flex-wrap items-baseline gap-3">
            <span>{one.words}</span>
            <Button look="bare" disabled={take.isPending || !batch} onClick={() => take.mutate(one.layer_id)}>
              Plan with {one.proposed}
            </Button>
            {taken === one.layer_id && <span className="text-sm text-fern-700">planned</span>}
          </li>
        ))}
      </ul>
      {take.error && <Notice>{take.error.message}</Notice>}
    </section>
  );
}
