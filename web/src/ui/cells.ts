/** Moving between the fields of a table as in a spreadsheet: rows are table rows, or single fields where there are none. */

export type Direction = "up" | "down" | "left" | "right";

/** The field next to one in its table; null at the edge. */
export function neighbour(input: HTMLInputElement, direction: Direction): HTMLInputElement | null {
  const group = input.closest("[data-cells]");
  if (!group) return null;
  const rows = rowsOf(group);
  const at = rows.findIndex((row) => row.includes(input));
  const row = rows[at] ?? [];
  const column = row.indexOf(input);
  if (direction === "left" || direction === "right") {
    return row[column + (direction === "right" ? 1 : -1)] ?? null;
  }
  const next = rows[at + (direction === "down" ? 1 : -1)];
  return next ? (next[Math.min(column, next.length - 1)] ?? null) : null;
}

function rowsOf(group: Element): HTMLInputElement[][] {
  const rows = new Map<Element, HTMLInputElement[]>();
  for (const cell of group.querySelectorAll<HTMLInputElement>("input[data-cell]")) {
    const row = cell.closest("tr") ?? cell;
    rows.set(row, [...(rows.get(row) ?? []), cell]);
  }
  return [...rows.values()];
}
