/** Options by how well they fit what is typed. */

export interface Option {
  id: string;
  name: string;
  note?: string;
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
    .map((option) => ({ option, name: option.name.toLowerCase() }))
    .filter(({ name }) => words.every((word) => name.includes(word)))
    .sort((a, b) => rank(a.name, wanted) - rank(b.name, wanted))
    .slice(0, MOST_SHOWN)
    .map(({ option }) => option);
}

function rank(name: string, wanted: string): number {
  if (name === wanted) return 0;
  if (name.startsWith(wanted)) return /^[\s,(]/.test(name.slice(wanted.length)) ? 1 : 2;
  return name.split(/[\s,(/-]+/).some((word) => word.startsWith(wanted)) ? 3 : 4;
}
