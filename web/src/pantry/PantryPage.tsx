import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { Food, PantryPreview } from "../api/types";
import { refreshHouse } from "../app/queries";
import { HouseUndo } from "../house/HouseUndo";
import { FileButton } from "../ui/FileButton";
import { figure } from "../ui/figures";
import { Button, Heading, Notice } from "../ui/Parts";
import { IngredientSheet } from "./IngredientSheet";
import { PacketSheet } from "./PacketSheet";
import { fileText, importPantry, previewPantry, searchQuery } from "./pantryApi";

/** The pantry outside a match. */
export function PantryAlone() {
  return (
    <div className="min-h-dvh">
      <header className="bg-fern-900 px-8 py-4 text-white">
        <Link to="/" className="font-head text-xl font-semibold hover:underline">
          Fern Match
        </Link>
        <p className="text-fern-100">All matches</p>
      </header>
      <main className="mx-auto max-w-5xl px-8 py-8">
        <PantryPage />
      </main>
    </div>
  );
}

const ORIGINS: Record<string, string> = { shipped: "", changed: "changed by you", own: "yours" };
const MOST_SHOWN = 300;

/** The pantry: what can be chosen, found by any name; add from a packet, change a figure, take it in and out as a file. */
export function PantryPage() {
  const queries = useQueryClient();
  const [search, setSearch] = useSearchParams();
  const wanted = search.get("find") ?? "";
  const opened = search.get("ingredient");
  const [adding, setAdding] = useState(false);
  const { data, error } = useQuery(searchQuery(wanted));
  const renew = () => void refreshHouse(queries);
  const looking = useMutation({
    mutationFn: async (file: File) => {
      const text = await fileText(file);
      return { text, would: await previewPantry(text) };
    },
    onSuccess: () => intake.reset(),
  });
  const intake = useMutation({
    mutationFn: (text: string) => importPantry(text),
    onSuccess: () => {
      looking.reset();
      renew();
    },
  });
  const set = (change: Record<string, string | null>) => {
    const next = new URLSearchParams(search);
    for (const [key, value] of Object.entries(change)) {
      if (value) next.set(key, value);
      else next.delete(key);
    }
    setSearch(next, { replace: true });
  };
  return (
    <>
      <Heading
        title="The pantry"
        action={
          <span className="flex gap-2">
            <HouseUndo />
            <Button look="main" onClick={() => setAdding(true)}>
              Add from a packet
            </Button>
          </span>
        }
      >
        Typical figures, not measured: change any that you know better. A match keeps the figures it began
        with.
      </Heading>
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <input
          aria-label="Find an ingredient by any name"
          className="w-80 rounded border border-line bg-card px-2 py-1"
          placeholder="by any name: powdered sugar, cornflour …"
          value={wanted}
          maxLength={200}
          onChange={(event) => set({ find: event.target.value })}
        />
        <span className="ml-auto flex flex-wrap items-center gap-3">
          <a className="text-fern-700 underline decoration-fern-200" href="/api/pantry/export" download>
            Export all
          </a>
          <a
            className="text-fern-700 underline decoration-fern-200"
            href="/api/pantry/export?own_only=true"
            download
          >
            Export yours
          </a>
          <FileButton
            label="Pantry file (CSV) to import"
            accept=".csv,text/csv"
            onChoose={(file) => looking.mutate(file)}
          >
            Import CSV
          </FileButton>
        </span>
      </div>
      {(looking.error ?? intake.error) && (
        <div role="alert" className="mb-3">
          <Notice>{(looking.error ?? intake.error)?.message}</Notice>
        </div>
      )}
      {looking.data && (
        <FilePreview
          would={looking.data.would}
          busy={intake.isPending}
          onTake={() => intake.mutate(looking.data.text)}
          onLeave={() => looking.reset()}
        />
      )}
      {intake.data && (
        <p role="status" className="mb-3 text-fern-700">
          {intake.data.ids.length === 1 ? "1 ingredient" : `${intake.data.ids.length} ingredients`} taken in.
        </p>
      )}
      {error && <Notice>{error.message}</Notice>}
      {data && <FoodTable foods={data.slice(0, MOST_SHOWN)} onOpen={(id) => set({ ingredient: id })} />}
      {data?.length === 0 && (
        <p className="text-ink-2">Nothing by the name of “{wanted}”. Its packet tells enough to add it.</p>
      )}
      {opened && (
        <IngredientSheet key={opened} id={opened} onClose={() => set({ ingredient: null })} onKept={renew} />
      )}
      {adding && (
        <PacketSheet
          name={data?.length === 0 ? wanted : ""}
          onClose={() => setAdding(false)}
          onAdded={(id) => {
            setAdding(false);
            renew();
            set({ ingredient: id });
          }}
        />
      )}
    </>
  );
}

