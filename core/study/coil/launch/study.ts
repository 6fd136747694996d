import { Unavailable } from '../../../block/index.ts';
import { launch, sleeveTurn, type Firing, type LaunchRun } from '../../../model/launch/index.ts';
import type { UnitId } from '../../../quantity/index.ts';
import type { Rig } from '../../../rig/index.ts';
import { muzzleOf, type Muzzle } from './muzzle.ts';
import { armatureOf, launchSetup, longestOf, outOf, specOf, warmedBy, type CoilSetup, type LaunchSetup } from './setup.ts';

/** What one coil did. */
export interface LaunchStage {
  /** s and m: when and where it fired; null where it never did. */
  readonly fired: { readonly t: number; readonly x: number } | null;
  readonly peakCurrent: number;
  /** m/s: when it fired, and when the next one did or it has left. */
  readonly before: number;
  readonly after: number;
  /** m/s: the greatest in between. */
  readonly fastest: number;
  /** J taken from its store; and what of it went into motion, as a share. */
  readonly taken: number;
  readonly efficiency: number;
  /** s: when its current has ended; null where it has not or never began. */
  readonly ends: number | null;
  /** s: when the middle of the projectile passes its middle; null where it does not. */
  readonly passes: number | null;
  /** Lowest voltage of its store over what it was charged to: below nought where it is reversed. */
  readonly reversal: number;
  /** K that its wire warms in one shot. */
  readonly warmer: number;
}

/** What an error of the timing costs. */
export interface TimingCost {
  /** s: early below nought. */
  readonly error: Float64Array;
  /** m/s at the exit, for each coil behind the first. */
  readonly exit: readonly Float64Array[];
}

/** One launch of a rig whose load is a coilgun stage. */
export interface LaunchStudy {
  readonly run: LaunchRun;
  readonly coils: readonly CoilSetup[];
  readonly projectile: LaunchSetup['projectile'];
  /** m from the middle of the first coil to the muzzle; null where it is not given. */
  readonly barrel: number | null;
  /** m that it rises above the place where it is out of reach; null where the barrel lies level. */
  readonly rises: number | null;
  /** s to charge all stores one after the other; null where it cannot be told. */
  readonly recharge: number | null;
  readonly stages: readonly LaunchStage[];
  /** What it came to at the muzzle. */
  readonly muzzle: Muzzle;
  /** Where the energy is when it passes the muzzle, J; of one that does not leave, when it is over. */
  readonly energy: LaunchRun['energy'];
  /** m/s that the muzzle speed lies between nine times out of ten. */
  readonly range: { readonly low: number; readonly high: number };
  /** m/s: at the muzzle, and the greatest on the way. */
  readonly exit: number;
  readonly fastest: number;
  /** Energy of motion at the muzzle over what was stored. */
  readonly efficiency: number;
  readonly peakCurrent: number;
  /** s from the firing of the coil with that current to it. */
  readonly timeToPeak: number;
  /** null for a single coil. */
  readonly timing: TimingCost | null;
  /** What is wrong with it in plain words, the number in each. */
  readonly said: readonly string[];
}

const top = (values: Float64Array): number => values.reduce((most, y) => Math.max(most, y), 0);
const exitOf = (run: LaunchRun, barrel: number | null): number => muzzleOf(run, barrel).speed;

/** Value of a trace at an instant, straight between its points. */
function valueAt(t: Float64Array, y: Float64Array, when: number): number {
  let k = t.findIndex((x) => x >= when);
  if (k < 0) k = t.length - 1;
  if (k === 0) return y[0] ?? NaN;
  const [t0, t1, y0, y1] = [t[k - 1] ?? 0, t[k] ?? 0, y[k - 1] ?? 0, y[k] ?? 0];
  return t1 > t0 ? y0 + ((y1 - y0) * (Math.min(when, t1) - t0)) / (t1 - t0) : y1;
}

/** The instant at which a trace passes a value upwards; null where it does not. */
function passing(t: Float64Array, y: Float64Array, value: number): number | null {
  for (let k = 1; k < t.length; k++) {
    const [a, b] = [(y[k - 1] ?? 0) - value, (y[k] ?? 0) - value];
    if (a < 0 && b >= 0) return (t[k - 1] ?? 0) + (((t[k] ?? 0) - (t[k - 1] ?? 0)) * -a) / (b - a);
  }
  return null;
}

