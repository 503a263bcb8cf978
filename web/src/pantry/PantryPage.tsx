import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { Food } from "../api/types";
import { FileButton } from "../ui/FileButton";
import { figure } from "../ui/figures";
import { Button, Heading, Notice } from "../ui/Parts";
import { IngredientSheet } from "./IngredientSheet";
import { PacketSheet } from "./PacketSheet";
import { importPantry, searchQuery } from "./pantryApi";

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
  const renew = () => void queries.invalidateQueries({ queryKey: ["pantry"] });
  const intake = useMutation({
    mutationFn: async (file: File) => importPantry(await file.text()),
    onSuccess: renew,
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
          <Button look="main" onClick={() => setAdding(true)}>
            Add from a packet
          </Button>
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
            onChoose={(file) => intake.mutate(file)}
          >
            Import CSV
          </FileButton>
        </span>
      </div>
      {intake.error && (
        <div role="alert" className="mb-3">
          <Notice>{intake.error.message}</Notice>
        </div>
      )}
      {intake.data && (
        <p role="status" className="mb-3 text-fern-700">
          {intake.data.ids.length} ingredients taken in.
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
            <td className="py-1 text-sm text-ink-2">{food.allergens.join(", ")}</td>
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
