import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { readNetlist, simulateCircuit } from '../../../circuit/index.ts';
import { readRigFile } from '../../../format/index.ts';
import { witness } from '../../../test/evidence.ts';
import { hasNgspice, ngspiceExtremes, type Extremes } from '../../../test/ngspice.ts';
import { launchStudy, rigDeck } from './index.ts';

/**
 * The decks of every scene of every demo rig, run by ngspice 39, a general-purpose simulator: where it is installed now, else as it was
 * recorded. With RECORD=1 the recording is made anew.
 */
const recording = new URL('../../../test/fixtures/ngspice-extremes.json', import.meta.url);
const recorded = (existsSync(recording) ? JSON.parse(readFileSync(recording, 'utf8')) : {}) as Record<string, Extremes>;
const installed = hasNgspice();
const anew: Record<string, Extremes> = {};

const rigOf = (name: string) => {
  const read = readRigFile(readFileSync(new URL(`../../../../demo/${name}.json`, import.meta.url), 'utf8'));
  if (!read.ok) throw new Error(`${name} cannot be read`);
  return read.document.rig;
};

function ours(deck: string): { extremes: Extremes; nodes: string[] } {
  const read = readNetlist(deck);
  if (!read.ok) throw new Error(JSON.stringify(read.issues));
  const { elements } = read.netlist;
  const nodes = [...new Set(elements.flatMap((e) => (e.kind === 'coupling' ? [] : e.nodes)))].filter((node) => node !== '0');
  const run = simulateCircuit(read.netlist, {
    until: read.until ?? NaN,
    tolerance: 1e-6,
    probes: nodes.map((node) => ({ of: 'nodes', nodes: [node, '0'] })),
  });
  const least = (y: Float64Array) => y.reduce((a, b) => Math.min(a, b), Infinity);
  const most = (y: Float64Array) => y.reduce((a, b) => Math.max(a, b), -Infinity);
  const extremes = nodes.map((node, i) => {
    const y = run.traces[i]?.y ?? new Float64Array();
    return [node, [least(y), most(y)] as const] as const;
  });
  return { nodes, extremes: Object.fromEntries(extremes) };
}

const scenes = ['thimble', 'anvil', 'kittiwake', 'shuttle', 'cricket'].flatMap((name) =>
  (['charge', 'discharge', 'bleed'] as const).map((of) => [name, of] as const),
);

const exported = { kind: 'model', id: 'Exported decks: peaks of every node' } as const;
const elsewhere = 'ngspice 39, a general-purpose circuit simulator: charge, discharge and bleed of every demo rig';

describe('a deck that is exported', () => {
  test.each(scenes)('%s, %s: runs elsewhere with the same peaks, and is read back here', (name, of) => {
    const deck = rigDeck(rigOf(name), name, of) ?? '';
    expect(deck).toContain('.tran');
    const { extremes, nodes } = ours(deck);
    const theirs = installed ? ngspiceExtremes(deck, nodes) : recorded[`${name} ${of}`];
    if (!theirs) throw new Error('no recording of this scene');
    anew[`${name} ${of}`] = theirs;
    for (const node of nodes) {
      const [[low, high], [theirLow, theirHigh]] = [extremes[node] ?? [NaN, NaN], theirs[node] ?? [NaN, NaN]];
      const size = Math.max(Math.abs(low), Math.abs(high));
      // Of the larger swing of the node: the smaller may be next to nothing.
      witness(exported, size + high - theirHigh, size, { source: elsewhere, within: 0.005 });
      witness(exported, size + low - theirLow, size, { source: elsewhere, within: 0.005 });
    }
    if (process.env['RECORD'] === '1' && Object.keys(anew).length === scenes.length)
      writeFileSync(recording, `${JSON.stringify(anew, null, 1)}\n`);
  });

  test('of a launcher has the current of its launch, and its inductances over time', () => {
    const rig = rigOf('shuttle');
    const study = launchStudy(rig, String);
    const read = readNetlist(rigDeck(rig, 'shuttle', 'discharge') ?? '');
    if (!read.ok || !study) throw new Error('no launch');
    const run = simulateCircuit(read.netlist, {
      until: read.until ?? NaN,
      tolerance: 1e-6,
      probes: ['Lld', 'Lld2', 'Lld3'].map((element) => ({ of: 'current', element }) as const),
    });
    study.stages.forEach(({ peakCurrent }, s) => {
      const most = run.traces[s]?.y.reduce((a, b) => Math.max(a, b), 0) ?? NaN;
      expect(Math.abs(most / peakCurrent - 1)).toBeLessThan(0.005);
    });
  });
});
