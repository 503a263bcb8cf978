import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import type { ScoreSheet, Tasted, Tasting, TestKind, TrialOut } from "../api/types";
import { freshId } from "../app/ids";
import { useMatch } from "../app/match";
import { useAct } from "../app/act";
import { Cell, told } from "../ui/Cell";
import { Button, Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { Ballot } from "./Ballot";
import type { PartProps } from "./BesidePart";
import { plateAddress } from "./tasteApi";
import { serve, trialQuery, withKey, type Change } from "./trialsApi";

const TASTED: readonly (readonly [Tasted, string])[] = [
  ["side by side", "side by side"],
  ["one after the other", "one after the other"],
  ["remembered", "the original remembered"],
];

/** Score sheets on lines from 0 to 10, and blind tastings with their verdicts. */
export function TastePart({ trial, typed, change }: PartProps & { revision: number }) {
  return (
    <div className="space-y-8">
      <Blind trial={trial} typed={typed} change={change} />
      <Sheets trial={trial} typed={typed} change={change} />
    </div>
  );
}

function Blind({ trial, typed, change }: PartProps) {
  const begin = (kind: TestKind) => {
    const tasting: Tasting = { id: freshId("tasting"), kind, servings: [] };
    change((old) => ({ ...old, tastings: [...old.tastings, tasting] }));
  };
  const many = trial.tasters_for["0.3"];
  return (
    <section aria-label="Blind tastings">
      <h2 className="text-lg">Can it be told apart, blind?</h2>
      <p className="mb-2 max-w-3xl text-sm text-ink-2">
        Three pieces under codes, two of them alike: which is the odd one? {many} tasters find what three in
        ten notice, {trial.tasters_for["0.5"]} what every second one does. At one size and warmth, water
        between; which one is liked better is asked afterwards, with other pieces. Say what is in it first,
        nuts above all.
      </p>
      {typed.tastings.map((tasting) => (
        <OneTasting key={tasting.id} tasting={tasting} trial={trial} change={change} />
      ))}
      <span className="no-print flex gap-3">
        <Button onClick={() => begin("triangle")}>Prepare a triangle test</Button>
        <Button onClick={() => begin("preference")}>Ask which is liked better</Button>
      </span>
    </section>
  );
}

function OneTasting({ tasting, trial, change }: { tasting: Tasting; trial: TrialOut; change: Change }) {
  const { matchId } = useMatch();
  const [shown, setShown] = useState(false);
  const verdict = trial.verdicts.find((one) => one.tasting === tasting.id);
  const servings = tasting.servings;
  const set = (part: (old: Tasting) => Tasting) =>
    change((old) => ({
      ...old,
      tastings: old.tastings.map((one) => (one.id === tasting.id ? part(one) : one)),
    }));
  const triangle = tasting.kind !== "preference";
  const answer = (id: string, typed: string) =>
    set((old) => ({
      ...old,
      servings: old.servings.map((one) => (one.id === id ? { ...one, answer: typed } : one)),
    }));
  return (
    <div className="mb-5 rounded-lg border border-line bg-card p-4">
      <h3 className="text-base">{triangle ? "Triangle test" : "Which is liked better"}</h3>
      {verdict && <p className={verdict.is_told ? "font-semibold" : ""}>{verdict.sentence}</p>}
      {servings.length > 0 && (
        <table className="mt-2 w-full border-collapse">
          <thead className="text-left text-sm text-ink-2">
            <tr className="border-b border-line">
              <th className="py-1 font-normal">Taster</th>
              <th className="py-1 font-normal">Codes, from left to right</th>
              {shown && <th className="py-1 font-normal">On the plate</th>}
              <th className="w-48 py-1 font-normal">{triangle ? "The odd one" : "Liked better"}</th>
            </tr>
          </thead>
          <tbody>
            {servings.map((one, number) => (
              <tr key={one.id} className="border-b border-line/60">
                <td className="py-1 pr-2">
                  <a
                    className="text-fern-700 underline print:text-ink print:no-underline"
                    href={plateAddress(matchId, trial.trial.id, one.id)}
                    target="_blank"
                    rel="noreferrer"
                    title="The plate of this taster, to be opened on a phone in the house"
                  >
                    {one.taster || `Taster ${number + 1}`}
                  </a>
                </td>
                <td className="py-1 pr-2 font-semibold tracking-wide">{one.codes.join("   ")}</td>
                {shown && <td className="py-1 pr-2 text-sm">{one.pieces.join(", ")}</td>}
                <td className="py-1">
                  <Select
                    label={`Answer of ${one.taster || `taster ${number + 1}`}`}
                    value={one.answer}
                    empty="not yet"
                    options={[
                      ...one.codes.map((code) => [code, code] as const),
                      ...(triangle ? [] : ([["-", "no preference"]] as const)),
                    ]}
                    onChoose={(code) => answer(one.id, code)}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {servings.length > 0 && (
        <p className="no-print mt-1 text-sm text-ink-2">
          Each name opens that taster’s plate, on a phone as well where the app was started for the house.
        </p>
      )}
      <Serve tasting={tasting} trial={trial} />
      <span className="no-print mt-2 flex gap-4 text-sm">
        {servings.length > 0 && (
          <Button look="bare" onClick={() => setShown(!shown)}>
            {shown ? "Hide what lies where" : "Show what lies where, to plate it"}
          </Button>
        )}
        <Button
          look="bare"
          onClick={() =>
            change((old) => ({
              ...old,
              tastings: old.tastings.filter((one) => one.id !== tasting.id),
            }))
          }
        >
          Take this tasting out
        </Button>
      </span>
    </div>
  );
}

const MOST_AT_ONCE = 60;

/** Further servings: how many, or for whom. */
function Serve({ tasting, trial }: { tasting: Tasting; trial: TrialOut }) {
  const { matchId } = useMatch();
  const queries = useQueryClient();
  const [names, setNames] = useState("");
  const isKept = trial.trial.tastings.some((one) => one.id === tasting.id);
  const serving = (revision: number) => {
    const count = /^\d+$/.test(names.trim()) ? Math.min(MOST_AT_ONCE, Number(names)) : 0;
    const who = count ? Array.from({ length: count }, () => "") : parted(names);
    return serve(matchId, trial.trial.id, tasting.id, who, revision);
  };
  const draw = useAct(matchId, serving, {
    answered: (now) => {
      queries.setQueryData(trialQuery(matchId, trial.trial.id).queryKey, now);
      setNames("");
    },
    part: "trial",
  });
  return (
    <form
      className="no-print mt-3 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        draw.mutate();
      }}
    >
      <label className="text-sm text-ink-2">
        Tasters: how many, or their names with commas
        <input
          className="mt-0.5 block w-80 rounded border border-line bg-card px-2 py-1 text-base text-ink"
          value={names}
          maxLength={2000}
          onChange={(event) => setNames(event.target.value)}
        />
      </label>
      <Button
        type="submit"
        disabled={draw.isPending || !isKept || !(Number(names) > 0 || parted(names).length)}
      >
        Draw codes
      </Button>
      {draw.error && <Notice>{draw.error.message}</Notice>}
    </form>
  );
}

const parted = (names: string) =>
  names
    .split(/[,;\n]/)
    .map((one) => one.trim().slice(0, 200))
    .filter((one) => one && !/^\d+$/.test(one))
    .slice(0, MOST_AT_ONCE);

function Sheets({ trial, typed, change }: PartProps) {
  const [ballot, setBallot] = useState(false);
  const printed = useCallback(() => setBallot(false), []);
  const sheets = typed.sheets;
  const add = () => {
    const sheet: ScoreSheet = {
      id: freshId("sheet"),
      taster: "",
      tasted: "side by side",
      original: {},
      copy: {},
      words: "",
    };
    change((old) => ({ ...old, sheets: [...old.sheets, sheet] }));
  };
  return (
    <section aria-label="Score sheets">
      <h2 className="text-lg">A profile, line by line</h2>
      <p className="mb-2 max-w-3xl text-sm text-ink-2">
        Marks from 0 to 10. Side by side a taster places two to a point; one after the other, or with the
        original remembered, the doubt is wider, and is told so.
      </p>
      {sheets.map((sheet, number) => (
        <OneSheet key={sheet.id} sheet={sheet} number={number + 1} trial={trial} change={change} />
      ))}
      <span className="no-print flex gap-3">
        <Button onClick={add}>Another score sheet</Button>
        <Button look="bare" onClick={() => window.print()}>
          Print
        </Button>
        <Button look="bare" onClick={() => setBallot(true)}>
          Print an empty sheet
        </Button>
      </span>
      {ballot && <Ballot senses={trial.senses} onPrinted={printed} />}
      <OwnSenses typed={typed} change={change} />
    </section>
  );
}

interface OneSheetProps {
  sheet: ScoreSheet;
  number: number;
  trial: TrialOut;
  change: Change;
}

function OneSheet({ sheet, number, trial, change }: OneSheetProps) {
  const set = (part: (old: ScoreSheet) => ScoreSheet) =>
    change((old) => ({
      ...old,
      sheets: old.sheets.map((one) => (one.id === sheet.id ? part(one) : one)),
    }));
  const mark = (side: "original" | "copy", sense: string, typed: string) =>
    set((old) => ({ ...old, [side]: withKey(old[side], sense, typed) }));
  const who = sheet.taster || `sheet ${number}`;
  return (
    <div className="mb-4 rounded-lg border border-line bg-card p-4 print:break-inside-avoid">
      <div className="mb-2 grid max-w-xl grid-cols-[minmax(0,1fr)_14rem_auto] items-end gap-3">
        <Cell
          showLabel
          label="Taster"
          value={sheet.taster}
          onCommit={(taster) => set((old) => ({ ...old, taster }))}
        />
        <Select
          showLabel
          label="Tasted"
          value={sheet.tasted}
          options={TASTED}
          onChoose={(tasted) => set((old) => ({ ...old, tasted }))}
        />
        <Button
          look="bare"
          aria-label={`Take out the sheet of ${who}`}
          onClick={() =>
            change((old) => ({ ...old, sheets: old.sheets.filter((one) => one.id !== sheet.id) }))
          }
        >
          ×
        </Button>
      </div>
      <table className="w-full border-collapse">
        <thead className="text-left text-sm text-ink-2">
          <tr className="border-b border-line">
            <th className="py-1 font-normal">Line</th>
            <th className="py-1 font-normal">At 0</th>
            <th className="py-1 font-normal">At 10</th>
            <th className="w-28 py-1 font-normal">Original</th>
            <th className="w-28 py-1 pl-2 font-normal">Copy</th>
          </tr>
        </thead>
        <tbody>
          {trial.senses.map((sense) => (
            <tr key={sense.id} className="border-b border-line/60">
              <th scope="row" className="py-1 pr-2 text-left font-normal">
                {sense.title || "Unnamed line"}
              </th>
              <td className="py-1 pr-2 text-sm text-ink-2">{sense.low}</td>
              <td className="py-1 pr-2 text-sm text-ink-2">{sense.high}</td>
              {(["original", "copy"] as const).map((side) => (
                <td key={side} className={side === "copy" ? "py-0.5 pl-2" : "py-0.5"}>
                  <Cell
                    label={`${sense.title}, ${side}, ${who}`}
                    value={sheet[side]?.[sense.id] ?? ""}
                    align="right"
                    onCommit={(typed) => mark(side, sense.id, typed)}
                    {...told(trial.cells[`${side}.${sheet.id}.${sense.id}`])}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <Cell
        showLabel
        className="mt-2"
        label="In words"
        value={sheet.words}
        most={2000}
        onCommit={(words) => set((old) => ({ ...old, words }))}
      />
    </div>
  );
}

/** Lines of one's own, with words for both ends. */
function OwnSenses({ typed, change }: { typed: PartProps["typed"]; change: Change }) {
  const own = typed.senses;
  const set = (id: string, part: Partial<(typeof own)[number]>) =>
    change((old) => ({
      ...old,
      senses: old.senses.map((one) => (one.id === id ? { ...one, ...part } : one)),
    }));
  const add = () => {
    const sense = { id: freshId("sense"), name: "", low: "", high: "" };
    change((old) => ({ ...old, senses: [...old.senses, sense] }));
  };
  return (
    <div className="no-print mt-4 space-y-2">
      {own.map((one) => (
        <div key={one.id} className="grid max-w-2xl grid-cols-[1fr_1fr_1fr_auto] items-end gap-2">
          <Cell
            showLabel
            label="Line of your own"
            value={one.name}
            onCommit={(name) => set(one.id, { name })}
          />
          <Cell showLabel label="At 0" value={one.low} onCommit={(low) => set(one.id, { low })} />
          <Cell showLabel label="At 10" value={one.high} onCommit={(high) => set(one.id, { high })} />
          <Button
            look="bare"
            aria-label={`Take out the line ${one.name}`}
            onClick={() =>
              change((old) => ({ ...old, senses: old.senses.filter((line) => line.id !== one.id) }))
            }
          >
            ×
          </Button>
        </div>
      ))}
      <Button look="bare" onClick={add}>
        A line of your own
      </Button>
    </div>
  );
}
