import { useQuery } from "@tanstack/react-query";
import { useState, type KeyboardEvent, type ReactNode } from "react";
import { useNavigate } from "react-router";
import type { AdaptedLayer, AdaptedOut, CutFace, FrameLayer, ProposalOut } from "../api/types";
import { useMatch } from "../app/match";
import { useAct } from "../app/act";
import { CutFaceDrawing } from "../frame/CutFaceDrawing";
import { figure } from "../ui/figures";
import { Cell } from "../ui/Cell";
import { Button, Notice } from "../ui/Parts";
import { Sheet } from "../ui/Sheet";
import { keepProposal, proposalsHeldBackQuery } from "./adaptApi";
import type { Asked } from "./asked";

interface ProposalsProps {
  worked: AdaptedOut;
  versionId: string;
  asked: Asked;
  ask: (next: Asked) => void;
  stale: boolean;
}

/** Proposals beside the version they come from: the slice of each, what differs first, then amounts and advice. */
export function Proposals({ worked, versionId, asked, ask, stale }: ProposalsProps) {
  const keeping = useKeeping(versionId, worked.key);
  const [naming, setNaming] = useState<ProposalOut | null>(null);
  const heldBack = useHeldBack(versionId, worked.key, stale);
  const { proposals } = worked;
  const sides = proposals[0]?.sides ?? [];
  const noticed = sides.filter((_, at) => proposals.some((one) => one.sides[at]?.noticed));
  const layers = worked.layers;
  return (
    <div className={`overflow-x-clip ${stale ? "opacity-60" : ""}`}>
      {keeping.error && (
        <div role="alert" className="mb-3">
          <Notice>{keeping.error.message}</Notice>
        </div>
      )}
      <table className="w-[calc(100%+1.5rem)] table-fixed border-separate -mx-3 border-spacing-x-3 align-top">
        <colgroup>
          <col className="w-56" />
          {proposals.map((one) => (
            <col key={one.system} />
          ))}
        </colgroup>
        <thead>
          <tr className="align-top">
            <th scope="col" className="text-left font-normal">
              <Face face={worked.slice} layers={layers} />
              <span className="block font-head text-base font-semibold">As it is</span>
            </th>
            {proposals.map((one) => (
              <th key={one.system} scope="col" className="text-left font-normal">
                <Face face={one.slice} layers={one.layers} />
                <span className="block font-head text-base font-semibold">{one.name}</span>
                <span className="block min-h-5 text-sm text-ink-2">{one.why}</span>
                <Button
                  className="mt-1 mb-3"
                  disabled={keeping.isPending || stale}
                  aria-label={`Keep as a version: ${one.name}`}
                  onClick={() =>
                    one.layers.some((layer) => layer.rename)
                      ? setNaming(one)
                      : keeping.mutate({ system: one.system, names: {} })
                  }
                >
                  {keeping.isPending && keeping.variables.system === one.system
                    ? "Keeping …"
                    : "Keep as a version"}
                </Button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <Head columns={proposals.length}>
            What differs
            {noticed.length === 0 && (
              <span className="font-normal text-ink-2">: nothing one would notice</span>
            )}
          </Head>
          {noticed.map((side) => (
            <tr key={side.what} className="align-baseline">
              <th scope="row" className="py-0.5 text-left font-normal">
                <span className="flex items-baseline justify-between gap-2">
                  <span>
                    {side.what} <span className="text-xs text-ink-2">{side.unit}</span>
                  </span>
                  {shown(side.before)}
                </span>
              </th>
              {proposals.map((one) => {
                const mine = one.sides.find((other) => other.what === side.what);
                return (
                  <td key={one.system} className={mine?.noticed ? "font-semibold" : "text-ink-2"}>
                    <span className="inline-block w-14 text-right">{shown(mine?.after ?? null)}</span>{" "}
                    {mine?.noticed && mine.change !== null && <Change by={mine.change} />}
                  </td>
                );
              })}
            </tr>
          ))}
          <Advice title="Who eats it will notice" of={(one) => one.changes} proposals={proposals} />
          <Advice title="To be said and minded" of={(one) => one.warnings} proposals={proposals} />
          <Head columns={proposals.length}>Grams a piece</Head>
          {layers.map((layer, at) => (
            <tr key={layer.layer_id}>
              <td className="pb-3 align-top">
                <Amounts
                  layer={layer}
                  forbid={(id) => ask({ ...asked, forbidden: [...asked.forbidden, id] })}
                  must={(id) => ask(withRequired(asked, layer.layer_id, id))}
                />
              </td>
              {proposals.map((one) => (
                <td key={one.system} className="pb-3 align-top">
                  {one.layers[at] && (
                    <Amounts
                      layer={one.layers[at]}
                      was={layer}
                      forbid={(id) => ask({ ...asked, forbidden: [...asked.forbidden, id] })}
                      must={(id) => ask(withRequired(asked, layer.layer_id, id))}
                    />
                  )}
                </td>
              ))}
            </tr>
          ))}
          <Head columns={proposals.length}>Label as it would print</Head>
          {worked.label.map(({ title, printed: now }, at) => (
            <tr key={title}>
              <th scope="row" className="text-left font-normal">
                <span className="flex items-baseline justify-between gap-2">
                  {title} <span>{now}</span>
                </span>
              </th>
              {proposals.map((one) => {
                const printed = one.label[at]?.printed;
                return (
                  <td key={one.system} className={printed === now ? "text-ink-2" : "font-semibold"}>
                    <span className="inline-block w-14 text-right">{printed}</span>
                  </td>
                );
              })}
            </tr>
          ))}
          <Advice title="What keeps it from being nearer" of={heldBack} proposals={proposals} />
          <Advice title="In the cook" of={(one) => one.process} proposals={proposals} />
        </tbody>
      </table>
      {naming && (
        <Naming
          proposal={naming}
          onKeep={(names) => {
            keeping.mutate({ system: naming.system, names });
            setNaming(null);
          }}
          onClose={() => setNaming(null)}
        />
      )}
    </div>
  );
}

/** What keeps proposals from being nearer: found out once they stand there. */
function useHeldBack(versionId: string, key: string, wait: boolean) {
  const { matchId } = useMatch();
  const query = proposalsHeldBackQuery(matchId, versionId, key);
  const { data } = useQuery({ ...query, enabled: !wait });
  return (one: ProposalOut) => data?.by_system[one.system] ?? [];
}

/** With an ingredient that a layer must have; what must be used is not refused. */
const withRequired = (asked: Asked, layer: string, id: string): Asked => ({
  ...asked,
  forbidden: asked.forbidden.filter((one) => one !== id),
  required: [...new Set([...asked.required, `${layer}:${id}`])],
});

/** What layers are to be called whose names say what is no longer in them. */
function Naming(props: {
  proposal: ProposalOut;
  onKeep: (names: Record<string, string>) => void;
  onClose: () => void;
}) {
  const renamed = props.proposal.layers.filter((layer) => layer.rename);
  const [names, setNames] = useState<Record<string, string>>(
    Object.fromEntries(renamed.map((layer) => [layer.layer_id, layer.rename ?? layer.name])),
  );
  return (
    <Sheet title={`Keep ${props.proposal.name}`} open onClose={props.onClose}>
      <p className="mb-3 text-ink-2">
        The name of {renamed.length === 1 ? "a layer" : "some layers"} says what is no longer in it. What is
        it to be called?
      </p>
      <div className="space-y-3">
        {renamed.map((layer) => (
          <Cell
            key={layer.layer_id}
            showLabel
            label={`Instead of ${layer.name}`}
            value={names[layer.layer_id] ?? ""}
            most={120}
            onCommit={(name) => setNames((old) => ({ ...old, [layer.layer_id]: name }))}
          />
        ))}
      </div>
      <Button look="main" className="mt-4" onClick={() => props.onKeep(names)}>
        Keep as a version
      </Button>
    </Sheet>
  );
}

function useKeeping(versionId: string, key: string) {
  const { matchId } = useMatch();
  const navigate = useNavigate();
  return useAct(
    matchId,
    (revision, { system, names }: { system: string; names: Record<string, string> }) =>
      keepProposal(matchId, versionId, { revision, key, system, names }),
    { then: (made) => navigate(`../formulate?version=${encodeURIComponent(made.version.id)}`) },
  );
}

const shown = (value: number | null) => (value === null ? "–" : figure(value, value < 1 ? 2 : 1));

/** By how much it is more or less than as it is. */
function Change({ by }: { by: number }) {
  const size = shown(Math.abs(by));
  return (
    <span className="text-sm font-normal whitespace-nowrap text-ink-2">
      ({by > 0 ? "+" : "−"}
      {size})
    </span>
  );
}

function Head({ columns, children }: { columns: number; children: ReactNode }) {
  return (
    <tr>
      <th
        colSpan={columns + 1}
        scope="colgroup"
        className="border-t border-line pt-3 pb-1 text-left font-head"
      >
        {children}
      </th>
    </tr>
  );
}

/** Over the end of the name while one points at the line or comes to it by keyboard. */
const WHISPER =
  "absolute top-0 right-14 flex gap-2 bg-paper pl-2 text-xs leading-6 whitespace-nowrap opacity-0 group-hover:opacity-100 group-focus-within:opacity-100 pointer-coarse:static pointer-coarse:opacity-100";

/** Arrows up and down go to the lines above and below, sideways between what can be said of one. */
function toNeighbour(event: KeyboardEvent<HTMLButtonElement>) {
  const line = event.currentTarget.closest("li");
  const step = { ArrowDown: line?.nextElementSibling, ArrowUp: line?.previousElementSibling }[event.key];
  const buttons = [...((step ?? line)?.querySelectorAll<HTMLElement>("[data-line]") ?? [])];
  const same = buttons.find((one) => one.dataset.line === event.currentTarget.dataset.line);
  const target =
    event.key === "ArrowRight"
      ? buttons[1]
      : event.key === "ArrowLeft"
        ? buttons[0]
        : step && (same ?? buttons[0]);
  if (!target) return;
  event.preventDefault();
  target.focus();
}

function Amounts(props: {
  layer: AdaptedLayer;
  was?: AdaptedLayer;
  forbid?: (id: string) => void;
  must: (id: string) => void;
}) {
  const { layer, was, forbid, must } = props;
  if (was && layer.same)
    return (
      <p className="flex justify-between text-ink-2">
        <span>
          {layer.name}, <em>as it is</em>
        </span>
        <span>{figure(layer.finished_g, 2)}</span>
      </p>
    );
  return (
    <>
      <p className="flex justify-between font-semibold">
        {layer.name} <span>{figure(layer.finished_g, 2)}</span>
      </p>
      {(!was || was.family_name !== layer.family_name) && (
        <p className="text-sm text-ink-2">{layer.family_name}</p>
      )}
      {/* One stop for the keyboard: arrows go from line to line. */}
      <ul>
        {layer.lines.map((line, at) => (
          <li key={line.ingredient_id} className="group relative flex items-baseline gap-2">
            <span
              className={`min-w-0 flex-1 ${was ? TONE[line.is_new ? "new" : line.same ? "same" : "moved"] : ""}`}
            >
              {line.name}
              {was && line.instead_of.length > 0 && (
                <span className="block text-xs text-ink-2">
                  for {line.instead_of.join(", ").toLowerCase()}
                </span>
              )}
            </span>
            <span className={WHISPER}>
              <Button
                look="bare"
                data-line="must"
                tabIndex={at === 0 ? 0 : -1}
                onKeyDown={toNeighbour}
                aria-label={`${layer.name} must have ${line.name}`}
                onClick={() => must(line.ingredient_id)}
              >
                must have
              </Button>
              {forbid && (line.is_new || !was) && (
                <Button
                  look="bare"
                  data-line="not"
                  tabIndex={-1}
                  onKeyDown={toNeighbour}
                  aria-label={`Without ${line.name}`}
                  onClick={() => forbid(line.ingredient_id)}
                >
                  not this
                </Button>
              )}
            </span>
            <span className={was && line.same ? "text-ink-2" : ""}>
              {figure(line.grams, line.grams < 0.1 ? 4 : 2)}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

/** What is the same is quiet, what came in stands out. */
const TONE = { new: "text-fern-700", same: "text-ink-2", moved: "" };

/** Sentences that all proposals share are said once. */
function Advice(props: { title: string; of: (one: ProposalOut) => string[]; proposals: ProposalOut[] }) {
  const { title, of, proposals } = props;
  const all = proposals.map(of);
  const shared =
    proposals.length > 1 ? (all[0] ?? []).filter((words) => all.every((one) => one.includes(words))) : [];
  if (all.every((one) => one.length === 0)) return null;
  return (
    <>
      <Head columns={proposals.length}>{title}</Head>
      {shared.length > 0 && (
        <tr>
          <td className="align-top text-sm text-ink-2">for all</td>
          <td colSpan={proposals.length} className="pb-2">
            <Sentences of={shared} />
          </td>
        </tr>
      )}
      <tr>
        <td />
        {all.map((own, at) => (
          <td key={proposals[at]?.system} className="pb-3 align-top">
            <Sentences of={own.filter((words) => !shared.includes(words))} />
          </td>
        ))}
      </tr>
    </>
  );
}

function Sentences({ of }: { of: string[] }) {
  return (
    <ul className="space-y-1 text-sm">
      {of.map((words) => (
        <li key={words}>{words}</li>
      ))}
    </ul>
  );
}

/** A small cut face, drawn as the frame draws it. */
function Face({ face, layers }: { face: CutFace | null; layers: AdaptedLayer[] }) {
  const { frame } = useMatch();
  if (!face) return null;
  const looks: FrameLayer[] = frame.layers.map((layer) => {
    const mine = layers.find((one) => one.layer_id === layer.layer_id);
    return mine ? { ...layer, family_name: mine.family_name, texture: mine.texture, tone: mine.tone } : layer;
  });
  return (
    <span className="mb-2 block w-32 [&_figcaption]:hidden [&_svg]:h-auto [&_svg]:w-full">
      <CutFaceDrawing face={face} layers={looks} picked={null} onPick={() => undefined} />
    </span>
  );
}
