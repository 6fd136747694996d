import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { planOf, type RunPlan } from '../run/index.ts';
import { newLot, newPart } from '../part/index.ts';
import { newDocument, newRig, noSheetEdits, type Rig, type RigDocument } from '../rig/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import {
  archiveRecords,
  ArchiveRefused,
  documentName,
  entriesOf,
  headEntry,
  noRecords,
  readDocument,
  readPart,
  rigFileVersion,
  type PartRecord,
  type ReadOptions,
  type RigRecord,
  type WorkshopRecord,
} from './index.ts';

const instant = '2026-03-01T08:00:00.000Z';
const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const named = (name: string, rig = newRig()): RigDocument => newDocument(name, rig);

const revision = (n: number, rig: number, number: number, document: RigDocument, name: string | null = null): WorkshopRecord => ({
  noun: 'revision',
  record: { rigId: uuid(rig), id: uuid(n), number, version: number * 2, name, madeAt: instant, document: { ok: true, document } },
});
const rig = (n: number, document: RigRecord['document']): WorkshopRecord => ({
  noun: 'rig',
  record: { id: uuid(n), version: 9, createdAt: instant, updatedAt: instant, archivedAt: null, branchedFrom: null, document },
});

/** What a rig from a newer version looks like here: a block of a kind that this one does not know. */
const fromNewer = {
  name: 'From tomorrow',
  note: '',
  built: false,
  rig: { ...newRig(), supply: { kind: 'fusion', fields: { V: '1 MV' } } },
};

const partRecord = (n: number, part: PartRecord['part'], photo: string | null = null): PartRecord => ({
  id: uuid(n),
  version: 3,
  createdAt: instant,
  updatedAt: instant,
  removedAt: n === 42 ? instant : null,
  photo,
  part,
});

function planFor(rig: Rig): RunPlan {
  const made = planOf('Anvil', evaluateRig(rig), noSheetEdits);
  if (!made.ok) throw new Error(made.reason);
  return made.plan;
}

const photo = 'data:image/png;base64,iVBORw0KGgo=';
const events = [
  { number: 1, receivedAt: instant, event: { id: uuid(61), type: 'began', at: 1e12, screen: 'left', acts: 'AB', reads: null } },
  { number: 2, receivedAt: instant, event: { id: uuid(62), type: 'aborted', at: 1e12, screen: 'left', reason: 'smoke' } },
];

/** A workshop with one of everything, in the order of an archive. */
const workshop: readonly WorkshopRecord[] = [
  {
    noun: 'lot',
    record: {
      id: uuid(31),
      version: 2,
      createdAt: instant,
      updatedAt: instant,
      removedAt: null,
      lot: { ok: true, value: newLot('Dunstan substation') },
    },
  },
  { noun: 'part', record: partRecord(41, { ok: true, value: newPart('capacitor', 'Grey can', 'C-001') }, photo) },
  { noun: 'part', record: partRecord(42, readPart({ kind: 'warp-coil', tag: 'Q-1', zeta: { a: 1 } })) },
  { noun: 'part-file', record: { digest: 'ab'.repeat(32), name: 'shelf.csv', parts: 2, takenAt: instant } },
  rig(1, { ok: true, document: named('Anvil', demoRig('anvil')) }),
  revision(11, 1, 1, named('Anvil')),
  revision(12, 1, 2, named('Anvil', rigWith({ 'store.V0': '30 V' })), 'before the new yoke'),
  rig(2, readDocument(fromNewer)),
  {
    noun: 'run',
    record: {
      id: uuid(51),
      revisionId: uuid(12),
      rehearsal: { seed: 4, speed: 10, faults: ['rebound'] },
      madeAt: instant,
      plan: planFor(rigWith({})),
    },
  },
  { noun: 'run-events', record: { runId: uuid(51), events } },
  {
    noun: 'shot',
    record: {
      id: uuid(71),
      revisionId: uuid(12),
      runId: uuid(51),
      version: 2,
      createdAt: instant,
      updatedAt: instant,
      removedAt: null,
      shot: { at: instant, outcome: 'partial', set: { voltage: 48 }, measured: { current: 120 }, sound: 'dull', remarks: '' },
      predicted: { current: 140 },
    },
  },
  {
    noun: 'shot-file',
    record: { shotId: uuid(71), id: uuid(72), kind: 'photo', name: 'gap.png', addedAt: instant, content: photo },
  },
];

