import type { AddReading, CreateParts, PartEdit, RemoveParts, StoredLot, StoredPart, UnreadableNoun } from '@vast-surge/contract';
import type { Lot, Part } from '@vast-surge/core/part';

/** The parts bench as this page knows it. */
export interface KnownBench {
  /** Another one after the workshop was restored. */
  readonly epoch: string;
  /** Where to ask on from. */
  readonly mark: number;
  /** By id, also those that were taken off. */
  readonly parts: ReadonlyMap<string, StoredPart>;
  readonly lots: ReadonlyMap<string, StoredLot>;
  readonly unreadable: readonly UnreadableNoun[];
}

export const emptyBench: KnownBench = { epoch: '', mark: 0, parts: new Map(), lots: new Map(), unreadable: [] };

/** Everything that is written to the bench. */
export type BenchWrite =
  | ({ readonly do: 'create' } & CreateParts)
  | { readonly do: 'edit'; readonly edits: readonly PartEdit[] }
  | { readonly do: 'read'; readonly readings: readonly AddReading[] }
  | { readonly do: 'strike'; readonly id: string; readonly index: number; readonly struck: boolean }
  | ({ readonly do: 'remove' } & RemoveParts)
  | { readonly do: 'photo'; readonly id: string; readonly photo: string | null }
  | { readonly do: 'lot'; readonly id: string; readonly version: number; readonly lot: Lot }
  | { readonly do: 'drop-lot'; readonly id: string };

export interface BenchRequest {
  readonly method: 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  readonly url: string;
  readonly body: object;
}

/** The request that does it. */
export function requestOf(write: BenchWrite): BenchRequest {
  switch (write.do) {
    case 'create': {
      const { do: _do, ...body } = write;
      return { method: 'POST', url: '/parts', body };
    }
    case 'edit':
      return { method: 'PATCH', url: '/parts', body: { edits: write.edits } };
    case 'read':
      return { method: 'POST', url: '/parts/readings', body: { readings: write.readings } };
    case 'strike':
      return { method: 'PATCH', url: `/parts/${write.id}/readings/${write.index}`, body: { struck: write.struck } };
    case 'remove': {
      const { do: _do, ...body } = write;
      return { method: 'POST', url: '/parts/removals', body };
    }
    case 'photo':
      return { method: 'PUT', url: `/parts/${write.id}/photo`, body: { photo: write.photo } };
    case 'lot':
      return { method: 'PUT', url: `/lots/${write.id}`, body: { version: write.version, lot: write.lot } };
    case 'drop-lot':
      return { method: 'DELETE', url: `/lots/${write.id}`, body: {} };
    default:
      return write satisfies never;
  }
}

const some = (count: number, noun: string): string => (count === 1 ? `1 ${noun}` : `${count} ${noun}s`);

/** What it does, for a person who has to be told that it was not done. */
export function writeWords(write: BenchWrite): string {
  switch (write.do) {
    case 'create':
      return `${some(write.parts.length, 'new part')}${write.file ? ` from ${write.file.name}` : ''}`;
    case 'edit':
      return `Change of ${[...new Set(write.edits.flatMap((e) => Object.keys(e.set)))].join(', ')} of ${some(write.edits.length, 'part')}`;
    case 'read':
      return some(write.readings.length, 'reading');
    case 'strike':
      return write.struck ? 'A reading struck out' : 'A reading restored';
    case 'remove':
      return `${some(write.ids.length, 'part')} ${write.removed ? 'removed from the bench' : 'put back'}`;
    case 'photo':
      return 'A photo';
    case 'lot':
      return `The lot ${write.lot.name}`;
    case 'drop-lot':
      return 'A lot deleted';
    default:
      return write satisfies never;
  }
}

function editedPart(part: Part, { set }: PartEdit): Part {
  let next: Part = part;
  for (const [path, value] of Object.entries(set)) {
    if (path.startsWith('fields.'))
      next = { ...next, fields: { ...next.fields, [path.slice(7)]: value as Part['fields'][string] } };
    else if ((path === 'design' || path === 'own') && value === null) {
      const { [path]: _gone, ...rest } = next;
      next = rest;
    } else next = { ...next, [path]: value };
  }
  return next;
}

function withParts(bench: KnownBench, ids: readonly string[], change: (stored: StoredPart) => StoredPart): KnownBench {
  const parts = new Map(bench.parts);
  for (const id of ids) {
    const stored = parts.get(id);
    if (stored) parts.set(id, change(stored));
  }
  return { ...bench, parts };
}

function withCreated(bench: KnownBench, write: Extract<BenchWrite, { do: 'create' }>, now: string): KnownBench {
  const parts = new Map(bench.parts);
  const head = { version: 0, createdAt: now, updatedAt: now, removedAt: null, hasPhoto: false };
  for (const { id, part } of write.parts) if (!parts.has(id)) parts.set(id, { id, part, ...head });
  const lots = new Map(bench.lots);
  for (const { id, lot } of write.lots ?? [])
    if (!lots.has(id)) lots.set(id, { id, lot, version: 1, createdAt: now, updatedAt: now });
  return { ...bench, parts, lots };
}

/** The bench as it will be once a write has been done: what the page shows meanwhile. `now` is an ISO time. */
export function withWrite(bench: KnownBench, write: BenchWrite, now: string): KnownBench {
  switch (write.do) {
    case 'create':
      return withCreated(bench, write, now);
    case 'edit': {
      const byId = new Map<string, PartEdit[]>();
      for (const edit of write.edits) byId.set(edit.id, [...(byId.get(edit.id) ?? []), edit]);
      return withParts(bench, [...byId.keys()], (s) => ({ ...s, part: (byId.get(s.id) ?? []).reduce(editedPart, s.part) }));
    }
    case 'read': {
      const byId = new Map<string, AddReading[]>();
      for (const reading of write.readings) byId.set(reading.partId, [...(byId.get(reading.partId) ?? []), reading]);
      return withParts(bench, [...byId.keys()], (s) => ({
        ...s,
        part: { ...s.part, readings: [...s.part.readings, ...(byId.get(s.id) ?? []).map((r) => r.reading)] },
      }));
    }
    case 'strike':
      return withParts(bench, [write.id], (s) => {
        const readings = s.part.readings.map((reading, i) => {
          if (i !== write.index) return reading;
          const { struck: _was, ...rest } = reading;
          return write.struck ? { ...rest, struck: true as const } : rest;
        });
        return { ...s, part: { ...s.part, readings } };
      });
    case 'remove':
      return withParts(bench, write.ids, (s) => ({ ...s, removedAt: write.removed ? now : null }));
    case 'photo':
      return withParts(bench, [write.id], (s) => ({ ...s, hasPhoto: write.photo !== null }));
    case 'lot': {
      const was = bench.lots.get(write.id);
      const lot = { id: write.id, lot: write.lot, version: write.version + 1, createdAt: was?.createdAt ?? now, updatedAt: now };
      return { ...bench, lots: new Map(bench.lots).set(write.id, lot) };
    }
    case 'drop-lot': {
      const lots = new Map(bench.lots);
      lots.delete(write.id);
      return { ...bench, lots };
    }
    default:
      return write satisfies never;
  }
}
