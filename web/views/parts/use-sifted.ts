import { useEffect, useMemo, useState } from 'react';
import type { SortingState } from '@tanstack/react-table';
import type { StoredPart } from '@vast-surge/contract';
import { mainValueOf, readFilter, valuesKept, voltageOf } from '@vast-surge/core/part';

export interface Narrowing {
  readonly text: string;
  readonly kind: string;
  readonly condition: string;
  readonly lot: string;
}

type LotNames = ReadonlyMap<string, string>;
type Test = (stored: StoredPart) => boolean;

/** Whether a part is asked for; or why the filter is none. */
function testOf(lotNames: LotNames, { text, kind, condition, lot }: Narrowing): Test | { readonly reason: string } {
  const filter = readFilter(text);
  if (!filter.ok) return { reason: filter.reason };
  return ({ part }) =>
    (kind === '' || part.kind === kind) &&
    (condition === '' || part.condition === condition) &&
    (lot === '' || part.lot === lot) &&
    filter.test(part, part.lot === null ? '' : (lotNames.get(part.lot) ?? ''));
}

/** The parts that are asked for by now, at once. */
export function sifted(parts: readonly StoredPart[], lotNames: LotNames, narrowing: Narrowing): readonly StoredPart[] {
  const test = testOf(lotNames, narrowing);
  return typeof test === 'function' ? parts.filter(test) : parts;
}

/** Work of one slice, ms: well within a frame, so that what is typed is never waited for. */
const slice = 8;

/** Goes over a long list a slice at a time. @returns a function that breaks it off */
function inSlices<T>(items: readonly T[], each: (item: T) => void, done: () => void): () => void {
  let at = 0;
  let timer: ReturnType<typeof setTimeout>;
  const step = () => {
    const until = performance.now() + slice;
    while (at < items.length && performance.now() < until) {
      const item = items[at];
      if (item !== undefined) each(item);
      at += 1;
    }
    if (at < items.length) timer = setTimeout(step);
    else done();
  };
  step();
  return () => clearTimeout(timer);
}

/** The parts that are asked for, and why the filter is none; then all of them. Of a long shelf they come a few frames after the key. */
export function useSifted(
  parts: readonly StoredPart[],
  lotNames: LotNames,
  narrowing: Narrowing,
): { found: readonly StoredPart[]; reason: string | null } {
  const [found, setFound] = useState<readonly StoredPart[]>(parts);
  const test = useMemo(() => testOf(lotNames, narrowing), [lotNames, narrowing]);
  useEffect(() => {
    if (typeof test !== 'function') {
      const timer = setTimeout(() => setFound(parts));
      return () => clearTimeout(timer);
    }
    const next: StoredPart[] = [];
    return inSlices(
      parts,
      (stored) => {
        if (test(stored)) next.push(stored);
      },
      () => setFound(next),
    );
  }, [parts, test]);
  // What a filter compares is worked out once for each part: begun before anybody types.
  useEffect(
    () =>
      inSlices(
        parts,
        ({ part }) => valuesKept(part),
        () => undefined,
      ),
    [parts],
  );
  return { found, reason: typeof test === 'function' ? null : test.reason };
}

const collator = new Intl.Collator('en', { numeric: true });
const keys: Readonly<Record<string, (stored: StoredPart) => string | number>> = {
  tag: (s) => s.part.tag,
  name: (s) => s.part.name,
  value: (s) => mainValueOf(s.part)?.value ?? -1,
  voltage: (s) => voltageOf(s.part)?.value ?? -1,
  condition: (s) => s.part.condition,
  quantity: (s) => s.part.quantity,
  place: (s) => s.part.place,
};

/** The whole shelf in the order that was asked for: sorted once, and then narrowed by whatever is typed. */
export function inOrder(parts: readonly StoredPart[], [by]: SortingState): readonly StoredPart[] {
  const key = by && keys[by.id];
  if (!key) return parts;
  const sign = by.desc ? -1 : 1;
  return parts
    .map((stored) => ({ stored, key: key(stored) }))
    .sort((a, b) =>
      typeof a.key === 'number' && typeof b.key === 'number'
        ? sign * (a.key - b.key)
        : sign * collator.compare(String(a.key), String(b.key)),
    )
    .map(({ stored }) => stored);
}
