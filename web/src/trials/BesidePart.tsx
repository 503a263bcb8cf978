import { useMatch } from "../app/match";
import type { ComparedThing, Trial, TrialOut } from "../api/types";
import { CutFaceDrawing } from "../frame/CutFaceDrawing";
import { usePointable } from "../frame/pointing";
import { Cell, told } from "../ui/Cell";
import { OffBar } from "./OffBar";
import { PhotosPart } from "./PhotosPart";
import { cellAt, typedAt, withTyped, type Change } from "./trialsApi";

export interface PartProps {
  trial: TrialOut;
  typed: Trial;
  change: Change;
}

const GROUPS: readonly { id: ComparedThing["group"]; title: string; note: string }[] = [
  { id: "weight", title: "Weight", note: "several readings in one field: 41.8 42.3 40.9" },
  { id: "size", title: "Size", note: "in mm" },
  { id: "label", title: "Label", note: "worked out from what went in and what the layers weigh" },
  { id: "senses", title: "Senses", note: "from the score sheets, 0 to 10" },
];

/** Original and copy side by side: what each weighs, measures, holds and tastes like, and what lies between. */
export function BesidePart({ trial, typed, change }: PartProps) {
  return (
    <div className="grid gap-x-6 gap-y-4 min-[1200px]:grid-cols-[minmax(0,1fr)_250px]">
      <div>
        {GROUPS.map((group) => {
          const rows = trial.compared.filter((one) => one.group === group.id);
          if (!rows.length) return null;
          return (
            <table key={group.id} className="mb-4 w-full table-fixed border-collapse">
              <caption className="pb-1 text-left">
                <span className="font-head text-base font-semibold">{group.title}</span>{" "}
                <span className="text-sm text-ink-2">{group.note}</span>
              </caption>
              <colgroup>
                <col className="w-[18%]" />
                <col className="w-[13%]" />
                <col className="w-[30%]" />
                <col className="w-[15%]" />
                <col />
              </colgroup>
              <thead className="text-left text-sm text-ink-2">
                <tr className="border-b border-line">
                  <th className="py-1 font-normal">{group.id === "senses" ? "Line" : "What"}</th>
                  <th className="py-1 pr-3 text-right font-normal">Original</th>
                  <th className="py-1 pr-3 text-right font-normal">Copy</th>
                  <th className="py-1 font-normal">Less · · · more</th>
                  <th className="py-1 pl-3 font-normal">Between them</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((one) => (
                  <ComparedRow key={one.id} one={one} trial={trial} typed={typed} change={change} />
                ))}
              </tbody>
            </table>
          );
        })}
        <p className="text-sm text-ink-2">
          The pale field is what an eater would not notice. A difference is told only where its 90 % range
          leaves out none at all.
        </p>
        <PhotosPart trialId={trial.trial.id} />
      </div>
      <Halves trial={trial} />
    </div>
  );
}

function ComparedRow({ one, trial, typed, change }: PartProps & { one: ComparedThing }) {
  const pointable = usePointable(one.layer_id || "none");
  return (
    <tr className="border-b border-line/60 align-top data-pointed:bg-fern-100/60" {...pointable}>
      <th scope="row" className="py-1.5 pr-2 text-left font-normal">
        {one.title}
      </th>
      <td className="py-1.5 pr-3 text-right">
        {one.original || <span className="text-ink-2">not known</span>}
        {one.from_original && <span className="block text-xs text-ink-2">{one.from_original}</span>}
      </td>
      <td className="py-1 pr-3 text-right">
        {one.field ? (
          <Cell
            label={`${one.title}, copy`}
            value={typedAt(typed, one.field)}
            align="right"
            placeholder="not read"
            onCommit={(value) => change((old) => withTyped(old, one.field, value))}
            {...told(cellAt(trial, one.field))}
          />
        ) : (
          <span className="block py-0.5">
            {one.copy_is || <span className="text-ink-2">not known</span>}
            {one.from_copy && <span className="block text-xs text-ink-2">{one.from_copy}</span>}
          </span>
        )}
      </td>
      <td className="py-2">
        {one.off !== null && one.off_low !== null && one.off_high !== null && (
          <OffBar
            off={one.off}
            low={one.off_low}
            high={one.off_high}
            isTold={one.is_told}
            label={`${one.title}: ${one.apart}`}
          />
        )}
      </td>
      <td className={`py-1.5 pl-3 text-sm leading-tight ${one.is_told ? "font-semibold" : "text-ink-2"}`}>
        {one.apart}
      </td>
    </tr>
  );
}

/** Original and copy as two halves of one piece, the copy as heavy as it was weighed. */
function Halves({ trial }: { trial: TrialOut }) {
  const { frame, estimate, picked, pick } = useMatch();
  if (!trial.copy_face) return null;
  const drawing = { layers: frame.layers, picked, onPick: pick };
  return (
    <aside aria-label="Original and copy" className="[&_svg]:max-w-full">
      <div className="flex items-end justify-center gap-px">
        {estimate && <CutFaceDrawing face={estimate.slice} half="left" {...drawing} />}
        <CutFaceDrawing
          face={trial.copy_face}
          {...(estimate ? { half: "right" as const } : {})}
          {...drawing}
        />
      </div>
      <p className="mt-1 flex justify-around text-sm text-ink-2">
        {estimate && <span>original</span>}
        <span>copy, as weighed</span>
      </p>
    </aside>
  );
}