const shoot = (setup: LaunchSetup, fire: readonly Firing[], tolerance: number): LaunchRun =>
  launch(specOf(setup, fire), { until: longestOf(setup), beyond: outOf(setup), tolerance });

/** When the first so many coils fire that are not left open. */
const asSaid = ({ fired }: CoilSetup): Firing => {
  switch (fired.by) {
    case 'sensor':
      return { by: 'position', x: fired.x };
    case 'after':
      return { by: 'delay', t: fired.t };
    case 'time':
      return { by: 'time', t: fired.t };
    default:
      return { by: 'time', t: 0 };
  }
};

/** The place at which a coil is best fired: by steps over all places from the coil before to its own, then by golden sections. */
function bestPlace(from: number, to: number, exit: (x: number) => number): number {
  const steps = 14;
  let [best, most] = [from, -Infinity];
  for (let k = 0; k <= steps; k++) {
    const x = from + ((to - from) * k) / steps;
    const v = exit(x);
    if (v > most) [best, most] = [x, v];
  }
  let [low, high] = [Math.max(from, best - (to - from) / steps), Math.min(to, best + (to - from) / steps)];
  const golden = (Math.sqrt(5) - 1) / 2;
  let [a, b] = [high - golden * (high - low), low + golden * (high - low)];
  let [va, vb] = [exit(a), exit(b)];
  for (let i = 0; i < 12; i++) {
    if (va > vb) {
      [high, b, vb] = [b, a, va];
      a = high - golden * (high - low);
      va = exit(a);
    } else {
      [low, a, va] = [a, b, vb];
      b = low + golden * (high - low);
      vb = exit(b);
    }
  }
  return va > vb ? a : b;
}

/** How each coil is fired; where that is left open, so that the speed behind it is greatest, one coil after the other. */
export function firingOf(setup: LaunchSetup): Firing[] {
  const fire: Firing[] = [];
  setup.coils.forEach((coil, k) => {
    if (coil.fired.by !== 'best') {
      fire.push(asSaid(coil));
      return;
    }
    const upTo = { ...setup, coils: setup.coils.slice(0, k + 1) };
    const before = setup.coils[k - 1] as CoilSetup;
    const from = Math.max(before.at - before.winding.length / 2, setup.projectile.start + 1e-6);
    const x = bestPlace(from, coil.at + coil.winding.length / 2, (place) =>
      // Behind this coil stand others: what counts is the speed that it leaves it with, wherever the barrel ends.
      exitOf(shoot(upTo, [...fire, { by: 'position', x: place }], 1e-4), k === setup.coils.length - 1 ? setup.barrel : null),
    );
    fire.push({ by: 'position', x });
  });
  return fire;
}

/** A current below this share of its peak has ended, and below the holding current of its thyristor. */
const endedAt = 0.01;

/** s when the current of a coil has ended for good; null where it never flowed, or still does. */
function endOf(t: Float64Array, i: Float64Array, holding: number): number | null {
  const peak = top(i);
  const least = Math.max(endedAt * peak, holding);
  let last = i.length - 1;
  while (last > 0 && Math.abs(i[last] ?? 0) <= least) last -= 1;
  return peak > 0 && last < i.length - 1 ? (t[last + 1] ?? null) : null;
}

function stagesOf(setup: LaunchSetup, run: LaunchRun, muzzle: Muzzle): LaunchStage[] {
  const firedAt = setup.coils.map((_, s) => run.events.find((e) => e.stage === s && e.what === 'fires')?.t ?? null);
  return setup.coils.map(({ at, C, V0, winding, holding, metal }, s): LaunchStage => {
    const t = firedAt[s] ?? null;
    const end = muzzle.t ?? run.t.at(-1) ?? 0;
    const until = firedAt.slice(s + 1).find((next) => next !== null && next > (t ?? 0)) ?? end;
    const V = run.V[s] ?? new Float64Array();
    const taken = 0.5 * C * (V0 ** 2 - (V.at(-1) ?? V0) ** 2);
    const [before, after] = t === null ? [NaN, NaN] : [valueAt(run.t, run.v, t), valueAt(run.t, run.v, until)];
    return {
      fired: t === null ? null : { t, x: valueAt(run.t, run.x, t) },
      peakCurrent: top(run.i[s] ?? new Float64Array()),
      before,
      after,
      fastest: run.v.reduce(
        (most, v, k) => ((run.t[k] ?? 0) >= (t ?? end) && (run.t[k] ?? 0) <= until ? Math.max(most, v) : most),
        0,
      ),
      taken,
      efficiency: taken > 0 ? (0.5 * setup.projectile.mass * (after ** 2 - before ** 2)) / taken : 0,
      ends: endOf(run.t, run.i[s] ?? new Float64Array(), holding),
      passes: passing(run.t, run.x, at),
      reversal: V.reduce((least, v) => Math.min(least, v), V0) / V0,
      warmer: warmedBy(metal, winding, run.action[s] ?? 0),
    };
  });
}

