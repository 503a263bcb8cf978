/** A box to tick on paper. */
export function Tick() {
  return (
    <span
      aria-hidden
      className="mr-2 hidden size-3.5 rounded-sm border border-ink align-[-2px] print:inline-block"
    />
  );
}
