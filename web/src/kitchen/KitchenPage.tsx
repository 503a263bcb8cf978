import { useId, type ReactNode } from "react";
import { Link } from "react-router";
import { SaveNotice } from "../app/SaveNotice";
import type { KitchenFile, KitchenOut } from "../api/types";
import { Cell, told } from "../ui/Cell";
import { Button, Heading, Notice } from "../ui/Parts";
import { useKitchen, type KitchenChange } from "./kitchenApi";

/** What each setting is called, on its field and when it changed. */
const TITLES: Record<keyof KitchenChange, string> = {
  scale_step: "Smallest step of the scale",
  measures: "Spoons and cups",
  mass_unit: "Weights",
  temperature_unit: "Heat",
  length_unit: "Lengths",
  altitude: "Height above the sea",
  boiling_reading: "Your thermometer in boiling water",
};

/** The kitchen: what amounts are weighed and scooped with, where its boils end, and in what units it is shown. */
export function KitchenPage() {
  const { kitchen, error, change: edit, saving, resolve } = useKitchen();
  const change: Change = (part) => edit((before) => ({ ...before, ...part }));
  if (error) return <Notice>{error.message}</Notice>;
  if (!kitchen) return <p className="text-ink-2">Opening the kitchen …</p>;
  return (
    <>
      <Heading title="Your kitchen">One for all matches. Amounts in every step follow it.</Heading>
      <SaveNotice saving={saving} resolve={resolve} />
      <JustChanged kitchen={kitchen} change={change} />
      <div className="grid max-w-4xl items-start gap-6 lg:grid-cols-2">
        <Scooping kitchen={kitchen} change={change} />
        <Boiling kitchen={kitchen} change={change} />
        <ShownIn kitchen={kitchen.kitchen} change={change} />
      </div>
    </>
  );
}

/** What was just changed, and the way back. */
function JustChanged({ kitchen, change }: { kitchen: KitchenOut; change: Change }) {
  const fields = Object.entries(kitchen.before);
  if (fields.length === 0) return null;
  const words = fields.map(
    ([field, was]) => `${TITLES[field as keyof KitchenChange]} changed, was ${was || "empty"}`,
  );
  return (
    <p role="status" className="mb-4 text-ink-2">
      {words.join("; ")}.{" "}
      <Button look="bare" onClick={() => change(kitchen.before as KitchenChange)}>
        Take it back
      </Button>
    </p>
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

type Change = (part: KitchenChange) => void;

function Scooping({ kitchen, change }: { kitchen: KitchenOut; change: Change }) {
  return (
    <Card title="Scale, spoons and cups">
      <Cell
        showLabel
        label={TITLES.scale_step}
        value={kitchen.kitchen.scale_step ?? ""}
        {...told(kitchen.scale_step)}
        placeholder="0.1 g"
        onCommit={(typed) => change({ scale_step: typed })}
      />
      <Pick
        label={TITLES.measures}
        value={kitchen.kitchen.measures ?? "metric"}
        options={[
          ["metric", "metric: 5, 15, 250 mL"],
          ["US", "US: 4.9, 14.8, 237 mL"],
          ["UK", "UK: 5, 15, 284 mL"],
          ["AU", "Australian: 5, 20, 250 mL"],
        ]}
        onPick={(measures) => change({ measures: measures as KitchenFile["measures"] })}
      />
      <p className="text-sm text-ink-2">
        Weigh what you can: a spoon errs by about 8 %, a cup by 10 %. Write “1 US cup” where a recipe means
        another country’s.
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
        value={kitchen.kitchen.altitude ?? ""}
        {...told(kitchen.altitude)}
        placeholder="1600 m or 5200 ft"
        onCommit={(typed) => change({ altitude: typed })}
      />
      <Cell
        showLabel
        label={TITLES.boiling_reading}
        value={kitchen.kitchen.boiling_reading ?? ""}
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

function ShownIn({ kitchen, change }: { kitchen: KitchenFile; change: Change }) {
  return (
    <Card title="Shown in">
      <div className="grid grid-cols-3 gap-2">
        <Pick
          label={TITLES.mass_unit}
          value={kitchen.mass_unit ?? "g"}
          options={[
            ["g", "g"],
            ["oz", "g and oz"],
          ]}
          onPick={(unit) => change({ mass_unit: unit as KitchenFile["mass_unit"] })}
        />
        <Pick
          label={TITLES.temperature_unit}
          value={kitchen.temperature_unit ?? "C"}
          options={[
            ["C", "°C"],
            ["F", "°F"],
          ]}
          onPick={(unit) => change({ temperature_unit: unit as KitchenFile["temperature_unit"] })}
        />
        <Pick
          label={TITLES.length_unit}
          value={kitchen.length_unit ?? "mm"}
          options={[
            ["mm", "mm"],
            ["in", "in"],
          ]}
          onPick={(unit) => change({ length_unit: unit as KitchenFile["length_unit"] })}
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

function Pick(props: {
  label: string;
  value: string;
  options: [string, string][];
  onPick: (value: string) => void;
}) {
  return (
    <label className="block">
      <span className="mb-0.5 block text-sm text-ink-2">{props.label}</span>
      <select
        className="w-full rounded border border-line bg-card px-2 py-1"
        value={props.value}
        onChange={(event) => props.onPick(event.target.value)}
      >
        {props.options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
