import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import type { MatchPhoto } from "../api/types";
import { useMatch } from "../app/match";
import { useAct } from "../app/act";
import { Cell, told } from "../ui/Cell";
import { Button, Notice } from "../ui/Parts";
import { addPhoto, deletePhoto, photosQuery, writePhoto } from "./photosApi";
import { shownWidths } from "./scale";

const WIDTH = 300;

/** Pictures of original and copy side by side; at one scale where it is said how wide what they show is. */
export function PhotosPart({ trialId }: { trialId: string }) {
  const { matchId } = useMatch();
  const { data, error } = useQuery(photosQuery(matchId));
  if (error) return <Notice>{error.message}</Notice>;
  if (!data) return null;
  const original = data.photos.filter((one) => one.photo.of === "original");
  const copy = data.photos.filter((one) => one.photo.trial === trialId);
  const widths = shownWidths([...original, ...copy], WIDTH);
  const sameScale = [...original, ...copy].filter((one) => one.mm_per_px !== null).length > 1;
  return (
    <section aria-label="Photos" className="mt-2">
      <h2 className="text-base font-semibold">
        Photos{" "}
        <span className="font-sans text-sm font-normal text-ink-2">
          {sameScale
            ? "those with a width are at one scale"
            : "say how wide what each shows is, and they stand at one scale"}
        </span>
      </h2>
      <div className="mt-2 grid gap-x-8 gap-y-4 sm:grid-cols-2">
        <Side of="original" title="Original" photos={original} widths={widths} trialId={trialId} />
        <Side of="copy" title="Copy" photos={copy} widths={widths} trialId={trialId} />
      </div>
    </section>
  );
}

interface SideProps {
  of: "original" | "copy";
  title: string;
  photos: readonly MatchPhoto[];
  widths: ReadonlyMap<string, number>;
  trialId: string;
}

function Side({ of, title, photos, widths, trialId }: SideProps) {
  const { matchId } = useMatch();
  const queries = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const take = useAct(
    matchId,
    (revision, file: File) => addPhoto(matchId, of, of === "copy" ? trialId : null, file, revision),
    { answered: (now) => queries.setQueryData(photosQuery(matchId).queryKey, now), part: "photos" },
  );
  return (
    <div>
      <h3 className="text-sm text-ink-2">{title}</h3>
      <div className="space-y-3">
        {photos.map((one) => (
          <OnePhoto key={one.photo.id} one={one} width={widths.get(one.photo.id) ?? WIDTH} title={title} />
        ))}
      </div>
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        className="sr-only"
        aria-label={`A photo of the ${of}`}
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) take.mutate(file);
          event.target.value = "";
        }}
      />
      <Button className="no-print mt-2" disabled={take.isPending} onClick={() => input.current?.click()}>
        {take.isPending ? "Taking it in …" : `Add a photo of the ${of}`}
      </Button>
      {take.error && (
        <div className="mt-2" role="alert">
          <Notice>{take.error.message}</Notice>
        </div>
      )}
    </div>
  );
}

function OnePhoto({ one, width, title }: { one: MatchPhoto; width: number; title: string }) {
  const { matchId } = useMatch();
  const queries = useQueryClient();
  const keep = useAct(
    matchId,
    (revision, change: (revision: number) => ReturnType<typeof writePhoto>) => change(revision),
    { answered: (now) => queries.setQueryData(photosQuery(matchId).queryKey, now), part: "photos" },
  );
  const { photo } = one;
  const write = (wide: string, words: string) =>
    keep.mutate((revision) => writePhoto(matchId, photo.id, wide, words, revision));
  const name = photo.words || `${title}, photo`;
  return (
    <figure>
      <img
        src={one.image}
        alt={name}
        width={width}
        height={Math.round((width * photo.height_px) / photo.width_px)}
        className="h-auto max-w-full rounded border border-line"
      />
      <figcaption className="mt-1 grid max-w-[300px] grid-cols-[7rem_minmax(0,1fr)_auto] items-end gap-2">
        <Cell
          showLabel
          label="Shows, wide"
          value={photo.wide}
          placeholder="36 mm"
          onCommit={(wide) => write(wide, photo.words)}
          {...told(one.wide)}
        />
        <Cell
          showLabel
          label="In words"
          value={photo.words}
          most={2000}
          onCommit={(words) => write(photo.wide, words)}
        />
        <Button
          look="bare"
          aria-label={`Take out ${name}`}
          onClick={() => keep.mutate((revision) => deletePhoto(matchId, photo.id, revision))}
        >
          ×
        </Button>
      </figcaption>
      {keep.error && <Notice>{keep.error.message}</Notice>}
    </figure>
  );
}
