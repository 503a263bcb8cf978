import { useState } from "react";
import { useMatch } from "../app/match";
import { useAct } from "../app/act";
import { Field, PanelFields } from "../house/PacketFields";
import { Button, Notice } from "../ui/Parts";
import { Sheet } from "../ui/Sheet";
import { addIngredient } from "./studyApi";

/** A name outside the pantry becomes an ingredient of this match, from the panel on its packet. */
export function OwnIngredient({ item, name, onDone }: { item: string; name: string; onDone: () => void }) {
  const { matchId, study } = useMatch();
  const [called, setCalled] = useState(name);
  const [serving, setServing] = useState("");
  const [rows, setRows] = useState<Record<string, string>>({});
  const asked = study.reading.rows.filter((row) => study.reading.packet_rows.includes(row.row));
  const adding = useAct(
    matchId,
    (revision) => addIngredient(matchId, { revision, item, name: called, serving, rows }),
    { then: onDone },
  );
  return (
    <Sheet title={`“${name}”, from its packet`} open onClose={onDone}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          adding.mutate();
        }}
      >
        <p className="mb-3 text-ink-2">
          As its own panel prints it. What the packet does not say is not known; type 0 where it says none.
          What is left of 100 g counts as water.
        </p>
        <div className="mb-3 grid grid-cols-[1fr_9rem] gap-3">
          <Field label="Name" value={called} most={120} onChange={setCalled} />
          <Field label="Figures are for" value={serving} placeholder="100 g" onChange={setServing} />
        </div>
        <PanelFields asked={asked} rows={rows} onChange={setRows} />
        {adding.error && (
          <div role="alert" className="mt-3">
            <Notice>{adding.error.message}</Notice>
          </div>
        )}
        <p className="mt-4">
          <Button look="main" type="submit" disabled={adding.isPending}>
            Add and take it
          </Button>
        </p>
      </form>
    </Sheet>
  );
}
