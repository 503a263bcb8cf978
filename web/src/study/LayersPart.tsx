import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { freshId } from "../app/ids";
import { useMatch } from "../app/match";
import type { Layer, Place, SmallSlice, StudyReading } from "../api/types";
import { SmallSliceDrawing } from "../frame/SmallSliceDrawing";
import { usePointable } from "../frame/pointing";
import { Cell } from "../ui/Cell";
import { Choice } from "../ui/Choice";
import { Button } from "../ui/Parts";
import { Select } from "../ui/Select";
import { withLayer, withLayerMoved, withLayers, withoutLayer } from "./edits";
import { familiesQuery, proposedBuildsQuery, starterBuildsQuery } from "./studyApi";

const PLACES: [Place, string][] = [
  ["coat", "coat, all round"],
  ["stack", "stacked"],
  ["core", "core"],
  ["inclusion", "inclusion in …"],
  ["topping", "on top"],
];

/** The build: coats from outside in, then the stack from bottom to top. */
export function LayersPart() {
  const { study, change } = useMatch();
  const { data: starters } = useQuery(starterBuildsQuery);
  const [added, setAdded] = useState<string | null>(null);
  const layers = study.study.layers;
  const readings = new Map(study.reading.layers.map((one) => [one.layer_id, one]));
  const add = () => {
    if (!starters) return;
    const id = freshId("layer");
    setAdded(id);
    change((old) =>
      withLayers(old, [...old.layers, { ...starters.further, id, name: `Layer ${old.layers.length + 1}` }]),
    );
  };
  return (
    <div className="max-w-5xl">
      {layers.length === 0 && <Starters />}
      {layers.length > 0 && (
        <>
          <p className="mb-2 text-sm text-ink-2">
            Coats from outside in, then the stack from bottom to top; an inclusion after the layer it lies in.
          </p>
          <table className="w-full" data-cells>
            <thead>
              <tr className="border-b border-line text-left text-sm text-ink-2">
                <th className="py-1 font-normal">Layer</th>
                <th className="py-1 pl-2 font-normal">Family</th>
                <th className="py-1 pl-2 font-normal">Place</th>
                <th className="w-32 py-1" />
              </tr>
            </thead>
            <tbody>
              {layers.map((layer, index) => (
                <LayerLine
                  key={layer.id}
                  layer={layer}
                  index={index}
                  count={layers.length}
                  arrives={layer.id === added}
                  reading={readings.get(layer.id)}
                />
              ))}
            </tbody>
          </table>
        </>
      )}
      <p className="mt-4">
        <Button look={layers.length ? "quiet" : "bare"} disabled={!starters} onClick={add}>
          Add a layer
        </Button>
      </p>
    </div>
  );
}

/** What a wrapper suggests, then usual builds; each drawn small and taken in one press. */
function Starters() {
  const { matchId, study } = useMatch();
  const { data } = useQuery(starterBuildsQuery);
  const { data: proposed } = useQuery(proposedBuildsQuery(matchId, study.revision));
  return (
    <div className="mb-4 space-y-5">
      {proposed && proposed.length > 0 && (
        <section>
          <h2 className="mb-2 text-lg">What the pack suggests</h2>
          {proposed[0]?.question && <p className="mb-2 max-w-3xl">{proposed[0].question}</p>}
          <Builds builds={proposed} />
        </section>
      )}
      <section>
        <h2 className="mb-2 text-lg">Usual builds</h2>
        <Builds builds={data?.builds ?? []} />
      </section>
    </div>
  );
}

interface Build {
  id: string;
  name: string;
  reason?: string;
  odds?: number;
  question?: string;
  layers: Layer[];
  slice: SmallSlice | null;
}

function Builds({ builds }: { builds: readonly Build[] }) {
  const { change } = useMatch();
  return (
    <ul className="grid grid-cols-2 gap-2">
      {builds.map((build) => (
        <li key={build.id}>
          <Button
            className="flex h-full w-full items-center gap-3 text-left"
            onClick={() => change((old) => withLayers(old, build.layers))}
          >
            <span className="w-28 shrink-0">
              <SmallSliceDrawing slice={build.slice} name={build.name} />
            </span>
            <span className="min-w-0 leading-tight">
              <span className="block font-semibold first-letter:uppercase">{build.name}</span>
              {build.odds !== undefined && build.odds < 1 && (
                <span className="block text-sm">{Math.round(100 * build.odds)} in 100</span>
              )}
              <span className="mt-0.5 block text-sm text-ink-2">
                {build.reason ?? build.layers.map((layer) => layer.name).join(", ")}
              </span>
            </span>
          </Button>
        </li>
      ))}
    </ul>
  );
}

