import { useId, type ReactNode } from "react";
import { Link } from "react-router";
import { SaveNotice } from "../app/SaveNotice";
import type { Kitchen, KitchenOut } from "../api/types";
import { Cell, told } from "../ui/Cell";
import { Heading, Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { HouseUndo } from "../house/HouseUndo";
import { GearTable } from "./GearTable";
import { useKitchen } from "./kitchenApi";
import { WrapTable } from "./WrapTable";

/** What each setting is called on its field. */
const TITLES: Record<Exclude<keyof Kitchen, "gear" | "lacks" | "packs" | "wraps">, string> = {
  scale_step: "Smallest step of the scale",
  measures: "Spoons and cups",
  mass_unit: "Weights",
  temperature_unit: "Heat",
  length_unit: "Lengths",
  altitude: "Height above the sea",
  boiling_reading: "Your thermometer in boiling water",
  cooks: "Cooks",
  burners: "Burners",
  ovens: "Ovens",
  fridges: "Fridges",
};

/** The kitchen: what amounts are weighed and scooped with, where its boils end, and in what units it is shown. */
export function KitchenPage() {
  const { kitchen, error, change: edit, ...saver } = useKitchen();
  const change: Change = (part) => edit((before) => ({ ...before, ...part }));
  if (error) return <Notice>{error.message}</Notice>;
  if (!kitchen) return <p className="text-ink-2">Opening the kitchen …</p>;
  const busy = saver.saving.kind === "sending" || saver.saving.kind === "waiting";
  return (
    <>
      <Heading title="Your kitchen" action={<HouseUndo busy={busy} />}>
        One for all matches. Amounts in every step follow it.
      </Heading>
      <SaveNotice {...saver} />
      <div className="grid max-w-4xl items-start gap-6 lg:grid-cols-2">
        <Scooping kitchen={kitchen} change={change} />
        <Boiling kitchen={kitchen} change={change} />
        <div className="space-y-6">
          <ShownIn kitchen={kitchen.kitchen} change={change} />
          <AtOnce kitchen={kitchen} change={change} />
        </div>
        <Lacking kitchen={kitchen} change={change} />
      </div>
      <div className="mt-6">
        <GearTable kitchen={kitchen} change={change} />
      </div>
      <div className="mt-6">
        <WrapTable kitchen={kitchen} change={change} />
      </div>
    </>
  );
}

/** Tools there are not: amounts follow at once, and the way to cook. */
function Lacking({ kitchen, change }: { kitchen: KitchenOut; change: Change }) {
  const lacks = kitchen.kitchen.lacks;
  return (
    <Card title="Not in this kitchen">
      <div className="grid grid-cols-2 gap-x-4 gap-y-1">
        {kitchen.tools.map((tool) => (
          <label key={tool} className="flex items-center gap-2">
            <input
              type="checkbox"
              className="size-4 accent-fern-700"
              checked={lacks.includes(tool)}
              onChange={(event) =>
                change({
                  lacks: event.target.checked ? [...lacks, tool] : lacks.filter((one) => one !== tool),
                })
              }
            />
            no {tool}
          </label>
        ))}
      </div>
      <p className="text-sm text-ink-2">
        Without a scale every amount is in spoons, cups and pieces, chosen together so that layers keep their
        weight. Without a thermometer boils end by what is seen, or by a drop in cold water.
      </p>
    </Card>
  );
}

/** The kitchen outside any match. */
export function KitchenAlone() {
  return (
    <div className="min-h-dvh">
      <header className="bg-fern-900 px-8 py-4 text-white">
        <Link to="/" className="font-head text-xl font-semibold hover:underline">
          Fern Match
        </Link>
        <p className="text-fern-100">All matches</p>
      </header>
      <main className="mx-auto max-w-5xl px-8 py-8">
        <KitchenPage />
      </main>
    </div>
  );
}

export type Change = (part: Partial<Kitchen>) => void;

function Scooping({ kitchen, change }: { kitchen: KitchenOut; change: Change }) {
  return (
    <Card title="Scale, spoons and cups">
      <Cell
        showLabel
        label={TITLES.scale_step}
        value={kitchen.kitchen.scale_step}
        {...told(kitchen.scale_step)}
        placeholder="0.1 g"
        onCommit={(typed) => change({ scale_step: typed })}
      />
      <Select
        showLabel
        label={TITLES.measures}
        value={kitchen.kitchen.measures}
        options={kitchen.measures.map(({ measures, words }) => [measures, words] as const)}
        onChoose={(measures) => change({ measures })}
      />
      <p className="text-sm text-ink-2">
        Weigh what you can: {kitchen.spoon_error}. Write “1 US cup” where a recipe means another country’s.
      </p>
    </Card>
  );
}

function Boiling({ kitchen, change }: { kitchen: KitchenOut; change: Change }) {
  return (
    <Card title="Boiling">
      <Cell
        showLabel
        label={TITLES.altitude}
        value={kitchen.kitchen.altitude}
        {...told(kitchen.altitude)}
        placeholder="1600 m or 5200 ft"
        onCommit={(typed) => change({ altitude: typed })}
      />
      <Cell
        showLabel
        label={TITLES.boiling_reading}
        value={kitchen.kitchen.boiling_reading}
        {...told(kitchen.boiling_reading)}
        placeholder="99.2 C or 210 F"
        onCommit={(typed) => change({ boiling_reading: typed })}
      />
      <p className={`text-sm ${kitchen.thermometer_is_suspect ? "text-amber-ink" : "text-ink-2"}`}>
        {kitchen.boiling_words}
      </p>
    </Card>
  );
}

const AT_ONCE = [
  ["cooks", "1"],
  ["burners", "4"],
  ["ovens", "1"],
  ["fridges", "1"],
] as const;

/** Who and what there is at once: the schedule of a cook goes by it. */
function AtOnce({ kitchen, change }: { kitchen: KitchenOut; change: Change }) {
  return (
    <Card title="At once">
      <div className="grid grid-cols-2 gap-2">
        {AT_ONCE.map(([field, usual]) => (
          <Cell
            key={field}
            showLabel
            label={TITLES[field]}
            value={kitchen.kitchen[field]}
            {...told(kitchen.at_once[field])}
            placeholder={usual}
            onCommit={(typed) => change({ [field]: typed })}
          />
        ))}
      </div>
      <p className="text-sm text-ink-2">How many there are: a cook’s schedule goes by it.</p>
    </Card>
  );
}

function ShownIn({ kitchen, change }: { kitchen: Kitchen; change: Change }) {
  return (
    <Card title="Shown in">
      <div className="grid grid-cols-3 gap-2">
        <Select
          showLabel
          label={TITLES.mass_unit}
          value={kitchen.mass_unit}
          options={[
            ["g", "g"],
            ["oz", "g and oz"],
          ]}
          onChoose={(unit) => change({ mass_unit: unit })}
        />
        <Select
          showLabel
          label={TITLES.temperature_unit}
          value={kitchen.temperature_unit}
          options={[
            ["C", "°C"],
            ["F", "°F"],
          ]}
          onChoose={(unit) => change({ temperature_unit: unit })}
        />
        <Select
          showLabel
          label={TITLES.length_unit}
          value={kitchen.length_unit}
          options={[
            ["mm", "mm"],
            ["in", "in"],
          ]}
          onChoose={(unit) => change({ length_unit: unit })}
        />
      </div>
      <p className="text-sm text-ink-2">
        A figure typed without a unit is in g, °C or mm, whatever is shown, so that it means the same in every
        kitchen.
      </p>
    </Card>
  );
}

function Card({ title, children }: { title: string; children: ReactNode }) {
  const id = useId();
  return (
    <section aria-labelledby={id} className="rounded-lg border border-line bg-card px-5 py-4">
      <h2 id={id} className="mb-3 text-lg">
        {title}
      </h2>
      <div className="space-y-3" data-cells>
        {children}
      </div>
    </section>
  );
}
