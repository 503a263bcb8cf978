import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Ingredient, IngredientView } from "../api/types";
import { Button, Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { Sheet } from "../ui/Sheet";
import { dropIngredient, ingredientQuery, writeIngredient } from "./pantryApi";

interface IngredientSheetProps {
  id: string;
  onClose: () => void;
  onKept: () => void;
}

/** One ingredient with every figure, to change; a figure that you change says that it is yours. */
export function IngredientSheet({ id, onClose, onKept }: IngredientSheetProps) {
  const { data, error } = useQuery(ingredientQuery(id));
  return (
    <Sheet title={data?.ingredient.name ?? "Ingredient"} open onClose={onClose} wide>
      {error && <Notice>{error.message}</Notice>}
      {data && <Figures view={data} onClose={onClose} onKept={onKept} />}
    </Sheet>
  );
}

type Texts = Record<string, string>;
const FIELD = "rounded border border-line bg-card px-2 py-0.5";
const EXTRA = [
  ["sweetness", "Sweetness, sugar is 1"],
  ["density_g_ml", "Density in a cup, g/mL"],
  ["price_per_kg", "Price per kg"],
  ["piece_g", "One piece weighs, g"],
] as const;

function Figures({
  view,
  onClose,
  onKept,
}: {
  view: IngredientView;
  onClose: () => void;
  onKept: () => void;
}) {
  const queries = useQueryClient();
  const food = view.ingredient;
  const [name, setName] = useState(food.name);
  const [texts, setTexts] = useState<Texts>(() => textsOf(food, view));
  const [vegan, setVegan] = useState(food.vegan);
  const [allergens, setAllergens] = useState(food.allergens.join(", "));
  const [allKnown, setAllKnown] = useState(food.allergens_known);
  const [began] = useState(view.revision); // what another window keeps meanwhile merges, or asks
  const [wrong, setWrong] = useState<string | null>(null);
  const keeping = useMutation({
    mutationFn: (changed: Ingredient) => writeIngredient(began, changed),
    onSuccess: (kept) => {
      queries.setQueryData(ingredientQuery(food.id).queryKey, kept);
      onKept();
      onClose();
    },
  });
  const dropping = useMutation({
    mutationFn: () => dropIngredient(food.id),
    onSuccess: () => {
      onKept();
      onClose();
    },
  });
  const keep = () => {
    const bad = Object.entries(texts).find(([, text]) => text.trim() !== "" && number(text) === null);
    if (bad) {
      setWrong(
        `“${bad[1]}” is no figure. Write it with one decimal point, such as 12.5; leave it empty where it is not known.`,
      );
      return;
    }
    setWrong(null);
    keeping.mutate({
      ...food,
      name: name.trim() || food.name,
      vegan,
      allergens_known: allKnown,
      allergens: allergens
        .split(",")
        .map((one) => one.trim())
        .filter(Boolean),
      per_100_g: Object.fromEntries(
        view.figures.map(({ nutrient }) => [nutrient, number(texts[nutrient] ?? "")]),
      ),
      ...Object.fromEntries(EXTRA.map(([key]) => [key, number(texts[key] ?? "")])),
    });
  };
  const error = wrong ?? keeping.error?.message ?? dropping.error?.message;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <div className="mb-3 grid grid-cols-[1fr_10rem_1fr] gap-3">
        <label className="block">
          <span className="block text-sm text-ink-2">Name</span>
          <input
            className={`w-full ${FIELD}`}
            value={name}
            maxLength={120}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <Select
          showLabel
          label="Vegan"
          value={vegan}
          options={[
            ["yes", "yes"],
            ["no", "no"],
            ["check", "ask the maker"],
          ]}
          onChoose={setVegan}
        />
        <div>
          <label className="block">
            <span className="block text-sm text-ink-2">Allergens, with commas</span>
            <input
              className={`w-full ${FIELD}`}
              value={allergens}
              maxLength={400}
              onChange={(event) => setAllergens(event.target.value)}
            />
          </label>
          <label className="mt-1 flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="size-4 accent-fern-700"
              checked={allKnown}
              onChange={(event) => setAllKnown(event.target.checked)}
            />
            these are all of them
          </label>
        </div>
      </div>
      <div className="grid grid-cols-3 gap-x-6 gap-y-1">
        {EXTRA.map(([key, title]) => (
          <Figure
            key={key}
            title={title}
            unit=""
            value={texts[key] ?? ""}
            onChange={(text) => setTexts({ ...texts, [key]: text })}
          />
        ))}
      </div>
      <h3 className="mt-3 mb-1 text-base">In 100 g</h3>
      <div className="grid grid-cols-3 gap-x-6 gap-y-1">
        {view.figures.map(({ nutrient, title, unit, second }) => (
          <Figure
            key={nutrient}
            title={title}
            unit={unit}
            origin={food.origins?.[nutrient]}
            second={second}
            value={texts[nutrient] ?? ""}
            onChange={(text) => setTexts({ ...texts, [nutrient]: text })}
          />
        ))}
      </div>
      {food.note && <p className="mt-3 text-sm text-ink-2">{food.note}</p>}
      {error && (
        <div role="alert" className="mt-3">
          <Notice>{error}</Notice>
        </div>
      )}
      <p className="mt-4 flex gap-3">
        <Button look="main" type="submit" disabled={keeping.isPending}>
          Keep these figures
        </Button>
        {view.origin !== "shipped" && (
          <Button disabled={dropping.isPending} onClick={() => dropping.mutate()}>
            {view.origin === "changed" ? "Bring the shipped figures back" : "Take it out of the pantry"}
          </Button>
        )}
      </p>
    </form>
  );
}

interface FigureProps {
  title: string;
  unit: string;
  origin?: string | undefined;
  second?: number | null | undefined;
  value: string;
  onChange: (text: string) => void;
}

function Figure({ title, unit, origin, second, value, onChange }: FigureProps) {
  return (
    <label className="flex items-baseline justify-between gap-2">
      <span className="min-w-0 text-sm leading-tight">
        {title} <span className="text-ink-2">{unit}</span>
        {origin && <span className="block text-fern-700">{origin}</span>}
        {second !== null && second !== undefined && (
          <span className="block text-ink-2">{second} by another source</span>
        )}
      </span>
      <input
        className={`w-20 text-right ${FIELD}`}
        value={value}
        placeholder="unknown"
        maxLength={20}
        inputMode="decimal"
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

/** A typed figure; null where it is empty or none. The core refuses what cannot be true. */
function number(text: string): number | null {
  const bare = text.trim().replace(",", ".");
  return /^\d+(\.\d+)?$/.test(bare) ? Number(bare) : null;
}

const textsOf = (food: Ingredient, view: IngredientView): Texts => ({
  ...Object.fromEntries(view.figures.map(({ nutrient }) => [nutrient, written(food.per_100_g?.[nutrient])])),
  ...Object.fromEntries(EXTRA.map(([key]) => [key, written(food[key])])),
});

const written = (value: number | null | undefined) =>
  value === null || value === undefined ? "" : String(value);
