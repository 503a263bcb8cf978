import { freshId } from "../app/ids";
import type { Trial } from "../api/types";
import { Cell, told } from "../ui/Cell";
import { Button } from "../ui/Parts";
import { Select } from "../ui/Select";
import type { PartProps } from "./BesidePart";
import { cellAt, typedAt, withTyped, type Change } from "./trialsApi";
import { useState } from "react";

type Day = NonNullable<Trial["days"]>[number];
const KEPT: readonly Day["kept"][] = ["as made", "less good", "no longer good"];

/** What came of the batch beside its plan, and how pieces keep. */
export function MadePart({ trial, typed, change }: PartProps) {
  return (
    <div className="grid gap-x-10 gap-y-6 min-[1200px]:grid-cols-2">
      <div className="space-y-6">
        <section aria-label="Pieces" className="grid grid-cols-2 gap-3">
          <Plain label="Name" value={typed.name} onCommit={(name) => change((old) => ({ ...old, name }))} />
          <Plain
            label="Tried on"
            value={typed.tried_on}
            onCommit={(tried_on) => change((old) => ({ ...old, tried_on }))}
          />
          <Cell
            showLabel
            label={`Pieces that came out${trial.planned.made ? `, ${trial.planned.made} planned` : ""}`}
            value={typed.made}
            onCommit={(made) => change((old) => ({ ...old, made }))}
            {...told(trial.cells.made)}
          />
          <Cell
            showLabel
            label="Of them whole"
            value={typed.whole}
            onCommit={(whole) => change((old) => ({ ...old, whole }))}
            {...told(trial.cells.whole)}
          />
        </section>
        <section aria-label="What came out">
          <h2 className="mb-1 text-base">What came out, layer by layer</h2>
          <table className="w-full border-collapse">
            <thead className="text-left text-sm text-ink-2">
              <tr className="border-b border-line">
                <th className="py-1 font-normal">Layer</th>
                <th className="py-1 font-normal">All of it, in its bowl (plan)</th>
                <th className="py-1 pl-3 font-normal">Left on tools (plan)</th>
              </tr>
            </thead>
            <tbody>
              {trial.weighable.map((layer) => (
                <tr key={layer.id} className="border-b border-line/60">
                  <th scope="row" className="py-1 pr-2 text-left font-normal">
                    {layer.name}
                  </th>
                  {(["came_out", "left"] as const).map((name) => (
                    <td key={name} className={name === "left" ? "py-1 pl-3" : "py-1"}>
                      <Cell
                        label={`${layer.name}, ${name === "left" ? "left on tools" : "came out"}`}
                        value={typedAt(typed, `${name}.${layer.id}`)}
                        placeholder={trial.planned[`${name}.${layer.id}`]}
                        align="right"
                        onCommit={(value) => change((old) => withTyped(old, `${name}.${layer.id}`, value))}
                        {...told(cellAt(trial, `${name}.${layer.id}`))}
                      />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <WentIn trial={trial} typed={typed} change={change} />
      </div>
      <Keeping trial={trial} typed={typed} change={change} />
    </div>
  );
}

function Plain(props: { label: string; value: string; onCommit: (typed: string) => void }) {
  return <Cell showLabel {...props} />;
}

/** Lines of which another amount went in than planned. */
function WentIn({ trial, typed, change }: PartProps) {
  const [open, setOpen] = useState<readonly string[]>([]);
  const shown = trial.lines.filter((one) => typed.went_in?.[one.id] !== undefined || open.includes(one.id));
  const others = trial.lines.filter((one) => !shown.includes(one));
  return (
    <section aria-label="What went in otherwise">
      <h2 className="mb-1 text-base">What went in otherwise</h2>
      <p className="mb-2 text-sm text-ink-2">
        What was logged at the stove counts by itself; here only what was not, or was remembered later.
      </p>
      <div className="space-y-2">
        {shown.map((one) => (
          <Cell
            key={one.id}
            showLabel
            label={`${one.name}, ${trial.planned[`went_in.${one.id}`] ?? ""} planned`}
            value={typed.went_in?.[one.id] ?? ""}
            arrives={open.at(-1) === one.id}
            onCommit={(value) => change((old) => withTyped(old, `went_in.${one.id}`, value))}
            {...told(cellAt(trial, `went_in.${one.id}`))}
          />
        ))}
      </div>
      <Select
        label="Another line"
        value=""
        empty="Add a line …"
        className="mt-2 max-w-full"
        options={others.map((one) => [one.id, one.name] as const)}
        onChoose={(id) => id && setOpen([...open, id])}
      />
    </section>
  );
}

/** How pieces are after some days, beside what their water says. */
function Keeping({ trial, typed, change }: PartProps) {
  const days = typed.days;
  const add = () => {
    const day: Day = { id: freshId("day"), days: "", kept: "as made", where: "", words: "" };
    change((old) => ({ ...old, days: [...old.days, day] }));
  };
  return (
    <section aria-label="Keeping">
      <h2 className="mb-1 text-base">How it keeps</h2>
      {trial.keeping.advice.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
      {trial.keeping.seen && <p className="font-semibold">{trial.keeping.seen}</p>}
      <p className="mb-3 text-sm text-ink-2">{trial.keeping.caution}</p>
      <div className="space-y-3">
        {days.map((day) => (
          <DayRow key={day.id} day={day} trial={trial} change={change} />
        ))}
      </div>
      <Button className="mt-2" onClick={add}>
        Look at a piece after some days
      </Button>
    </section>
  );
}

function DayRow({ day, trial, change }: { day: Day; trial: PartProps["trial"]; change: Change }) {
  const set = (part: Partial<Day>) =>
    change((old) => ({
      ...old,
      days: old.days.map((one) => (one.id === day.id ? { ...one, ...part } : one)),
    }));
  const remove = () => change((old) => ({ ...old, days: old.days.filter((one) => one.id !== day.id) }));
  return (
    <div className="grid grid-cols-[5.5rem_9rem_minmax(0,1fr)_auto] border-b border-line/60 pb-3 items-end gap-2">
      <Cell
        showLabel
        label="After days"
        value={day.days}
        onCommit={(value) => set({ days: value })}
        {...told(trial.cells[`days.${day.id}`])}
      />
      <Select
        showLabel
        label="It was"
        value={day.kept}
        options={KEPT.map((one) => [one, one] as const)}
        onChoose={(kept) => set({ kept })}
      />
      <Cell
        showLabel
        label="Kept in"
        value={day.where}
        placeholder="tin, 17 °C"
        onCommit={(value) => set({ where: value })}
      />
      <Button look="bare" aria-label={`Take out the look after ${day.days || "some"} days`} onClick={remove}>
        ×
      </Button>
      <Cell
        className="col-span-4"
        label={`What was seen after ${day.days || "some"} days`}
        value={day.words}
        placeholder="what was seen"
        most={2000}
        onCommit={(value) => set({ words: value })}
      />
    </div>
  );
}
