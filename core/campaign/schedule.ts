/** Shots laid into the hours that people have. Times in s; moments in ms since 1970, for the core has no clock. */

/** Hours that are set aside. */
export interface Session {
  readonly start: number;
  readonly seconds: number;
  /** Who is there, and who does what. */
  readonly people?: string;
}

/** What a shot takes. */
export interface Work<T> {
  readonly of: T;
  /** From the strap off to the strap on, with charge, waits and bleed. */
  readonly seconds: number;
  /** Before it, where it is set otherwise than the one before. */
  readonly change: number;
  /** Whether two of them are set alike. */
  readonly setting: string;
}

export interface Booked<T> {
  readonly of: T;
  readonly start: number;
  readonly end: number;
  /** It is set otherwise than the shot before it in this session. */
  readonly changes: boolean;
}

export interface Schedule<T> {
  readonly sessions: readonly { readonly session: Session; readonly shots: readonly Booked<T>[]; readonly free: number }[];
  /** What no session has room for, in the order in which it would have come. */
  readonly dropped: readonly T[];
}

/**
 * Lays shots into sessions in their order: each session begins with what has to be prepared and ends with what has to be handed over, and a
 * shot that would not be strapped before its end is left to the next one.
 *
 * @param around s before the first shot of a session and after its last
 */
export function schedule<T>(
  work: readonly Work<T>[],
  sessions: readonly Session[],
  around: { readonly before: number; readonly after: number },
): Schedule<T> {
  const left = [...work];
  const made = [...sessions]
    .sort((a, b) => a.start - b.start)
    .map((session) => {
      const end = session.start + 1000 * (session.seconds - around.after);
      let at = session.start + 1000 * around.before;
      let set: string | null = null;
      const shots: Booked<T>[] = [];
      for (let next = left[0]; next; next = left[0]) {
        const changes = set !== null && next.setting !== set;
        const start = at + (changes || set === null ? 1000 * next.change : 0);
        const done = start + 1000 * next.seconds;
        if (done > end) break;
        shots.push({ of: next.of, start, end: done, changes });
        at = done;
        set = next.setting;
        left.shift();
      }
      return { session, shots, free: Math.max(0, (end - at) / 1000) };
    });
  return { sessions: made, dropped: left.map(({ of }) => of) };
}