/** 1, 2 or 5 times a power of ten, not above a value. */
function roundStep(value: number): number {
  const ten = 10 ** Math.floor(Math.log10(value));
  return ten * ([5, 2, 1].find((k) => k * ten <= value) ?? 1);
}

/** Each coil behind the first a little early and late, the others fired as they are. */
function timingOf(setup: LaunchSetup, fire: readonly Firing[], stages: readonly LaunchStage[]): TimingCost | null {
  if (setup.coils.length < 2) return null;
  const rise = Math.min(...setup.coils.map(({ L, C }) => (Math.PI / 2) * Math.sqrt(L * C)));
  const step = roundStep(rise / 5);
  const steps = [-4, -3, -2, -1, 0, 1, 2, 3, 4];
  return {
    error: Float64Array.from(steps, (k) => k * step),
    exit: stages.slice(1).map(({ fired }, s) =>
      Float64Array.from(steps, (k) => {
        if (!fired) return NaN;
        const shifted = fire.map((f, j): Firing => (j === s + 1 ? { by: 'time', t: Math.max(0, fired.t + k * step) } : f));
        return exitOf(shoot(setup, shifted, 1e-5), setup.barrel);
      }),
    ),
  };
}

/** Of less capacitance in one store the one from which it leaves that coil fastest: by steps of a fifth, over two decades; null where none is better. */
function bestCapacitance(
  setup: LaunchSetup,
  s: number,
  now: number,
  exit: (other: LaunchSetup) => number,
): { C: number; exit: number } | null {
  const { C } = setup.coils[s] as CoilSetup;
  let best: { C: number; exit: number } | null = null;
  for (let less = C / 1.2; less > C / 100; less /= 1.2) {
    const v = exit({ ...setup, coils: setup.coils.map((coil, k) => (k === s ? { ...coil, C: less } : coil)) });
    if (v > (best?.exit ?? 1.01 * now)) best = { C: less, exit: v };
  }
  return best;
}

/** s in which the current of a sleeve dies to 1/e; null of a slug. */
function dyingOf({ projectile: { body, diameter, length } }: LaunchSetup): number | null {
  if (body.kind === 'slug') return null;
  const { L, R } = sleeveTurn({ diameter: diameter - body.wall, length, wall: body.wall, resistivity: body.metal.resistivity });
  return L / R;
}

type Print = (value: number, unit: UnitId) => string;

