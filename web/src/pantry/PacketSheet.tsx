import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Region } from "../api/types";
import { Button, Notice } from "../ui/Parts";
import { REGIONS } from "../ui/regions";
import { Select } from "../ui/Select";
import { Sheet } from "../ui/Sheet";
import { Field, PanelFields, TextField } from "../house/PacketFields";
import { addFromPacket, packetRowsQuery } from "./pantryApi";

interface PacketSheetProps {
  name: string;
  onClose: () => void;
  onAdded: (id: string) => void;
}

/** An ingredient from what its packet says: the panel, and the statement where there is one. */
export function PacketSheet({ name, onClose, onAdded }: PacketSheetProps) {
  const [called, setCalled] = useState(name);
  const [region, setRegion] = useState<Region>("EU");
  const [serving, setServing] = useState("");
  const [statement, setStatement] = useState("");
  const [rows, setRows] = useState<Record<string, string>>({});
  const { data: asked } = useQuery(packetRowsQuery(region));
  const adding = useMutation({
    mutationFn: () => addFromPacket({ name: called, region, serving, rows, statement }),
    onSuccess: ({ ids }) => onAdded(ids[0] ?? ""),
  });
  return (
    <Sheet title="An ingredient from its packet" open onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          adding.mutate();
        }}
      >
        <div className="mb-3 grid grid-cols-[1fr_8rem_8rem] gap-3">
          <Field label="Name" value={called} most={120} onChange={setCalled} />
          <Select showLabel label="Label from" value={region} options={REGIONS} onChoose={setRegion} />
          <Field label="Figures are for" value={serving} placeholder="100 g" onChange={setServing} />
        </div>
        <p className="mb-2 text-sm text-ink-2">
          What the packet does not say is not known; type 0 where it says none.
        </p>
        {asked && <PanelFields asked={asked} rows={rows} onChange={setRows} />}
        <TextField
          label="Its ingredient statement, if you like: it tells kinds of fat and sugar, and allergens"
          value={statement}
          onChange={setStatement}
        />
        {adding.error && (
          <div role="alert" className="mt-3">
            <Notice>{adding.error.message}</Notice>
          </div>
        )}
        <p className="mt-4">
          <Button look="main" type="submit" disabled={adding.isPending}>
            Add it
          </Button>
        </p>
      </form>
    </Sheet>
  );
}
