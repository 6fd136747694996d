import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { noSheetEdits } from '../rig/index.ts';
import { planOf } from '../run/index.ts';
import { hasNgspice } from '../test/ngspice.ts';
import { rigWith } from '../test/rigs.ts';
import { courseAfter, courseFrom, worldOf } from './world.ts';

const [C, Rb, n, V0] = [600e-6, 47e3, 3, 900];

/** Three capacitors in series, a bleeder across two of them, for a time; V of all of them and of the one without, at its end. */
function ngspice(seconds: number): { all: number; one: number } {
  const folder = mkdtempSync(join(tmpdir(), 'groups-'));
  try {
    const deck = [
      '* groups in series, one bleeder open',
      `C1 a b ${n * C} IC=${V0 / n}`,
      `C2 b c ${n * C} IC=${V0 / n}`,
      `C3 c 0 ${n * C} IC=${V0 / n}`,
      `R2 b c ${Rb}`,
      `R3 c 0 ${Rb}`,
      'Rx a 0 1e15',
      `.tran ${seconds / 400} ${seconds} UIC`,
      '.control',
      'run',
      `meas tran vall FIND v(a) AT=${seconds * 0.999}`,
      'let vo = v(a)-v(b)',
      `meas tran vone FIND vo AT=${seconds * 0.999}`,
      'quit',
      '.endc',
      '.end',
    ].join('\n');
    writeFileSync(join(folder, 'deck.cir'), deck);
    const { stdout } = spawnSync('ngspice', ['-b', join(folder, 'deck.cir')], { encoding: 'utf8', timeout: 60_000 });
    const read = (name: string) => Number(new RegExp(`^${name}\\s*=\\s*(\\S+)`, 'm').exec(stdout)?.[1] ?? NaN);
    return { all: read('vall'), one: read('vone') };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

test.skipIf(!hasNgspice())('groups in series of which one has lost its bleeder fall as ngspice has them', () => {
  const rig = rigWith({
    'supply.V': '1 kV',
    'store.V0': `${V0} V`,
    'store.C': `${n * C} F`,
    'store.ns': `${n}`,
    'store.Ri': '900 TΩ',
    'meter.V': '2 kV',
    'bleeder.kind': 'each-element',
    'bleeder.R': `${Rb} Ω`,
    'bleeder.n': '1',
    'bleeder.ng': `${n}`,
  });
  const made = planOf('groups', evaluateRig(rig), noSheetEdits);
  if (!made.ok) throw new Error(made.reason);
  const plan = { ...made.plan, numbers: { ...made.plan.numbers, meter: { ...made.plan.numbers.meter, R: null } } };
  const rehearsal = { seed: 1, speed: 1, faults: ['bleeder-open' as const] };
  const begun = courseAfter(plan, rehearsal, courseFrom(0), {
    type: 'acted',
    act: 'strap-off',
    id: '00000000-0000-4000-8000-000000000001',
    at: 0,
    screen: 'left',
  });
  const charged = { ...begun, world: { ...begun.world, volts: V0, isStrapOn: false, wasSupplyOn: true } };
  for (const seconds of [20, 90, 400]) {
    const spice = ngspice(seconds);
    const world = worldOf(plan, rehearsal, charged, seconds * 999);
    const one = (world.volts - world.leftVolts) / n + world.leftVolts;
    expect(world.volts / spice.all).toBeCloseTo(1, 3);
    expect(one / spice.one).toBeCloseTo(1, 3);
  }
});
