import { describe, expect, test } from 'vitest';
import { simulateCircuit, type Element } from '@vast-surge/core/circuit';
import { toolElements, type ToolPart } from '@vast-surge/core/block';
import { blockDefinition, newBlock } from '@vast-surge/core/kind';
import { RigReading } from '@vast-surge/core/figure';
import { newRig, withBlock, withTrialValue, type Rig } from '@vast-surge/core/rig';
import { layTool, type DrawnTool, type Place } from './tool-layout.ts';
import type { FigureId } from '@vast-surge/core/block';

/** The wiring that a drawing shows: nodes are what its wires and touching ends join. */
function readBack({ parts, wires, tip, earth }: DrawnTool): string[] {
  const joined = new Map<string, string>();
  const key = ({ x, y }: Place) => `${x}/${y}`;
  const find = (at: string): string => (joined.has(at) && joined.get(at) !== at ? find(joined.get(at) ?? at) : at);
  const join = (a: string, b: string) => joined.set(find(a), find(b));
  const ends = [tip, earth, ...parts.flatMap(({ from, to }) => [from, to])];
  for (const [a, b] of wires)
    for (const end of ends) {
      const onWire =
        (a.y === b.y && end.y === a.y && end.x >= Math.min(a.x, b.x) && end.x <= Math.max(a.x, b.x)) ||
        (a.x === b.x && end.x === a.x && end.y >= Math.min(a.y, b.y) && end.y <= Math.max(a.y, b.y));
      if (onWire) join(key(end), key(a));
    }
  for (const [a, b] of wires) join(key(a), key(b));
  const names = new Map([
    [find(key(tip)), 'tip'],
    [find(key(earth)), '0'],
  ]);
  // Nodes in between are named by the parts that meet there.
  const at = (place: Place) => {
    const root = find(key(place));
    return (
      names.get(root) ??
      `with ${parts
        .filter(({ from, to }) => [from, to].some((end) => find(key(end)) === root))
        .map(({ part }) => part.name)
        .sort()
        .join(' ')}`
    );
  };
  return parts.map(({ part, from, to }) => `${part.kind} ${part.name}: ${at(from)} → ${at(to)}`).sort();
}

/** The same of the wiring that is calculated. */
function wiredAs(wiring: readonly ToolPart[]): string[] {
  const at = (node: string) =>
    node === 'tip' || node === '0'
      ? node
      : `with ${wiring
          .filter(({ nodes }) => nodes.includes(node))
          .map(({ name }) => name)
          .sort()
          .join(' ')}`;
  return wiring.map(({ kind, name, nodes }) => `${kind} ${name}: ${at(nodes[0])} → ${at(nodes[1])}`).sort();
}

const rigWithTool = (kind: string, wiring?: string): Rig => {
  const block = newBlock(blockDefinition('tool', kind));
  const set = wiring === undefined ? block : { ...block, fields: { ...block.fields, wiring } };
  return withTrialValue(withTrialValue(withBlock(newRig(), 'tool', set), 'supply.V', 500), 'store.V0', 400);
};
const wiringOf = (rig: Rig, kind: string) => blockDefinition('tool', kind).wired?.(new RigReading(rig).ownOf('tool')) ?? [];

describe.each([
  ['lamp-tool', 'row'],
  ['lamp-tool', 'branch'],
  ['resistor-tool', undefined],
] as const)('the drawing of a %s, %s', (kind, how) => {
  const rig = rigWithTool(kind, how);
  const wiring = wiringOf(rig, kind);

  test('shows the wiring that is calculated, part by part and the way round that each is', () => {
    expect(wiring.length).toBeGreaterThan(0);
    expect(readBack(layTool(wiring))).toEqual(wiredAs(wiring));
  });

  test('has no two parts in one place, and all of it within its frame', () => {
    const { parts, width, height } = layTool(wiring);
    const places = parts.map(({ from, to }) => `${(from.x + to.x) / 2}/${(from.y + to.y) / 2}`);
    expect(new Set(places).size).toBe(places.length);
    for (const { x, y } of parts.flatMap(({ from, to }) => [from, to]))
      expect(x >= 0 && x <= width && y >= 0 && y <= height).toBe(true);
  });
});

describe.each(['row', 'branch'])('a stick with its lamps %s, as it is wired', (how) => {
  const rig = rigWithTool('lamp-tool', how);
  const reading = new RigReading(rig);
  const wiring = wiringOf(rig, 'lamp-tool');
  const run = (V: number, C: number, until: number) => {
    const store: Element[] =
      C > 0
        ? [{ kind: 'capacitor', name: 'C', nodes: ['tip', '0'], C, V0: V }]
        : [{ kind: 'voltage-source', name: 'V', nodes: ['tip', '0'], wave: { kind: 'dc', value: V } }];
    const netlist = { title: 'tool', elements: [...store, ...toolElements(wiring)] };
    const probes = [
      { of: 'current', element: 'L1' },
      { of: 'current', element: 'L2' },
      { of: 'current', element: 'Z' },
    ] as const;
    return simulateCircuit(netlist, { until, tolerance: 1e-6, maxStep: until / 400, probes });
  };
  const at = (id: FigureId) => reading.figure(id).value;

  test('lights one lamp on either polarity, with the current and the power in its clamp that are told', () => {
    const lit = (V: number) => run(V, 0, 1e-3).traces.map(({ y }) => y.at(-1) ?? NaN);
    const [plus = NaN, minus = NaN, clamp = NaN] = lit(400);
    expect(Math.abs(plus / at('lamp-current') - 1)).toBeLessThan(1e-4);
    expect(Math.abs(minus)).toBeLessThan(1e-9);
    expect(Math.abs((clamp * reading.own('tool').quantity('Vz').value) / at('clamp-power') - 1)).toBeLessThan(1e-4);
    const [against = NaN, with_ = NaN] = lit(-400);
    expect(Math.abs(against)).toBeLessThan(1e-9);
    expect(Math.abs(with_ / at('lamp-current') - 1)).toBeLessThan(1e-4);
  });

  test('goes out when and where it is said to, and its clamp takes the energy that is told', () => {
    const [C, seen] = [reading.offer('capacitance').value, reading.own('tool').quantity('Il').value];
    const made = run(400, C, 1.5 * at('lamp-on-time'));
    const [lamp, , clamp] = made.traces;
    if (!lamp || !clamp) throw new Error('no traces');
    const dark = lamp.t[lamp.y.findIndex((i, k) => k > 0 && i < seen)] ?? NaN;
    expect(Math.abs(dark / at('lamp-on-time') - 1)).toBeLessThan(0.01);
    const Vz = reading.own('tool').quantity('Vz').value;
    const energy = clamp.t.reduce(
      (sum, t, k) => (k === 0 ? 0 : sum + ((t - (clamp.t[k - 1] ?? 0)) * ((clamp.y[k] ?? 0) + (clamp.y[k - 1] ?? 0)) * Vz) / 2),
      0,
    );
    expect(Math.abs(energy / at('clamp-energy') - 1)).toBeLessThan(0.01);
    // Below what it is said to go out at it is dark, whatever the polarity: that is not empty.
    const below = run(at('lamp-out') * 0.98, 0, 1e-3).traces.map(({ y }) => y.at(-1) ?? NaN);
    expect(Math.max(...below.slice(0, 2))).toBeLessThan(seen);
    expect(at('lamp-out')).toBeGreaterThan(1);
  });
});
