import { Unavailable, slugOf, windingOf, type Winding } from '../block/index.ts';
import { RigReading } from '../figure/index.ts';
import { ferromagnetic, launch, type Armature, type LaunchRun } from '../launch/index.ts';
import type { UnitId } from '../quantity/index.ts';
import { blockIn, type Rig } from '../rig/index.ts';

/** One launch of a rig whose load is a coilgun stage. */
export interface LaunchStudy {
  readonly run: LaunchRun;
  readonly winding: Winding;
  readonly slug: { readonly diameter: number; readonly length: number; readonly mass: number };
  /** m/s: when it has left, and the greatest on the way. */
  readonly exit: number;
  readonly fastest: number;
  /** Energy of motion at the end over what was stored. */
  readonly efficiency: number;
  readonly peakCurrent: number;
  /** s: when the middle of the slug passes that of the coil; null where it does not. */
  readonly passes: number | null;
  /** s: when the current has ended, or the end of the run. */
  readonly pulse: number;
  /** What is wrong with it in plain words, the number in each. */
  readonly said: readonly string[];
}

const armatures = new Map<string, Armature>();

/** The field of a coil in a slug takes some milliseconds to table: it is kept while other things are changed. */
function armatureOf(winding: Winding, L: number, slug: ReturnType<typeof slugOf>): Armature {
  const key = JSON.stringify([winding.layers, L, slug.diameter, slug.length, slug.saturation, slug.susceptibility]);
  let made = armatures.get(key);
  if (!made) {
    made = ferromagnetic(slug, [{ layers: winding.layers, at: 0, L }]);
    if (armatures.size >= 20) armatures.clear();
    armatures.set(key, made);
  }
  return made;
}

/** The instant at which a trace passes nought upwards; null where it does not. */
function passing(t: Float64Array, y: Float64Array): number | null {
  for (let k = 1; k < t.length; k++) {
    const [a, b] = [y[k - 1] ?? 0, y[k] ?? 0];
    if (a < 0 && b >= 0) return (t[k - 1] ?? 0) + (((t[k] ?? 0) - (t[k - 1] ?? 0)) * -a) / (b - a);
  }
  return null;
}

/** Of less capacitance the one from which the slug leaves fastest: by steps of a fifth, over two decades. */
function bestCapacitance(C: number, shoot: (C: number) => LaunchRun): { C: number; exit: number } {
  let best = { C, exit: 0 };
  for (let less = C / 1.2; less > C / 100; less /= 1.2) {
    const exit = shoot(less).v.at(-1) ?? 0;
    if (exit > best.exit) best = { C: less, exit };
  }
  return best;
}

/**
 * Shoots the slug of a rig through its coil, the switch closing at nought.
 *
 * @param print how a number is written
 * @returns null where the load is no coilgun stage
 * @throws Unavailable, FormulaError where it cannot be worked out: a slug wider than its bore, wire that cannot be wound
 */
export function launchStudy(rig: Rig, print: (value: number, unit: UnitId) => string): LaunchStudy | null {
  if (blockIn(rig, 'load').kind !== 'coilgun-stage') return null;
  const reading = new RigReading(rig);
  const own = reading.own('load');
  const [winding, slug] = [windingOf(own), slugOf(own)];
  const [L, R, C, V0] = ['loop-inductance', 'loop-resistance', 'discharge-capacitance', 'discharge-voltage'].map(
    (id) => reading.figure(id).value,
  ) as [number, number, number, number];
  if (!(V0 > 0)) throw new Unavailable('store', 'the store is not charged', 'V0');
  const armature = armatureOf(winding, L, slug);
  const spec = {
    stages: [
      {
        C,
        V0,
        R,
        Vt: reading.offers('switch').threshold?.value ?? 0,
        freewheel: own.choice('diode') === 'diode' ? { Vf: 0.9, R: 5e-3 } : null,
        fire: { by: 'time', t: 0 },
      },
    ],
    armature,
    mass: slug.mass,
    x0: slug.start,
    v0: 0,
    friction: slug.friction,
  } as const;
  // Until the pulse is over and the slug out of reach, as far as that can be told beforehand; a slow one is not waited for.
  const pulse = 4 * Math.PI * Math.sqrt(L * C) + 6 * R * C + (own.choice('diode') === 'diode' ? (8 * L) / R : 0);
  const until = Math.max(pulse, 30e-3);
  const run = launch(spec, { until, tolerance: 1e-6 });
  const top = (values: Float64Array) => values.reduce((most, y) => Math.max(most, y), 0);
  const exit = run.v.at(-1) ?? 0;
  const fastest = top(run.v);
  const passes = passing(run.t, run.x);
  const ends = run.events.find((e) => e.what === 'ends')?.t ?? run.t.at(-1) ?? 0;
  const said: string[] = [];
  if (passes !== null && ends > 1.1 * passes && exit < 0.95 * fastest) {
    const better = bestCapacitance(C, (less) =>
      launch({ ...spec, stages: [{ ...spec.stages[0], C: less }] }, { until, tolerance: 1e-4 }),
    );
    said.push(
      `Sucked back: it is at ${print(fastest, 'm/s')} on its way and leaves with ${print(exit, 'm/s')}. The pulse lasts ${print(ends, 's')}, the slug is in the middle after ${print(passes, 's')}. At the same ${print(V0, 'V')} about ${print(better.C, 'F')} end in time: it then leaves with ${print(better.exit, 'm/s')}.`,
    );
  }
  if (passes === null && exit < 0.5)
    said.push(
      `It does not get through: it is at ${print(run.x.at(-1) ?? NaN, 'm')} from the middle when the pulse is over. More current, less friction, or begin nearer.`,
    );
  if (passes !== null && ends < 0.3 * passes)
    said.push(
      `The pulse is over after ${print(ends, 's')}, long before the slug is in the middle after ${print(passes, 's')}: more capacitance, or more turns, push it for longer.`,
    );
  return {
    run,
    winding,
    slug,
    exit,
    fastest,
    efficiency: run.energy.kinetic / run.energy.stored,
    peakCurrent: top(run.i[0] ?? new Float64Array()),
    passes,
    pulse: ends,
    said,
  };
}