interface LayerLineProps {
  layer: Layer;
  index: number;
  count: number;
  /** Whether it was just added. */
  arrives: boolean;
  reading: StudyReading["layers"][number] | undefined;
}

function LayerLine({ layer, index, count, arrives, reading }: LayerLineProps) {
  const { change } = useMatch();
  const pointable = usePointable(layer.id);
  const { data: families } = useQuery(familiesQuery);
  return (
    <tr className="border-b border-line/60 align-top data-pointed:bg-fern-100/60" {...pointable}>
      <td className="py-1.5">
        <Cell
          most={120}
          arrives={arrives}
          label={`Name of layer ${index + 1}`}
          value={layer.name}
          onCommit={(typed) => change((old) => withLayer(old, layer.id, { name: typed }))}
        />
      </td>
      <td className="w-80 py-1.5 pl-2">
        <Choice
          label={`Family of ${layer.name}`}
          options={families ?? []}
          value={layer.family}
          placeholder="Choose a family"
          onChoose={(id) => change((old) => withLayer(old, layer.id, { family: id }))}
        />
        {reading?.better_family && reading.better_family_name && (
          <p className="mt-1 text-sm text-amber-ink">
            The names fit {reading.better_family_name.toLowerCase()} better.{" "}
            <Button
              look="bare"
              onClick={() =>
                change((old) => withLayer(old, layer.id, { family: reading.better_family ?? layer.family }))
              }
            >
              Take it
            </Button>
          </p>
        )}
        {reading?.read_as && (
          <p className="mt-1 text-sm text-ink-2">
            chocolate read by its ingredients: {reading.read_as.toLowerCase()}
          </p>
        )}
      </td>
      <td className="w-48 py-1.5 pl-2">
        <PlaceFields layer={layer} />
      </td>
      <td className="py-1.5 pl-2 text-right whitespace-nowrap">
        <IconButton
          label={`Move ${layer.name} up`}
          disabled={index === 0}
          onPress={() => change((old) => withLayerMoved(old, layer.id, -1))}
        >
          ↑
        </IconButton>
        <IconButton
          label={`Move ${layer.name} down`}
          disabled={index === count - 1}
          onPress={() => change((old) => withLayerMoved(old, layer.id, 1))}
        >
          ↓
        </IconButton>
        <IconButton
          label={`Remove ${layer.name}`}
          onPress={() => change((old) => withoutLayer(old, layer.id))}
        >
          ×
        </IconButton>
      </td>
    </tr>
  );
}

function PlaceFields({ layer }: { layer: Layer }) {
  const { study, change } = useMatch();
  const hosts = study.study.layers.filter((other) => other.id !== layer.id && other.place !== "inclusion");
  return (
    <>
      <Select
        label={`Place of ${layer.name}`}
        value={layer.place}
        options={PLACES}
        onChoose={(place) => {
          const host = place === "inclusion" ? (layer.host ?? hosts[0]?.id ?? null) : null;
          change((old) => withLayer(old, layer.id, { place, host }));
        }}
      />
      {layer.place === "inclusion" && (
        <Select
          label={`Layer that ${layer.name} lies in`}
          className="mt-1 w-full"
          value={layer.host ?? ""}
          options={hosts.map((host) => [host.id, host.name] as const)}
          empty="which layer?"
          onChoose={(host) => change((old) => withLayer(old, layer.id, { host: host || null }))}
        />
      )}
    </>
  );
}

function IconButton(props: { label: string; onPress: () => void; disabled?: boolean; children: string }) {
  return (
    <button
      type="button"
      aria-label={props.label}
      title={props.label}
      disabled={props.disabled}
      onClick={props.onPress}
      className="size-8 rounded hover:bg-fern-100 disabled:opacity-30"
    >
      {props.children}
    </button>
  );
}
