const nameOf = (tab: string) => `vast-surge.tab.${tab}`;

/** Takes the lock of a tab's name for as long as the page lives. @returns whether it was free */
const claim = (tab: string): Promise<boolean> =>
  new Promise((resolve, reject) => {
    navigator.locks
      .request(nameOf(tab), { ifAvailable: true }, (lock) => {
        resolve(lock !== null);
        return lock ? new Promise<never>(() => undefined) : undefined;
      })
      .catch(reject);
  });

/**
 * A name for this tab that survives a reload and that no other open tab has: a duplicated tab, which starts with a copy
 * of the first one's session, gets a name of its own.
 */
export async function claimTab(): Promise<string> {
  const key = 'vast-surge.tab';
  const before = sessionStorage.getItem(key);
  if (before !== null && (await claim(before))) return before;
  const made = crypto.randomUUID();
  await claim(made);
  sessionStorage.setItem(key, made);
  return made;
}

/** Names of the tabs that are open now. What was kept by any other belongs to nobody and may be taken over. */
export async function openTabs(): Promise<Set<string>> {
  const { held = [] } = await navigator.locks.query();
  const prefix = nameOf('');
  return new Set(held.flatMap(({ name }) => (name?.startsWith(prefix) ? [name.slice(prefix.length)] : [])));
}