const write = (records: readonly WorkshopRecord[]): Map<string, string> => {
  const counts = noRecords();
  for (const { noun } of records) counts[noun] += 1;
  return new Map([...records.flatMap(entriesOf), headEntry(counts)]);
};
async function read(files: ReadonlyMap<string, string>, options: ReadOptions = {}): Promise<WorkshopRecord[]> {
  const found: WorkshopRecord[] = [];
  const source = { paths: [...files.keys()], text: (path: string) => Promise.resolve(files.get(path) ?? '') };
  for await (const record of archiveRecords(source, options)) found.push(record);
  return found;
}
const mutate = (path: string, change: (data: Record<string, unknown>) => void, from = write(workshop)): Map<string, string> => {
  const data = JSON.parse(from.get(path) ?? '{}') as Record<string, unknown>;
  change(data);
  return new Map(from).set(path, JSON.stringify(data));
};
const reasons = (files: ReadonlyMap<string, string>, options: ReadOptions = {}): Promise<string> =>
  read(files, options).then(
    () => 'taken',
    (error: unknown) => {
      if (error instanceof ArchiveRefused) return error.message;
      throw error;
    },
  );
const folder = `rigs/${uuid(1)}`;

/** The same workshop as version 3 wrote it: the bench in two files, events within their run, files within their shot. */
function asVersion3(): Map<string, string> {
  const files = write(workshop);
  const json = (path: string) => JSON.parse(files.get(path) ?? '') as Record<string, unknown>;
  const old = new Map([...files].filter(([path]) => path.startsWith('rigs/')));
  const { removedAt: _removed, ...lot } = json(`bench/lots/${uuid(31)}.json`);
  old.set('bench/lots.json', JSON.stringify([lot]));
  old.set('bench/parts.json', JSON.stringify([json(`bench/parts/${uuid(41)}.json`), json(`bench/parts/${uuid(42)}.json`)]));
  old.set(`runs/${uuid(51)}.json`, JSON.stringify({ ...json(`runs/${uuid(51)}/run.json`), events }));
  const file = json(`shots/${uuid(71)}/files/${uuid(72)}.json`);
  old.set(`shots/${uuid(71)}.json`, JSON.stringify({ ...json(`shots/${uuid(71)}/shot.json`), files: [file] }));
  old.set(`${folder}/record.json`, JSON.stringify({ ...json(`${folder}/record.json`), revisions: [1, 2] }));
  old.set(`rigs/${uuid(2)}/record.json`, JSON.stringify({ ...json(`rigs/${uuid(2)}/record.json`), revisions: [] }));
  const head = { format: 'vast-surge-archive', version: 3, rigs: 2, lots: 1, parts: 2, runs: 1, shots: 1 };
  return old.set('archive.json', JSON.stringify(head));
}