const MOST_LINES = 8;
const MOST_SHOWN_CHANGES = 12;

/** What a file would do, before it does. */
function FilePreview(props: {
  would: PantryPreview;
  busy: boolean;
  onTake: () => void;
  onLeave: () => void;
}) {
  const { would, busy, onTake, onLeave } = props;
  const fresh = would.changes.filter((one) => one.is_new);
  const changed = would.changes.filter((one) => !one.is_new);
  return (
    <section
      aria-label="What the file would do"
      className="mb-4 rounded-lg border border-line bg-card px-4 py-3"
    >
      <h2 className="text-base">
        It would add {fresh.length} and change {changed.length}; {would.unchanged} are as they are here.
      </h2>
      <ul className="mt-1" aria-label="Each change">
        {fresh.length > 0 && <li>New: {fresh.map((one) => one.name).join(", ")}.</li>}
        {changed.slice(0, MOST_SHOWN_CHANGES).map((one) => (
          <li key={one.id}>
            <strong>{one.name}</strong>: {one.words.slice(0, MOST_LINES).join("; ")}
            {one.words.length > MOST_LINES && ` and ${one.words.length - MOST_LINES} more`}.
          </li>
        ))}
        {changed.length > MOST_SHOWN_CHANGES && <li>And {changed.length - MOST_SHOWN_CHANGES} more.</li>}
      </ul>
      <p className="mt-3 flex gap-3">
        {would.changes.length > 0 && (
          <Button look="main" autoFocus disabled={busy} onClick={onTake}>
            Take it in
          </Button>
        )}
        <Button onClick={onLeave}>{would.changes.length > 0 ? "Leave it" : "Close"}</Button>
      </p>
    </section>
  );
}

function FoodTable({ foods, onOpen }: { foods: readonly Food[]; onOpen: (id: string) => void }) {
  return (
    <table className="w-full">
      <thead>
        <tr className="border-b border-line text-sm text-ink-2">
          <th className="py-1 text-left font-normal">Ingredient</th>
          <th className="py-1 text-left font-normal">kind</th>
          <th className="py-1 text-left font-normal">allergens</th>
          <th className="py-1 text-left font-normal">vegan</th>
          <th className="py-1 text-right font-normal">per kg</th>
          <th className="py-1 pl-4 text-left font-normal">origin</th>
        </tr>
      </thead>
      <tbody>
        {foods.map((food) => (
          <tr key={food.id} className="border-b border-line/60">
            <td className="py-1">
              <Button look="bare" className="text-left" onClick={() => onOpen(food.id)}>
                {food.name}
              </Button>
            </td>
            <td className="py-1 text-sm text-ink-2">{food.category}</td>
            <td className="py-1 text-sm text-ink-2">
              {[...food.allergens, ...(food.allergens_known ? [] : ["not all known"])].join(", ")}
            </td>
            <td className="py-1 text-sm text-ink-2">
              {food.vegan === "check" ? "ask the maker" : food.vegan}
            </td>
            <td className="py-1 text-right">
              {food.price_per_kg === null ? "–" : figure(food.price_per_kg, 2)}
            </td>
            <td className="py-1 pl-4 text-sm text-ink-2">
              {ORIGINS[food.origin]}
              {food.estimated && ", from its packet"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