function wordsOf(
  setup: LaunchSetup,
  fire: readonly Firing[],
  run: LaunchRun,
  stages: readonly LaunchStage[],
  muzzle: Muzzle,
  print: Print,
): string[] {
  const said: string[] = [];
  const several = stages.length > 1;
  const isSlug = setup.projectile.body.kind === 'slug';
  const it = isSlug ? 'the slug' : 'the sleeve';
  stages.forEach((stage, s) => {
    const coil = setup.coils[s] as CoilSetup;
    const name = several ? `Coil ${s + 1}: ` : '';
    if (!stage.fired) {
      said.push(`${name}never fires: ${it} does not reach its sensor, or comes back before its time.`);
      return;
    }
    const { passes, ends } = stage;
    // How late it is by the time since it was fired.
    const way = passes === null ? null : passes - stage.fired.t;
    const pulse = ends === null ? null : ends - stage.fired.t;
    if (isSlug && way !== null && pulse !== null && stage.after < 0.98 * stage.fastest) {
      const upTo = { ...setup, coils: setup.coils.slice(0, s + 1) };
      // What all coils up to this one do, with nothing behind them.
      const barrel = s === stages.length - 1 ? setup.barrel : null;
      const now = exitOf(shoot(upTo, fire, 1e-4), barrel);
      const better = bestCapacitance(upTo, s, now, (other) => exitOf(shoot(other, fire, 1e-4), barrel));
      said.push(
        `${name}Pulled back (suck-back): ${print(stage.fastest, 'm/s')} on its way, muzzle speed ${print(stage.after, 'm/s')}. The pulse lasts ${print(pulse, 's')}, the slug is centred after ${print(way, 's')}. ${
          better
            ? `At the same ${print(coil.V0, 'V')} about ${print(better.C, 'F')} end in time: muzzle speed is then ${print(better.exit, 'm/s')}.`
            : `A smaller store does not help: ${coil.freewheel ? 'the freewheel diode keeps the current up; a resistor in its path, fewer turns, or ' : 'fewer turns, or '}${s === 0 ? 'a start further back' : 'firing it earlier'} does.`
        }`,
      );
    }
    if (way !== null && pulse !== null && pulse < 0.3 * way && isSlug)
      said.push(
        `${name}The pulse is over after ${print(pulse, 's')}, long before the slug is centred after ${print(way, 's')}: more capacitance, or more turns, push it for longer${several ? '; or fire it later' : ''}.`,
      );
    const dies = dyingOf(setup);
    if (dies !== null && pulse !== null && pulse > 6 * dies)
      said.push(
        `${name}The current in the sleeve dies within ${print(dies, 's')} (its L/R), the pulse lasts ${print(pulse, 's')}: once the field is in it, what flows when the field falls pulls it back. Less capacitance at more voltage, fewer turns, or a thicker wall.`,
      );
    if (coil.switchPeak !== null && stage.peakCurrent > coil.switchPeak)
      said.push(
        `${name}the current reaches ${print(stage.peakCurrent, 'A')}, the switch is rated ${print(coil.switchPeak, 'A')}: use more turns, or less voltage.`,
      );
    if (s > 0 && stage.after < stage.before)
      said.push(
        `${name}Brakes: from ${print(stage.before, 'm/s')} to ${print(stage.after, 'm/s')}. Fire it ${way !== null && way < 0 ? 'earlier: the slug has already passed the centre' : 'elsewhere, or let it be worked out with best'}.`,
      );
  });
  const away = run.v.at(-1) ?? 0;
  if (muzzle.suckBack && muzzle.x !== null && !said.some((text) => /back/i.test(text)))
    said.push(
      `Pulled back (suck-back): ${print(muzzle.fastest, 'm/s')} on its way, ${print(muzzle.speed, 'm/s')} at the muzzle. A shorter pulse, an earlier shot, or a muzzle nearer to the coil.`,
    );
  if (muzzle.verdict === 'does not leave' && setup.barrel !== null && away >= 0)
    said.push(
      `Does not leave: stops at ${print(
        run.x.reduce((far, x) => Math.max(far, x), -Infinity),
        'm',
      )} from the centre of the first coil; the muzzle is at ${print(setup.barrel, 'm')}.`,
    );
  if (away < 0)
    said.push(`Leaves by the breech, at ${print(-away, 'm/s')}: the start is on the wrong side of the centre of the first coil.`);
  else if (stages[0]?.passes === null && isSlug && away < 0.5)
    said.push(
      `Does not get through: ${print(run.x.at(-1) ?? NaN, 'm')} from the centre when the pulse is over. Use more current or less friction, or start nearer.`,
    );
  return said;
}

/** The greatest current of all coils, and how long after its firing. */
function peakOf(run: LaunchRun, stages: readonly LaunchStage[]): { peakCurrent: number; timeToPeak: number } {
  const peakCurrent = Math.max(...stages.map((stage) => stage.peakCurrent));
  const s = stages.findIndex((stage) => stage.peakCurrent === peakCurrent);
  const at = run.t[(run.i[s] ?? new Float64Array()).indexOf(peakCurrent)] ?? NaN;
  return { peakCurrent, timeToPeak: at - (stages[s]?.fired?.t ?? 0) };
}

/** The energy at the instant of the muzzle: the same launch, run to there. */
function energyAt(setup: LaunchSetup, fire: readonly Firing[], run: LaunchRun, { t }: Muzzle): LaunchRun['energy'] {
  if (t === null) return run.energy;
  return launch(specOf(setup, fire), { until: t, tolerance: 1e-6, traces: false }).energy;
}

/**
 * What the model leaves out, as a share of the muzzle speed: even magnetisation, friction that changes, wire that warms. Common
 * practice, no source.
 */
const modelError = 0.08;

