import { Ajv2020 } from 'ajv/dist/2020.js';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blockDefinition } from '../kind/index.ts';
import { readQuantityText } from '../field/index.ts';
import { blockIn, newDocument, newRig, noSheetEdits, type SheetEdits } from '../rig/index.ts';
import { demoRig } from '../test/rigs.ts';
import { readRigFile, rigFileJsonSchema, rigFileLimit, wordFileIssue, writeRigFile } from './index.ts';

const demo = (name: string) => readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), 'utf8');
const words = (text: string): string => {
  const read = readRigFile(text);
  return read.ok ? 'taken' : read.issues.map(wordFileIssue).join(' | ');
};
const file = (change: (data: Record<string, unknown>) => void): string => {
  const data = JSON.parse(demo('anvil')) as Record<string, unknown>;
  change(data);
  return JSON.stringify(data);
};
const supply = (data: Record<string, unknown>) =>
  (data['rig'] as Record<string, unknown>)['supply'] as { kind: string; fields: Record<string, unknown> };

describe('rig files', () => {
  test.each(['anvil', 'thimble'])('%s: read, written and read again is the same, byte for byte', (name) => {
    const first = readRigFile(demo(name));
    if (!first.ok) throw new Error('demo unreadable');
    const written = writeRigFile(first.document, first.id);
    const second = readRigFile(written);
    expect(second).toEqual(first);
    expect(second.ok && writeRigFile(second.document, second.id)).toBe(written);
  });

  test.each(['anvil', 'thimble'])(
    '%s as versions 1, 2 and 3 wrote it is read the same: version 2 has an id, version 3 may be built',
    (name) => {
      const sample = (version: number) =>
        readFileSync(new URL(`../test/fixtures/rig-file-${version}/${name}.json`, import.meta.url), 'utf8');
      const [kept, current] = [sample(1), readRigFile(sample(2))];
      const old = readRigFile(kept);
      if (!old.ok || !current.ok) throw new Error('unreadable');
      expect(old).toEqual({ ok: true, document: current.document });
      expect(current.document.built).toBe(false);
      const third = readRigFile(sample(3));
      if (!third.ok) throw new Error('unreadable');
      expect(third).toEqual({ ...current, document: { ...current.document, built: name === 'anvil' } });
      expect(blockIn(third.document.rig, 'monitor').kind).toBe('none');
      const smuggled = JSON.stringify({ ...(JSON.parse(kept) as object), id: current.id });
      expect(words(smuggled)).toMatch(/keys that are not known: id of version 1/);
    },
  );

  test('a rig of version 4 has no trigger and one tower', () => {
    const read = readRigFile(readFileSync(new URL('../test/fixtures/rig-file-4/kittiwake.json', import.meta.url), 'utf8'));
    if (!read.ok) throw new Error('unreadable');
    expect(blockIn(read.document.rig, 'trigger').kind).toBe('none');
    expect(blockIn(read.document.rig, 'store').fields['towers']).toBe('one');
  });

  test('a rig of version 6 has no dump, a dielectric that is not known, and people of the usual pace', () => {
    const read = readRigFile(readFileSync(new URL('../test/fixtures/rig-file-6/thimble.json', import.meta.url), 'utf8'));
    if (!read.ok) throw new Error('unreadable');
    expect(blockIn(read.document.rig, 'dump').kind).toBe('none');
    expect(blockIn(read.document.rig, 'store').fields['dielectric']).toBe('unknown');
    expect(read.document.sheet).toMatchObject({ pace: null, seconds: {}, call: '' });
    const slow = (seconds: unknown) =>
      words(JSON.stringify({ ...(JSON.parse(demo('thimble')) as object), sheet: { seconds: { fire: seconds } } }));
    for (const wrong of [-3, 0, 604_800, 'soon'])
      expect(slow(wrong)).toMatch(/sheet\.seconds\.fire must be a time from 1 s to 1 h/);
    expect(slow(30)).toBe('taken');
  });

  test('the lines of further coils of version 7 are stages of their own: place, firing, turns, voltage and capacitance of each', () => {
    const sample = readFileSync(new URL('../test/fixtures/rig-file-7/shuttle.json', import.meta.url), 'utf8');
    const old = JSON.parse(sample) as { rig: { channels: [{ load: { fields: { coils: string } } }] } };
    expect(readRigFile(sample)).toEqual(readRigFile(demo('shuttle')));
    for (const name of ['kittiwake', 'thimble'])
      expect(readRigFile(readFileSync(new URL(`../test/fixtures/rig-file-7/${name}.json`, import.meta.url), 'utf8'))).toEqual(
        readRigFile(demo(name)),
      );
    const stagesOf = (coils: string) => {
      old.rig.channels[0].load.fields.coils = coils;
      const read = readRigFile(JSON.stringify(old));
      if (!read.ok) throw new Error('unreadable');
      return read.document.rig.channels.map(({ store, load }) =>
        [store.fields['V0'], store.fields['C'], load.fields['N'], load.fields['at'], load.fields['xf'], load.fields['tf']].map(
          (value) => (typeof value === 'object' && value ? value.value : value),
        ),
      );
    };
    const fired = (coils: string) => stagesOf(coils).map(([, , , at, xf, tf]) => [at, xf, tf]);
    expect(stagesOf('')).toHaveLength(1);
    const [[V0, C, N] = []] = stagesOf('');
    expect(stagesOf('0 mm, 30 V\n90 mm, after 1.2 ms, 60 turns\n180 mm, sensor 150 mm, 9 mF')).toEqual([
      [30, C, N, 0.08, null, null],
      [V0, C, 60, 0.09, null, 1.2e-3],
      [V0, 9e-3, N, 0.18, 0.15, null],
    ]);
    expect(fired('90 mm, best').at(1)).toEqual([0.09, null, null]);
    old.rig.channels[0].load.fields.coils = '90 mm, blue';
    expect(words(JSON.stringify(old))).toMatch(/keys that are not known: coils/);
  });

  test('stages behind the first hold nothing that stands once, are of its kind, and at most twelve', () => {
    const text = demo('shuttle');
    type File = { rig: { channels: { load: { kind: string; fields: Record<string, unknown> } }[] } };
    const turned = (turn: (channels: File['rig']['channels']) => void) => {
      const file = JSON.parse(text) as File;
      turn(file.rig.channels);
      return words(JSON.stringify(file));
    };
    expect(turned(([, second]) => second && (second.load.fields['ds'] = '40 mm'))).toMatch(/keys that are not known: ds/);
    expect(turned(([, second]) => second && (second.load = { kind: 'coil', fields: {} }))).toMatch(
      /kind must be one of coilgun-stage/,
    );
    expect(turned(([first]) => first && (first.load = { kind: 'coil', fields: {} }))).toMatch(
      /channels after the first have its kind of load, coil/,
    );
    expect(turned((channels) => channels.push(...Array.from({ length: 10 }, () => channels[1] as never)))).toMatch(
      /has 13 channels; it must be from 1 to 12/,
    );
    expect(turned((channels) => channels.splice(0))).toMatch(/rig\.channels/);
  });

  test('a dump without a resistor, or with one that is none, is refused by its field', () => {
    const text = demo('anvil');
    const dump = /("dump": \{\s*"kind": "relay",\s*"fields": \{\s*"R": )"[^"]*"/;
    expect(text).toMatch(dump);
    for (const R of ['""', 'null', '"0"', '"-3 Ω"'])
      expect(words(text.replace(dump, `$1${R}`))).toMatch(/dump\.fields\.R is .*it must be above 0 Ω up to 1 TΩ/);
    expect(words(text)).toBe('taken');
  });

  test('a rig of version 5 has the run sheet as it follows from the rig; what version 6 says of it is kept', () => {
    const text = readFileSync(new URL('../test/fixtures/rig-file-5/thimble.json', import.meta.url), 'utf8');
    const read = readRigFile(text);
    if (!read.ok) throw new Error('unreadable');
    expect(read.document.sheet).toEqual(noSheetEdits);
    const sheet: SheetEdits = {
      people: 'one',
      added: [{ id: 'lamp-red', phase: 'charge', text: 'Red lamp on', hold: '' }],
      order: { charge: ['lamp-red', 'strap-off'] },
      call: '',
      seconds: {},
      pace: null,
      waivers: [{ limit: 'switch-current', by: 'Key holder', reason: 'Measured at half the voltage.', upTo: 400 }],
      alone: { by: 'Key holder', reason: 'Half a joule on a bench.', callIn: 20 },
      notes: { charge: 'Listen for the buzz' },
      seen: { charge: 'Supply on.' },
    };
    const again = readRigFile(writeRigFile({ ...read.document, sheet }, read.id));
    expect(again.ok && again.document.sheet).toEqual(sheet);
    expect(words(text.replace('"version": 5', '"version": 6, "sheet": {"people": "three"}'))).toMatch(
      /sheet.people must be one or two/,
    );
  });

  test('a field left out takes its initial value and is marked as a default; a typed one is not', () => {
    const read = readRigFile(file((data) => delete supply(data).fields['R']));
    if (!read.ok) throw new Error('unreadable');
    expect(read.document.rig.supply.fields['R']).toMatchObject({ from: 'default', text: '10 Ω' });
    expect(read.document.rig.supply.fields['V']).not.toHaveProperty('from');
  });

  test('a quantity may be a text, a number in the SI unit, or the full form; all give the same value', () => {
    const value = (raw: unknown) => {
      const read = readRigFile(file((data) => (supply(data).fields['V'] = raw)));
      return read.ok
        ? (read.document.rig.supply.fields['V'] as { value: number }).value
        : words(file((data) => (supply(data).fields['V'] = raw)));
    };
    expect([value('2.8 kV'), value(2800), value({ value: 2800 }), value({ value: 2800, text: '2k8' })]).toEqual([
      2800, 2800, 2800, 2800,
    ]);
  });

  test.each<[string, string, RegExp]>([
    ['truncated', demo('anvil').slice(0, 500), /not complete JSON/],
    ['empty', '', /not complete JSON/],
    ['a list', '[]', /not a rig file/],
    ['another format', '{"format":"netlist","version":1}', /"format": "vast-surge-rig"/],
    ['of a newer version', file((d) => (d['version'] = 9)), /version 9, and this program reads up to version 8/],
    ['with an id that is none', file((d) => (d['id'] = 'mine')), /id must be the id of a rig/],
    ['of a version that is none', file((d) => (d['version'] = '1')), /"version" must be a whole number/],
    ['with __proto__', demo('anvil').replace('"note"', '"__proto__": {"polluted": true}, "note"'), /"__proto__"/],
    ['with a deep constructor key', file((d) => (supply(d).fields['constructor'] = {})), /"constructor"/],
    ['too large', ' '.repeat(rigFileLimit) + demo('anvil'), /at most/],
    ['of an unknown kind', file((d) => (supply(d).kind = 'reactor')), /rig\.supply\.kind kind must be one of dc-source/],
    ['with an unknown field', file((d) => (supply(d).fields['Q'] = 1)), /rig\.supply\.fields has keys that are not known: Q/],
    [
      'with a wrong unit',
      file((d) => (supply(d).fields['V'] = '12 A')),
      /rig\.supply\.fields\.V .*unit of a current.*from|above 0 V up to 1 MV/,
    ],
    [
      'with a negative value',
      file((d) => (supply(d).fields['V'] = -5)),
      /rig\.supply\.fields\.V is −5 V; it must be above 0 V up to 1 MV/,
    ],
    [
      'with an absurd value',
      file((d) => (supply(d).fields['V'] = '1e30')),
      /rig\.supply\.fields\.V is .*it must be above 0 V up to 1 MV/,
    ],
    ['with text and value at odds', file((d) => (supply(d).fields['V'] = { value: 28, text: '2.8 kV' })), /the two must agree/],
    ['without a name', file((d) => (d['name'] = '  ')), /name must not be empty/],
    ['with two channels', file((d) => (d['rig'] as { channels: unknown[] }).channels.push({})), /rig\.channels/],
    ['with fields missing altogether', '{"format":"vast-surge-rig","version":1,"name":"x","rig":{}}', /rig\.supply/],
  ])('a file %s is refused by name', (_name, text, reason) => {
    expect(words(text)).toMatch(reason);
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
  });

  test('no mutation of a valid file makes the reader throw', () => {
    const text = demo('anvil');
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: text.length }),
        fc.integer({ min: 0, max: 40 }),
        fc.string({ maxLength: 12 }),
        (at, cut, put) => {
          const read = readRigFile(text.slice(0, at) + put + text.slice(at + cut));
          if (!read.ok) expect(read.issues.map(wordFileIssue).every((w) => w.length > 5)).toBe(true);
        },
      ),
      { numRuns: 1500 },
    );
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        expect(() => readRigFile(JSON.stringify(value))).not.toThrow();
      }),
    );
  });

  test('the published schema is the one the program checks by', () => {
    const published = JSON.parse(readFileSync(new URL('../../docs/schema/rig-file.json', import.meta.url), 'utf8')) as unknown;
    expect(published).toEqual(JSON.parse(JSON.stringify(rigFileJsonSchema())));
  });

  test('a validator that knows nothing of this program lets the demo rigs through by the published schema, and no slip', () => {
    const published = JSON.parse(readFileSync(new URL('../../docs/schema/rig-file.json', import.meta.url), 'utf8')) as object;
    const valid = new Ajv2020({ strict: false, validateFormats: false, inlineRefs: false, code: { optimize: false } }).compile(
      published,
    );
    for (const name of ['anvil', 'cricket', 'kittiwake', 'shuttle', 'thimble'] as const) {
      const text = writeRigFile(newDocument(name, demoRig(name)));
      expect(valid(JSON.parse(text)), `${name}: ${JSON.stringify(valid.errors)}`).toBe(true);
      // A field that no kind has, and a quantity in a form that is none.
      expect(valid(JSON.parse(text.replace('"V0":', '"V9":'))), name).toBe(false);
      expect(valid(JSON.parse(text.replace(/"V0": \{/, '"V0": {"about": 1,'))), name).toBe(false);
    }
  });

  test('a new rig is one that can be written and read', () => {
    const rig = newRig();
    expect(readRigFile(writeRigFile(newDocument('new', rig)))).toEqual({
      ok: true,
      document: newDocument('new', rig),
    });
  });
});

