import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Region } from "../api/types";
import { Button, Notice } from "../ui/Parts";
import { REGIONS } from "../ui/regions";
import { Select } from "../ui/Select";
import { Sheet } from "../ui/Sheet";
import { addFromPacket, packetRowsQuery } from "./pantryApi";

interface PacketSheetProps {
  name: string;
  onClose: () => void;
  onAdded: (id: string) => void;
}

const FIELD = "rounded border border-line bg-card px-2 py-1";

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
          <label className="block">
            <span className="block text-sm text-ink-2">Name</span>
            <input
              className={`w-full ${FIELD}`}
              value={called}
              maxLength={120}
              onChange={(event) => setCalled(event.target.value)}
            />
          </label>
          <Select showLabel label="Label from" value={region} options={REGIONS} onChoose={setRegion} />
          <label className="block">
            <span className="block text-sm text-ink-2">Figures are for</span>
            <input
              className={`w-full ${FIELD}`}
              value={serving}
              placeholder="100 g"
              maxLength={60}
              onChange={(event) => setServing(event.target.value)}
            />
          </label>
        </div>
        <div className="grid grid-cols-2 gap-x-4 gap-y-2">
          {asked?.map(({ row, title, unit }) => (
            <label key={row} className="flex items-center justify-between gap-2">
              <span className="text-sm">
                {title} <span className="text-ink-2">{unit}</span>
              </span>
              <input
                className={`w-24 text-right ${FIELD}`}
                inputMode="decimal"
                value={rows[row] ?? ""}
                maxLength={60}
                onChange={(event) => setRows({ ...rows, [row]: event.target.value })}
              />
            </label>
          ))}
        </div>
        <label className="mt-3 block">
          <span className="block text-sm text-ink-2">
            Its ingredient statement, if you like: it tells kinds of fat and sugar, and allergens
          </span>
          <textarea
            className={`h-24 w-full ${FIELD}`}
            value={statement}
            maxLength={5000}
            onChange={(event) => setStatement(event.target.value)}
          />
        </label>
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
