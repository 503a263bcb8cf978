/** Options by how well they fit what is typed. */

export interface Option {
  id: string;
  name: string;
  note?: string;
  /** What else it is called: found by, not shown. */
  also?: readonly string[];
}

const MOST_SHOWN = 60;

/** The best first: the whole name, then names that begin so, then names with a word that does, then the rest that hold it. With
 * nothing typed the chosen one comes first, so that taking it changes nothing. */
export function ranked(options: readonly Option[], query: string, chosen: string | null): readonly Option[] {
  const wanted = query.trim().toLowerCase();
  if (!wanted) {
    const present = options.filter((option) => option.id === chosen);
    return [...present, ...options.filter((option) => option.id !== chosen)].slice(0, MOST_SHOWN);
  }
  const words = wanted.split(/\s+/);
  return options
    .map((option) => ({ option, place: place(option, wanted, words) }))
    .filter(({ place }) => place < NOWHERE)
    .sort((a, b) => a.place - b.place)
    .slice(0, MOST_SHOWN)
    .map(({ option }) => option);
}

const NOWHERE = 99;

/** Its own name counts first, then what else it is called, word by word. */
function place(option: Option, wanted: string, words: readonly string[]): number {
  const name = option.name.toLowerCase();
  const holds = (text: string) => words.every((word) => text.includes(word));
  const own = holds(name) ? rank(name, wanted) : NOWHERE;
  const others = (option.also ?? []).map((other) => other.toLowerCase()).filter(holds);
  const other = Math.min(NOWHERE, ...others.map((text) => rank(text, wanted) + 0.5));
  return Math.min(own, other);
}

function rank(name: string, wanted: string): number {
  if (name === wanted) return 0;
  if (name.startsWith(wanted)) return /^[\s,(]/.test(name.slice(wanted.length)) ? 1 : 2;
  return name.split(/[\s,(/-]+/).some((word) => word.startsWith(wanted)) ? 3 : 4;
}