describe('the workshop archive', () => {
  test('is read back as it was written, and written again to the same texts', async () => {
    const files = write(workshop);
    const found = await read(files);
    expect(found).toEqual(workshop);
    expect([...write(found)]).toEqual([...files]);
  });

  test('carries a rig that this program cannot read along unchanged, and says why it cannot', () => {
    const kept = readDocument(fromNewer);
    expect(kept).toMatchObject({ ok: false, data: fromNewer, reason: expect.stringMatching(/kind must be one of dc-source/) });
    expect(documentName(kept)).toBe('From tomorrow');
  });

  test('a rig file of version 1 in an archive is brought up; files it does not know are left aside', async () => {
    const files = mutate(`${folder}/rig.json`, (d) => {
      d['version'] = 1;
      delete d['id'];
    });
    files.set('rigs.csv', 'rig_id\n=1+1\n').set('other/evil', 'x');
    expect(await read(files)).toEqual(workshop);
  });

  test('one of version 3 has the same in fewer files, one of version 1 knew no bench', async () => {
    const old = asVersion3();
    expect(await read(old)).toEqual(workshop.filter(({ noun }) => noun !== 'part-file'));
    const first = mutate(
      'archive.json',
      (d) => {
        d['version'] = 1;
        delete d['lots'];
        delete d['parts'];
        delete d['runs'];
        delete d['shots'];
      },
      new Map([...old].filter(([path]) => !/^(bench|runs|shots)/.test(path))),
    );
    expect((await read(first)).map((r) => r.noun)).toEqual(['rig', 'revision', 'revision', 'rig']);
    expect(await reasons(mutate(`${folder}/record.json`, (d) => (d['revisions'] = [1, 2, 3]), old))).toMatch(
      /0003\.json is missing/,
    );
  });

  test('what an older program let through is restored as it was kept; from elsewhere it is held to what is taken today', async () => {
    const odd = mutate(`shots/${uuid(71)}/shot.json`, (d) => (d['shot'] = { ...(d['shot'] as object), outcome: 'boom' }));
    expect(await reasons(odd)).toBe('taken');
    expect(await reasons(odd, { strict: true })).toMatch(/shot\.json shot: outcome must be one of fired/);
    const strange = write(
      workshop.map((r) =>
        r.noun === 'run-events'
          ? { ...r, record: { ...r.record, events: [{ number: 1, receivedAt: instant, event: { id: uuid(61), type: 'sang' } }] } }
          : r,
      ),
    );
    expect(await reasons(strange)).toBe('taken');
    expect(await reasons(strange, { strict: true })).toMatch(/event 1/);
  });

  const entry = (path: string, change: (text: string) => string): Map<string, string> => {
    const files = write(workshop);
    return files.set(path, change(files.get(path) ?? ''));
  };
  const runEvents = `runs/${uuid(51)}/events/0001.json`;
  test.each<[string, () => Map<string, string>, RegExp]>([
    ['nothing', () => new Map(), /^archive\.json is missing$/],
    [
      'without a run it counts',
      () => mutate('archive.json', (d) => ((d['holds'] as Record<string, number>)['run'] = 2)),
      /says it holds 2 of run, and 1 are there/,
    ],
    [
      'with a run of no revision',
      () => mutate(`runs/${uuid(51)}/run.json`, (d) => (d['revisionId'] = uuid(99))),
      /is of a revision that the archive does not hold/,
    ],
    [
      'with a run that lost an event',
      () => entry(runEvents, (text) => JSON.stringify((JSON.parse(text) as unknown[]).slice(1))),
      /does not number its events from 1 without a gap/,
    ],
    [
      'of a newer version',
      () => mutate('archive.json', (d) => (d['version'] = 6)),
      /version 6, and this program reads up to version 5/,
    ],
    ['of something else', () => mutate('archive.json', (d) => (d['format'] = 'zoo')), /archive\.json format/],
    [
      'with a part too few',
      () => new Map([...write(workshop)].filter(([path]) => path !== `bench/parts/${uuid(42)}.json`)),
      /says it holds 2 of part, and 1 are there/,
    ],
    [
      'with a part twice',
      () => entry(`bench/parts/${uuid(42)}.json`, (text) => text.replace(uuid(42), uuid(41))),
      /names one id twice/,
    ],
    [
      'with half a record',
      () => entry(`${folder}/record.json`, (text) => text.slice(0, 60)),
      /record\.json is not complete JSON/,
    ],
    ['with a record of another rig', () => mutate(`${folder}/record.json`, (d) => (d['id'] = uuid(7))), /of another rig/],
    [
      'with a rig gone',
      () => new Map([...write(workshop)].filter(([path]) => path !== `${folder}/rig.json`)),
      /rig\.json is missing/,
    ],
    [
      'with a revision gone',
      () => new Map([...write(workshop)].filter(([path]) => path !== `${folder}/revisions/0001.json`)),
      /says it holds 2 of revision, and 1 are there/,
    ],
    ['with a revision twice', () => mutate(`${folder}/revisions/0002.json`, (d) => (d['version'] = 2)), /names a revision twice/],
    [
      'with a revision of a version not reached',
      () => mutate(`${folder}/revisions/0001.json`, (d) => (d['version'] = 99)),
      /version the rig has not reached/,
    ],
    [
      'with a __proto__ key',
      () => entry(`${folder}/rig.json`, (text) => text.replace('"note"', '"__proto__": {}, "note"')),
      /holds the key "__proto__"/,
    ],
    [
      'with a rig file of a newer version',
      () => mutate(`${folder}/rig.json`, (d) => (d['version'] = rigFileVersion + 1)),
      /rig\.json version/,
    ],
  ])('%s is refused by file and reason', async (_name, files, reason) => expect(await reasons(files())).toMatch(reason));

  test('no change of any file makes the reader throw anything but its own refusal', async () => {
    const files = [...write(workshop)];
    await fc.assert(
      fc.asyncProperty(
        fc.nat(files.length - 1),
        fc.nat(2000),
        fc.nat(30),
        fc.string({ maxLength: 6 }),
        async (which, at, cut, put) => {
          const changed = files.map(
            ([path, text], i) => [path, i === which ? text.slice(0, at) + put + text.slice(at + cut) : text] as const,
          );
          expect((await reasons(new Map(changed))).length).toBeGreaterThan(4);
        },
      ),
      { numRuns: 300, seed: 20 },
    );
  });
});
