/** One thing the finder leads to. */
export interface Entry {
  readonly id: string;
  readonly title: string;
  readonly detail?: string;
  /** Words it is found by beside its title. */
  readonly words?: readonly string[];
  act(): void;
}

/** What is found under one heading, the best first. */
export interface Found {
  readonly heading: string;
  readonly entries: readonly Entry[];
}

/** What tells an entry from all others of the list: two headings may hold the same id. */
export const valueOf = (heading: string, entry: Entry): string => `${heading} ${entry.id}`;

/** Every word must stand in what an entry is found by; an entry whose title begins with the first comes first. */
function rank(words: readonly string[], entry: Entry): number {
  const title = entry.title.toLowerCase();
  const text = [entry.title, ...(entry.words ?? [])].join(' ').toLowerCase();
  const [first = ''] = words;
  if (!words.every((word) => text.includes(word))) return 0;
  return title.startsWith(first) ? 1 : words.every((word) => title.includes(word)) ? 0.8 : 0.5;
}

/** The groups with what has all the words of `search`, best entry and best group first, otherwise in their own order. */
export function foundBy(search: string, groups: readonly Found[]): Found[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  return groups
    .map(({ heading, entries }) => {
      const ranked = entries.map((entry) => ({ entry, rank: rank(words, entry) })).filter(({ rank }) => rank > 0);
      ranked.sort((a, b) => b.rank - a.rank);
      return { heading, best: ranked[0]?.rank ?? 0, entries: ranked.map(({ entry }) => entry) };
    })
    .filter(({ best }) => best > 0)
    .sort((a, b) => b.best - a.best);
}
