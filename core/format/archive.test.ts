import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { planOf, type RunPlan } from '../run/index.ts';
import { newLot, newPart } from '../part/index.ts';
import { newDocument, newRig, noSheetEdits, type Rig, type RigDocument } from '../rig/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import {
  documentName,
  readArchive,
  readDocument,
  rigFileVersion,
  writeArchive,
  readPart,
  type PartRecord,
  type RevisionRecord,
  type RigRecord,
  type Workshop,
} from './index.ts';

const instant = '2026-03-01T08:00:00.000Z';
const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const named = (name: string, rig = newRig()): RigDocument => newDocument(name, rig);

const revision = (n: number, number: number, document: RigDocument, name: string | null = null): RevisionRecord => ({
  id: uuid(n),
  number,
  version: number * 2,
  name,
  madeAt: instant,
  document: { ok: true, document },
});
const record = (n: number, document: RigRecord['document'], revisions: readonly RevisionRecord[] = []): RigRecord => ({
  id: uuid(n),
  version: 9,
  createdAt: instant,
  updatedAt: instant,
  archivedAt: null,
  branchedFrom: null,
  document,
  revisions,
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

const workshop: Workshop = {
  rigs: [
    record(1, { ok: true, document: named('Anvil', demoRig('anvil')) }, [
      revision(11, 1, named('Anvil')),
      revision(12, 2, named('Anvil', rigWith({ 'store.V0': '30 V' })), 'before the new yoke'),
    ]),
    record(2, readDocument(fromNewer)),
  ],
  lots: [
    { id: uuid(31), version: 2, createdAt: instant, updatedAt: instant, lot: { ok: true, value: newLot('Dunstan substation') } },
  ],
  parts: [
    partRecord(41, { ok: true, value: newPart('capacitor', 'Grey can', 'C-001') }, 'data:image/png;base64,iVBORw0KGgo='),
    partRecord(42, readPart({ kind: 'warp-coil', tag: 'Q-1', zeta: { a: 1 } })),
  ],
  shots: [
    {
      id: uuid(71),
      revisionId: uuid(12),
      runId: uuid(51),
      version: 2,
      createdAt: instant,
      updatedAt: instant,
      removedAt: null,
      shot: { at: instant, outcome: 'partial', set: { voltage: 48 }, measured: { current: 120 }, sound: 'dull', remarks: '' },
      predicted: { current: 140 },
      files: [{ id: uuid(72), kind: 'photo', name: 'gap.png', addedAt: instant, content: 'data:image/png;base64,iVBORw0KGgo=' }],
    },
  ],
  runs: [
    {
      id: uuid(51),
      revisionId: uuid(12),
      rehearsal: { seed: 4, speed: 10, faults: ['rebound'] },
      madeAt: instant,
      plan: planFor(rigWith({})),
      events: [
        {
          number: 1,
          receivedAt: instant,
          event: { id: uuid(61), at: 1e12, screen: 'left', type: 'began', acts: 'AB', reads: null },
        },
        { number: 2, receivedAt: instant, event: { id: uuid(62), at: 1e12, screen: 'left', type: 'aborted', reason: 'smoke' } },
      ],
    },
  ],
};

const mutate = (path: string, change: (data: Record<string, unknown>) => void): Map<string, string> => {
  const files = writeArchive(workshop);
  const data = JSON.parse(files.get(path) ?? '{}') as Record<string, unknown>;
  change(data);
  return files.set(path, JSON.stringify(data));
};
const reasons = (files: ReadonlyMap<string, string>): string => {
  const read = readArchive(files);
  return read.ok ? 'taken' : read.issues.map((i) => `${i.path} ${i.reason}`).join(' | ');
};
const folder = `rigs/${uuid(1)}`;

describe('the workshop archive', () => {
  test('is read back as it was written, and written again to the same texts', () => {
    const files = writeArchive(workshop);
    const read = readArchive(files);
    if (!read.ok) throw new Error(reasons(files));
    expect(read.workshop).toEqual(workshop);
    expect([...writeArchive(read.workshop)]).toEqual([...files]);
    expect([...files.keys()]).toEqual([...files.keys()].sort());
  });

  test('carries a rig that this program cannot read along unchanged, and says why it cannot', () => {
    const kept = workshop.rigs[1]?.document;
    expect(kept).toMatchObject({ ok: false, data: fromNewer, reason: expect.stringMatching(/kind must be one of dc-source/) });
    expect(kept && documentName(kept)).toBe('From tomorrow');
  });

  test('a rig file of version 1 in an archive is brought up; files it does not know are left aside', () => {
    const files = mutate(`${folder}/rig.json`, (d) => {
      d['version'] = 1;
      delete d['id'];
    });
    files.set('rigs.csv', 'rig_id\n=1+1\n').set('../../evil', 'x');
    const read = readArchive(files);
    expect(read.ok && read.workshop).toEqual(workshop);
  });

  test('an archive of version 1, which knew no bench, is read with an empty one', () => {
    const files = mutate('archive.json', (d) => {
      d['version'] = 1;
      delete d['lots'];
      delete d['parts'];
      delete d['runs'];
      delete d['shots'];
    });
    for (const path of ['bench/lots.json', 'bench/parts.json', `runs/${uuid(51)}.json`, `shots/${uuid(71)}.json`])
      files.delete(path);
    const read = readArchive(files);
    expect(read.ok && read.workshop).toEqual({ ...workshop, lots: [], parts: [], runs: [], shots: [] });
  });

  test.each<[string, Map<string, string>, RegExp]>([
    ['nothing', new Map(), /^archive\.json is missing$/],
    ['without a run it counts', mutate('archive.json', (d) => (d['runs'] = 2)), /says it holds 2 runs, and 1 are there/],
    [
      'with a run of no revision',
      mutate(`runs/${uuid(51)}.json`, (d) => (d['revisionId'] = uuid(99))),
      /is of a revision that the archive does not hold/,
    ],
    [
      'with a run that lost an event',
      mutate(`runs/${uuid(51)}.json`, (d) => (d['events'] as unknown[]).shift()),
      /does not number its events from 1 without a gap/,
    ],
    [
      'of a newer version',
      mutate('archive.json', (d) => (d['version'] = 4)),
      /version 4, and this program reads up to version 3/,
    ],
    ['of something else', mutate('archive.json', (d) => (d['format'] = 'zoo')), /archive\.json format/],
    ['with a rig too few', mutate('archive.json', (d) => (d['rigs'] = 3)), /says it holds 3 rigs, and 2 are there/],
    [
      'with a part too few',
      mutate('archive.json', (d) => (d['parts'] = 3)),
      /bench\/parts\.json holds 2 entries, and archive\.json says 3/,
    ],
    [
      'with a part twice',
      new Map(writeArchive(workshop)).set(
        'bench/parts.json',
        (writeArchive(workshop).get('bench/parts.json') ?? '').replace(uuid(42), uuid(41)),
      ),
      /bench\/parts\.json names one id twice/,
    ],
    [
      'with half a record',
      new Map([...writeArchive(workshop)].map(([p, t]) => [p, p === `${folder}/record.json` ? t.slice(0, 60) : t])),
      /record\.json is not complete JSON/,
    ],
    ['with a record of another rig', mutate(`${folder}/record.json`, (d) => (d['id'] = uuid(7))), /of another rig/],
    ['with a revision gone', mutate(`${folder}/record.json`, (d) => (d['revisions'] = [1, 2, 3])), /0003\.json is missing/],
    ['with a revision twice', mutate(`${folder}/record.json`, (d) => (d['revisions'] = [1, 1])), /names a revision twice/],
    [
      'with a revision of a version not reached',
      mutate(`${folder}/revisions/0001.json`, (d) => (d['version'] = 99)),
      /version the rig has not reached/,
    ],
    [
      'with a __proto__ key',
      new Map(
        [...writeArchive(workshop)].map(([p, t]) => [
          p,
          p.endsWith('rig.json') ? t.replace('"note"', '"__proto__": {}, "note"') : t,
        ]),
      ),
      /holds the key "__proto__"/,
    ],
    [
      'with a rig file of a newer version',
      mutate(`${folder}/rig.json`, (d) => (d['version'] = rigFileVersion + 1)),
      /rig\.json version/,
    ],
  ])('%s is refused by file and reason', (_name, files, reason) => expect(reasons(files)).toMatch(reason));

  test('no change of any file makes the reader throw', () => {
    const files = [...writeArchive(workshop)];
    fc.assert(
      fc.property(fc.nat(files.length - 1), fc.nat(2000), fc.nat(30), fc.string({ maxLength: 6 }), (which, at, cut, put) => {
        const changed = files.map(
          ([path, text], i) => [path, i === which ? text.slice(0, at) + put + text.slice(at + cut) : text] as const,
        );
        expect(reasons(new Map(changed)).length).toBeGreaterThan(4);
      }),
      { numRuns: 300 },
    );
  });
});
