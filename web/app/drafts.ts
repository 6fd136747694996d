const key = (id: string) => `vast-surge.drafts.${id}`;

/** Text that could not yet be read, kept for this tab so that a reload does not lose it. */
export function keepDrafts(id: string, drafts: Readonly<Record<string, string>>): void {
  if (Object.keys(drafts).length === 0) sessionStorage.removeItem(key(id));
  else sessionStorage.setItem(key(id), JSON.stringify(drafts));
}

export function keptDrafts(id: string): Record<string, string> {
  try {
    const kept: unknown = JSON.parse(sessionStorage.getItem(key(id)) ?? '{}');
    const entries = typeof kept === 'object' && kept !== null ? Object.entries(kept) : [];
    return Object.fromEntries(entries.filter((entry): entry is [string, string] => typeof entry[1] === 'string'));
  } catch {
    return {};
  }
}
