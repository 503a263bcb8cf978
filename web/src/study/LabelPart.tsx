import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useMatch } from "../app/match";
import type { PanelRow } from "../api/types";
import { Cell, told } from "../ui/Cell";
import { interval } from "../ui/figures";
import { Button, Notice } from "../ui/Parts";
import { REGIONS } from "../ui/regions";
import { Select } from "../ui/Select";
import { useTyping } from "../ui/typing";
import { withBasis, withLabelField, withName, withPanel, withRegion, withRow } from "./edits";
import { readPanel } from "./studyApi";

/** The label: pack and panel as printed, with what each figure stands for. */
export function LabelPart() {
  return (
    <div className="grid max-w-4xl gap-8 lg:grid-cols-[260px_1fr]">
      <PackFields />
      <PanelTable />
    </div>
  );
}

function PackFields() {
  const { study, change } = useMatch();
  const { reading } = study;
  const label = study.study.label;
  return (
    <div className="space-y-3" data-cells>
      <h2 className="text-lg">The pack</h2>
      <Cell
        showLabel
        label="Name of the original"
        most={120}
        value={study.study.name}
        onCommit={(typed) => change((old) => withName(old, "name", typed))}
      />
      <Cell
        showLabel
        label="Maker"
        most={120}
        value={study.study.maker}
        onCommit={(typed) => change((old) => withName(old, "maker", typed))}
      />
      <Select
        showLabel
        label="Label from"
        value={study.study.region}
        options={REGIONS}
        onChoose={(region) => change((old) => withRegion(old, region))}
      />
      <Cell
        showLabel
        label="Net weight of the pack"
        placeholder="42 g or 1.5 oz"
        value={label?.net_weight ?? ""}
        unit="g"
        {...told(reading.net_weight)}
        onCommit={(typed) => change((old) => withLabelField(old, "net_weight", typed))}
      />
      <Cell
        showLabel
        label="Pieces in the pack"
        placeholder="1"
        value={label?.pieces_per_pack ?? ""}
        {...told(reading.pieces_per_pack)}
        onCommit={(typed) => change((old) => withLabelField(old, "pieces_per_pack", typed))}
      />
      <Cell
        showLabel
        label="One serving"
        placeholder="grams, if it says"
        value={label?.serving ?? ""}
        unit="g"
        {...told(reading.serving)}
        onCommit={(typed) => change((old) => withLabelField(old, "serving", typed))}
      />
      <Cell
        showLabel
        label="Servings in the pack"
        placeholder="if it says, about 2.5"
        value={label?.servings ?? ""}
        {...told(reading.servings)}
        onCommit={(typed) => change((old) => withLabelField(old, "servings", typed))}
      />
      <Cell
        showLabel
        label="Shop price of the pack"
        placeholder="to compare costs"
        value={label?.price ?? ""}
        {...told(reading.price)}
        onCommit={(typed) => change((old) => withLabelField(old, "price", typed))}
      />
    </div>
  );
}

function PanelTable() {
  const { study, change } = useMatch();
  const basis = study.study.label?.basis ?? "100 g";
  const others = study.reading.rows.some((row) => row.other_typed);
  const [second, setSecond] = useState(false);
  const two = second || others;
  return (
    <div>
      <div className="mb-2 flex items-baseline justify-between gap-4">
        <h2 className="text-lg">Nutrition, as printed</h2>
        <span className="text-sm text-ink-2">
          Figures are per{" "}
          <Select
            className=""
            label="Figures are per"
            value={basis}
            options={[
              ["100 g", "100 g"],
              ["serving", "serving"],
            ]}
            onChoose={(chosen) => change((old) => withBasis(old, chosen))}
          />
        </span>
      </div>
      <PastePanel />
      <table className="w-full" data-cells>
        <thead>
          <tr className="border-b border-line text-left text-sm text-ink-2">
            <th className="py-1 font-normal">Row</th>
            <th className="w-32 py-1 text-right font-normal">per {basis}</th>
            {two && (
              <th className="w-32 py-1 text-right font-normal">
                per {basis === "100 g" ? "serving" : "100 g"}
              </th>
            )}
            <th className="w-52 py-1 pl-4 font-normal">
              {two ? (
                "Stands for, per " + basis
              ) : (
                <span className="flex justify-between">
                  Stands for
                  <Button look="bare" onClick={() => setSecond(true)}>
                    a second column
                  </Button>
                </span>
              )}
            </th>
          </tr>
        </thead>
        <tbody>
          {study.reading.rows.map((row) => (
            <PanelLine key={row.row} row={row} two={two} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function PanelLine({ row, two }: { row: PanelRow; two: boolean }) {
  const { study, change } = useMatch();
  const label = study.study.label;
  const problem = row.problem ?? row.other_problem;
  return (
    <tr className="border-b border-line/60 align-top">
      <td className={`py-1 ${row.is_part ? "pl-4 text-ink-2" : ""}`}>{row.title}</td>
      <td className="py-0.5">
        <Cell
          label={`${row.title}, declared`}
          value={label?.rows?.[row.row] ?? ""}
          unit={row.unit}
          align="right"
          onCommit={(typed) => change((old) => withRow(old, row.row, typed))}
        />
      </td>
      {two && (
        <td className="py-0.5 pl-2">
          <Cell
            label={`${row.title}, other column`}
            value={label?.other_rows?.[row.row] ?? ""}
            unit={row.unit}
            align="right"
            onCommit={(typed) => change((old) => withRow(old, row.row, typed, "other_rows"))}
          />
        </td>
      )}
      <td className="py-1 pl-4 text-sm text-ink-2">
        {problem ? (
          <span className="text-amber-ink">{problem}</span>
        ) : row.low !== null && row.high !== null ? (
          `${interval(row.low, row.high)} ${row.unit}`
        ) : (
          ""
        )}
      </td>
    </tr>
  );
}

/** A whole panel, pasted: its rows fill the table; what was typed for rows it does not name stays. */
function PastePanel() {
  const { matchId, change } = useMatch();
  const { draft: text, write: setText } = useTyping("panel");
  const reading = useMutation({
    mutationFn: (pasted: string) => readPanel(matchId, pasted),
    onSuccess: (panel) => {
      if (Object.keys(panel.rows).length === 0) return;
      change((old) => withPanel(old, panel));
      setText(null);
    },
  });
  if (text === null) {
    return (
      <Button look="bare" className="mb-2 text-sm" onClick={() => setText("")}>
        Paste the whole panel as text
      </Button>
    );
  }
  const nothing = reading.data && Object.keys(reading.data.rows).length === 0;
  return (
    <div className="mb-3 space-y-2">
      <textarea
        autoFocus
        aria-label="The whole panel, pasted"
        className="block min-h-24 w-full rounded border border-line bg-card px-2 py-1.5"
        maxLength={20000}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {(reading.error || nothing) && (
        <Notice>
          {reading.error?.message ?? "No row of this region’s panel was found in it. Is the region right?"}
        </Notice>
      )}
      <p className="flex gap-2">
        <Button disabled={!text.trim() || reading.isPending} onClick={() => reading.mutate(text)}>
          Fill the rows
        </Button>
        <Button look="bare" onClick={() => setText(null)}>
          Never mind
        </Button>
      </p>
    </div>
  );
}
