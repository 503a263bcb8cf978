import { useMatch } from "../app/match";
import type { PanelRow } from "../api/types";
import { Cell, told } from "../ui/Cell";
import { interval } from "../ui/figures";
import { REGIONS } from "../ui/regions";
import { Select } from "../ui/Select";
import { withBasis, withLabelField, withName, withRegion, withRow } from "./edits";

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
    </div>
  );
}

function PanelTable() {
  const { study, change } = useMatch();
  const basis = study.study.label?.basis ?? "100 g";
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
      <table className="w-full" data-cells>
        <thead>
          <tr className="border-b border-line text-left text-sm text-ink-2">
            <th className="py-1 font-normal">Row</th>
            <th className="w-32 py-1 text-right font-normal">Declared</th>
            <th className="w-56 py-1 pl-4 font-normal">Stands for</th>
          </tr>
        </thead>
        <tbody>
          {study.reading.rows.map((row) => (
            <PanelLine
              key={row.row}
              row={row}
              typed={study.study.label?.rows?.[row.row] ?? ""}
              onCommit={(typed) => change((old) => withRow(old, row.row, typed))}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function PanelLine({
  row,
  typed,
  onCommit,
}: {
  row: PanelRow;
  typed: string;
  onCommit: (typed: string) => void;
}) {
  return (
    <tr className="border-b border-line/60 align-top">
      <td className={`py-1 ${row.is_part ? "pl-4 text-ink-2" : ""}`}>{row.title}</td>
      <td className="py-0.5">
        <Cell
          label={`${row.title}, declared`}
          value={typed}
          unit={row.unit}
          align="right"
          onCommit={onCommit}
        />
      </td>
      <td className="py-1 pl-4 text-sm text-ink-2">
        {row.problem ? (
          <span className="text-amber-ink">{row.problem}</span>
        ) : row.low !== null && row.high !== null ? (
          `${interval(row.low, row.high)} ${row.unit}`
        ) : (
          ""
        )}
      </td>
    </tr>
  );
}