/**
 * s until a solid slug is magnetised to its axis: the front of saturation comes in to σ·Bs·a²/4 = ∫H dt, H the mean field of its coil.
 * Limiting law of a saturating cylinder; Agarwal, from memory. A slit or laminated one has none.
 */
function soaking({ projectile: { body, diameter }, coils }: LaunchSetup, peak: number): number {
  const [first] = coils;
  if (body.kind !== 'slug' || body.laminated || !first || !(peak > 0)) return 0;
  const H = (0.6 * first.winding.turns * peak) / first.winding.length;
  return (body.saturation * 4e-7 * Math.PI * (diameter / 2) ** 2) / (4 * body.resistivity * H);
}

function rangeOf(setup: LaunchSetup, stages: readonly LaunchStage[], { speed }: Muzzle): { low: number; high: number } {
  const [first] = stages;
  const way = first?.fired && first.passes !== null ? first.passes - first.fired.t : 0;
  // So long the force is missing from the middle of the slug: half of it in the mean. It always takes speed.
  const share = way > 0 ? Math.min(0.9, (0.5 * soaking(setup, first?.peakCurrent ?? 0)) / way) : 0;
  const eddies = 1 - Math.sqrt(1 - share);
  return { low: speed * (1 - Math.hypot(modelError, eddies)), high: speed * (1 + modelError) };
}

/** @throws Unavailable where its numbers run away */
function shot(setup: LaunchSetup, fire: readonly Firing[]): { readonly run: LaunchRun; readonly muzzle: Muzzle } {
  const run = launch(specOf(setup, fire, armatureOf(setup)), { until: longestOf(setup), beyond: outOf(setup), tolerance: 1e-6 });
  if (!run.t.every(Number.isFinite) || !run.v.every(Number.isFinite))
    throw new Unavailable('load', 'the launch could not be worked out: its numbers run away');
  return { run, muzzle: muzzleOf(run, setup.barrel) };
}

/** m/s at the muzzle, as {@link launchStudy} has it, and nothing else: a tenth of its time. @throws as that does */
export function launchSpeed(rig: Rig): number | null {
  const setup = launchSetup(rig);
  return setup && shot(setup, firingOf(setup)).muzzle.speed;
}

/** m/s at the muzzle: from what to what its model puts it, as {@link launchStudy} has it. @throws as that does */
export function launchSpeedRange(rig: Rig): LaunchStudy['range'] | null {
  const setup = launchSetup(rig);
  if (!setup) return null;
  const { run, muzzle } = shot(setup, firingOf(setup));
  return rangeOf(setup, stagesOf(setup, run, muzzle), muzzle);
}

/** m from the centre of the first coil: where the slug is when each coil behind the first does best to fire. @throws as {@link launchStudy} does */
export function bestSensors(rig: Rig): readonly number[] | null {
  const setup = launchSetup(rig);
  if (!setup) return null;
  const free = setup.coils.map((coil, k) => (k === 0 ? coil : { ...coil, fired: { by: 'best' } as const }));
  return firingOf({ ...setup, coils: free })
    .slice(1)
    .map((firing) => (firing.by === 'position' ? firing.x : NaN));
}

/**
 * Shoots what a rig launches through its coils, the switch of the first closing at zero.
 *
 * @param print how a number is written
 * @returns null where the load is no coilgun stage
 * @throws Unavailable, FormulaError where it cannot be worked out: a slug wider than its bore, wire that cannot be wound
 */
export function launchStudy(rig: Rig, print: Print): LaunchStudy | null {
  const setup = launchSetup(rig);
  if (!setup) return null;
  const fire = firingOf(setup);
  const { run, muzzle } = shot(setup, fire);
  const stages = stagesOf(setup, run, muzzle);
  const energy = energyAt(setup, fire, run, muzzle);
  return {
    run,
    coils: setup.coils,
    projectile: setup.projectile,
    barrel: setup.barrel,
    muzzle,
    energy,
    range: rangeOf(setup, stages, muzzle),
    rises: setup.weight > 0 ? muzzle.speed ** 2 / (2 * setup.weight) : null,
    recharge: setup.recharge,
    stages,
    exit: muzzle.speed,
    fastest: muzzle.fastest,
    efficiency: energy.kinetic / energy.stored,
    ...peakOf(run, stages),
    timing: timingOf(setup, fire, stages),
    said: wordsOf(setup, fire, run, stages, muzzle, print),
  };
}
