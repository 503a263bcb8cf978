import type { BatchCard } from "../api/types";
import { Cell } from "../ui/Cell";

/** For whoever gets a piece: what is in it, allergens, the day it was made, how to keep it. */
export function PieceCard({
  card,
  onMadeOn,
}: {
  card: BatchCard;
  onMadeOn?: ((typed: string) => void) | undefined;
}) {
  return (
    <section
      aria-label={card.lot ? `Card for whoever gets a piece, ${card.lot}` : "Card for whoever gets a piece"}
      className="mt-6 max-w-xl break-inside-avoid rounded-lg border-2 border-dashed border-line bg-card px-4 py-3 print:mt-2 print:max-w-none print:py-1 print:text-[11px]"
    >
      <h2 className="text-lg">
        {card.name}
        {card.lot && `: ${card.lot.toLowerCase()}`}
        {card.mark && <span className="font-normal text-ink-2">, {card.mark}</span>}
      </h2>
      <p className="text-sm text-ink-2">
        Made at home, {card.weighs}
        {card.made_on && <span>, on {card.made_on}</span>}.
      </p>
      <p className="mt-2 print:mt-0.5">{card.ingredients}.</p>
      <p className="mt-2 font-semibold print:mt-0.5">{card.allergens}</p>
      {card.mind && <p className="mt-1">{card.mind}</p>}
      {card.keeping && <p className="mt-1 text-sm text-ink-2">{card.keeping}</p>}
      {onMadeOn && (
        <div className="no-print mt-3 w-48" data-cells>
          <Cell
            showLabel
            label="Made on"
            value={card.made_on}
            placeholder="30 November"
            onCommit={onMadeOn}
          />
        </div>
      )}
    </section>
  );
}