describe('typing into a field', () => {
  const field = (slot: 'store' | 'supply', id: string) => {
    const spec = blockDefinition(slot, slot === 'store' ? 'capacitor-bank' : 'dc-source').fields[id];
    if (spec?.type !== 'quantity') throw new Error('no such field');
    return spec;
  };
  test.each<['store' | 'supply', string, string, RegExp]>([
    ['store', 'C', '0', /is 0 F; it must be above 0 F up to 1 kF/],
    ['store', 'C', '-1u', /is −1 µF; it must be above 0 F/],
    ['store', 'C', '1e30 F', /it must be above 0 F up to 1 kF/],
    ['store', 'C', '', /is empty: write a capacitance.*above 0 F/],
    ['store', 'C', '10 V', /"V" is the unit of a voltage, and this takes a capacitance in F/],
    ['store', 'C', 'lots', /not a quantity.*above 0 F/],
    ['store', 'ns', '1.5', /must be a whole number from 1 to 1000/],
    ['store', 'ns', '3 ±5 %', /takes no tolerance/],
    ['store', 'V0', '10 ±200 %', /not a tolerance/],
  ])('%s.%s = "%s" is refused with the range', (slot, id, text, reason) => {
    const read = readQuantityText(field(slot, id), text);
    expect(read.ok ? 'taken' : read.reason).toMatch(reason);
  });
});
