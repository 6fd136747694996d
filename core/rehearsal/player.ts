import { longestBleed } from '../block/index.ts';
import { stepAt, type PlanStep, type RunEvent, type RunPlan } from '../run/index.ts';
import { printDuration, printQuantity } from '../quantity/index.ts';
import type { RehearsalAct } from './act.ts';
import type { FaultId } from './fault.ts';
import type { Rehearsal } from './rehearsal.ts';
import { courseAfter, courseFrom, isPartOfStore, meterGain, timeAt, worldOf, type Course, type World } from './world.ts';

/** Something or somebody that came to a charge. */
export interface Contact {
  readonly who: 'hand' | 'tool' | 'strap';
  readonly where: string;
  readonly step: string;
  readonly volts: number;
  readonly joules: number;
}

/** How a sheet went in the hands of somebody who does what it says. */
export interface Played {
  readonly executable: boolean;
  readonly unexecutable: readonly { readonly step: string; readonly reason: string }[];
  readonly fired: boolean;
  readonly voltageAtShot: number | null;
  readonly band: { readonly low: number; readonly high: number } | null;
  readonly inBand: boolean;
  /** J, the greatest that met anything but a tool. */
  readonly worstHandEnergy: number;
  readonly contacts: readonly Contact[];
  readonly seconds: number;
}

export interface Playing {
  /** s for every human act; null: as the sheet has them. */
  readonly pace: number | null;
  readonly faults: readonly FaultId[];
  readonly seed: number;
}

/** More steps than any sheet takes with all its branches: one that goes round and round is not carried out. */
const mostSteps = 400;
/** s within which a person who watches calls back another one. */
const callingBack = 2;
/** s that a tool stays on when the voltage has come back, as the sheet says. */
const againSeconds = 300;

type Bare = RunEvent extends infer E ? (E extends RunEvent ? Omit<E, 'id' | 'at' | 'screen'> : never) : never;

class Player {
  now = 0;
  course: Course = courseFrom(0);
  count = 0;
  readonly contacts: Contact[] = [];
  readonly cannot: { step: string; reason: string }[] = [];
  offAt: number | null = null;
  again = 0;
  /** No step lets anybody go on. */
  isStuck = false;
  readonly plan: RunPlan;
  readonly playing: Playing;
  readonly rehearsal: Rehearsal;
  constructor(plan: RunPlan, playing: Playing) {
    this.plan = plan;
    this.playing = playing;
    this.rehearsal = { seed: playing.seed, speed: 1, faults: [...playing.faults] };
  }

  get world(): World {
    return worldOf(this.plan, this.rehearsal, this.course, this.now);
  }
  get step(): PlanStep | null {
    return stepAt(this.plan, this.course.state);
  }

  send(bare: Bare): boolean {
    const before = this.course.state;
    const id = `00000000-0000-4000-8000-${String(this.count++).padStart(12, '0')}`;
    this.course = courseAfter(this.plan, this.rehearsal, this.course, { ...bare, id, at: this.now, screen: 'left' } as RunEvent);
    return this.course.state !== before && (this.course.state.index !== before.index || this.course.state.path !== before.path);
  }
  act(act: RehearsalAct): void {
    this.send({ type: 'acted', act });
  }

  /** Time passes, s; whoever comes to the guard is seen and called back. */
  pass(seconds: number): void {
    const until = this.now + seconds * 1000;
    const { comesAt, isCalledBack } = this.course.world;
    if (comesAt !== null && !isCalledBack && comesAt + callingBack * 1000 <= until) {
      this.now = Math.max(this.now, comesAt + callingBack * 1000);
      this.act('call-back');
    }
    this.now = Math.max(this.now, until);
  }
  /** s of a human act at a step. */
  hands(step: PlanStep): number {
    return this.playing.pace ?? step.seconds;
  }

  joules(volts: number): number {
    return 0.5 * this.plan.numbers.capacitance * volts ** 2;
  }
  meet(who: Contact['who'], where: string, step: PlanStep, volts: number, joules = this.joules(volts)): void {
    this.contacts.push({ who, where, step: step.id, volts, joules });
  }

  /** The meter is put to a known source; what is wrong with it is mended or another is taken, and proved again. */
  prove(step: PlanStep): void {
    this.act('prove-meter');
    const { found, meter, isMeterDestroyed } = this.world;
    const isWrong =
      meter === 'first' && (['meter-lead-off', 'meter-battery', 'wrong-range'] as const).some((id) => found[id] !== undefined);
    if (!isWrong && !isMeterDestroyed) return;
    this.pass(this.hands(step));
    this.act(isMeterDestroyed ? 'second-meter' : 'mend-meter');
    this.act('prove-meter');
  }

  /** Waits while it is charged: until the meter shows what is to be reached, the gap has fired, or nothing comes of it any more. */
  charge(): void {
    const { charged } = this.plan.numbers;
    const curve = this.plan.curves.charge;
    const at = curve ? timeAt(curve, 0.9999 * charged) : 1;
    this.pass(at);
    for (let i = 0; i < 120; i++) {
      if (this.world.volts >= 0.999 * charged || this.world.hasFired) return;
      this.pass(at / 60);
    }
  }

  /** The stores after the first are charged one after the other, while it falls; whether that was soon enough. */
  chargeOthers(step: PlanStep): boolean {
    const { further, charged, shot } = this.plan.numbers;
    if (further === 0) return true;
    const curve = this.plan.curves.charge;
    const each = this.hands(step) + (curve ? timeAt(curve, 0.999 * charged) : 1);
    this.act('supply-off');
    this.pass(further * each);
    if (shot?.turns == null || further * each <= shot.turns) return true;
    this.cannot.push({
      step: step.id,
      reason: `The last store is charged ${printDuration(further * each)} after the first, and all are charged within ${printDuration(shot.turns)}: bled, and begun again.`,
    });
    this.send({ type: 'aborted', reason: 'the first has fallen too far' });
    return false;
  }

  /** Another shot than the one that was meant, or none: what the sheet calls it. */
  outcome(step: PlanStep, outcome: 'fired' | 'misfire' | 'pre-fire' | 'partial'): void {
    this.send({ type: 'outcome', step: step.id, outcome });
  }

  fire(step: PlanStep): void {
    const { shot, cannot } = this.plan.numbers;
    const [reason] = cannot;
    if (shot?.byItself && reason === undefined) {
      this.pass(this.hands(step));
      this.charge();
      this.outcome(step, this.world.hasFired ? 'fired' : 'misfire');
      return;
    }
    this.pass(this.hands(step));
    const passed = this.offAt === null ? 0 : (this.now - this.offAt) / 1000;
    const late =
      shot?.within != null && passed > shot.within + 1e-6
        ? `${printDuration(passed)} have passed since the supply was off, and it is fired within ${printDuration(shot.within)}: bled, and begun again.`
        : null;
    if (reason !== undefined || late !== null) {
      if (late !== null && reason === undefined) this.cannot.push({ step: step.id, reason: late });
      this.send({ type: 'aborted', reason: 'not fired' });
      return;
    }
    this.act('fire');
    this.outcome(step, this.world.hasFired ? 'fired' : 'misfire');
  }

  apply(step: PlanStep): void {
    this.pass(this.hands(step));
    this.meet('tool', 'the store', step, this.world.volts);
    this.act('tool-on');
    this.pass(Math.max(step.wait ?? 0, this.again > 0 ? againSeconds : 0));
  }

  read(step: PlanStep): void {
    const stands = step.of === undefined ? this.world.volts : this.beside(step.of);
    const value = stands * meterGain(this.rehearsal, this.world);
    this.send({ type: 'read', step: step.id, value, source: 'meter', confirmed: true });
  }

  strap(step: PlanStep): void {
    this.meet('tool', 'the store', step, this.world.volts);
    this.act('tool-on');
    this.pass(this.hands(step));
    const before = this.world.volts;
    this.meet('strap', 'the store', step, before);
    this.act('strap-on');
    this.act('look-strap');
    // Its second clip was off: it is put on, and looked at once more.
    if (!this.world.isStrapOn) {
      this.pass(this.hands(step));
      this.act('strap-on');
    }
    this.act('tool-off');
  }

  meetHeld(who: Contact['who'], held: RunPlan['numbers']['held'][number], step: PlanStep, volts: number): void {
    const where = held.count === 1 ? `the ${held.one}` : `each ${held.one}`;
    this.meet(who, where, step, volts, held.joules * (volts / held.volts) ** 2);
  }
  heldOf(step: PlanStep) {
    return this.plan.numbers.held.find((one) => one.id === step.of);
  }
  /** V that one of them has when it is gone to. */
  beside(id: string): number {
    const { leftVolts, beside } = this.world;
    return isPartOfStore(id) ? Math.abs(leftVolts) : (beside[id] ?? 0);
  }
  held(step: PlanStep): void {
    const held = this.heldOf(step);
    if (!held) return;
    this.pass(this.hands(step));
    this.meetHeld('tool', held, step, this.beside(held.id));
    this.act('touch-stages');
    this.pass(step.wait ?? 0);
  }
  /** The tool once more and a strap on what was discharged and read. */
  strapHeld(step: PlanStep): void {
    const held = this.heldOf(step);
    if (!held) return;
    const before = this.beside(held.id);
    this.meetHeld('tool', held, step, before);
    const left = held.toolTau > 0 ? before * Math.exp(-this.hands(step) / held.toolTau) : before;
    this.meetHeld('strap', held, step, left);
  }

  /** What the meter shows from outside the guard is below the goal. */
  get readsBelow(): boolean {
    const { numbers } = this.plan;
    return this.world.volts * meterGain(this.rehearsal, this.world) < numbers.below && !this.world.isMeterDestroyed;
  }
  /** To its worst time; with a dump no longer than until the meter reads below the goal, and not at all where nobody can. */
  waitForBleeder(): void {
    const { bleeder, dump } = this.plan.numbers;
    if (!bleeder || (dump === null && bleeder.nominal > longestBleed)) return;
    const worst = bleeder.worst ?? longestBleed;
    for (let i = 0; i < 50 && !(dump !== null && this.readsBelow); i++) this.pass(worst / 50);
  }

  /** One step, as it says. */
  obey(step: PlanStep): void {
    const { does } = step;
    if (does === 'fire') return this.fire(step);
    if (does === 'isolate') {
      this.offAt = this.now;
      this.act('supply-off');
      this.act('isolate');
      this.pass(this.hands(step));
      this.act('look-isolator');
    } else if (does === 'charge') {
      this.pass(this.hands(step));
      this.act('supply-on');
      if (!this.plan.numbers.shot?.byItself) {
        this.charge();
        const { volts, hasFired } = this.world;
        if (volts < 0.99 * this.plan.numbers.charged && !hasFired) {
          this.cannot.push({
            step: step.id,
            reason: `The meter stops at ${printQuantity(volts, 'V')} and does not reach ${printQuantity(this.plan.numbers.charged, 'V')}: supply off, and the abort branch.`,
          });
          this.send({ type: 'aborted', reason: 'it does not reach its voltage' });
          return;
        }
        if (!this.chargeOthers(step)) return;
      }
    } else if (does === 'hold-off') {
      this.pass(this.hands(step));
      this.act('hold-off');
    } else if (does === 'dump') {
      this.act('fall-in');
      this.pass(this.hands(step) + (step.wait ?? 0));
    } else if (does === 'bleed') {
      this.act('fall-in');
      this.pass(this.hands(step));
      this.waitForBleeder();
    } else if (does === 'tool') this.apply(step);
    else if (does === 'held') this.held(step);
    else if (does === 'strap') this.strap(step);
    else if (does === 'strap-off') {
      this.pass(this.hands(step));
      this.act('strap-off');
    } else if (does === 'prove' || does === 'prove-again') {
      this.pass(this.hands(step));
      this.prove(step);
    } else {
      if (step.id === 'verify-again') this.act('tool-off');
      if (step.id === 'guard-check') this.act('try-guard');
      this.pass(this.hands(step) + (step.wait ?? 0));
      if (step.of !== undefined && step.phase === 'strap') this.strapHeld(step);
    }
    // A bang before the count is told as what it is, and what it left is bled.
    if (this.world.hasFired && this.world.shotVolts === null && this.course.state.outcomes.length === 0) {
      this.outcome(step, 'pre-fire');
      if (this.course.state.path === 'abort') return;
    }
    if (step.second) this.send({ type: 'answered', step: step.id });
    if (step.reading) this.read(step);
    if (this.send({ type: 'done', step: step.id })) return;
    this.stuck(step);
  }

  /** A step that does not let go on: still charged, and the tool goes on again; anything else ends in the abort branch. */
  stuck(step: PlanStep): void {
    if (this.course.state.at === 'ended') return;
    if (step.reading && (step.does === 'verify' || step.of !== undefined) && this.again < 5) {
      this.again += 1;
      if (this.send({ type: 'again', to: 'tool' })) return;
    }
    if (this.course.state.path !== 'abort' && this.course.state.aborts < 2) {
      this.send({ type: 'aborted', reason: 'cannot go on' });
      return;
    }
    this.cannot.push({ step: step.id, reason: 'This step does not let anybody go on.' });
    this.isStuck = true;
  }
}

/**
 * Plays the run sheet of a rig through the simulated rig as it is written, with hands that take their time.
 *
 * @param plan the sheet with its numbers
 */
export function play(plan: RunPlan, playing: Playing): Played {
  const player = new Player(plan, playing);
  player.send({ type: 'began', acts: 'A', reads: plan.people === 'two' ? 'B' : null });
  for (let i = 0; i < mostSteps && player.course.state.at === 'running' && !player.isStuck; i++) {
    const { step } = player;
    if (!step) break;
    player.obey(step);
  }
  const { state, world } = player.course;
  const isOver = state.at === 'ended';
  if (!isOver && player.cannot.length === 0)
    player.cannot.push({ step: player.step?.id ?? 'end', reason: 'The sheet loops and never ends.' });
  for (const { at: _at, volts, joules } of world.touches)
    player.contacts.push({ who: 'hand', where: 'whoever went in', step: player.step?.id ?? 'hand-over', volts, joules });
  const { shot, cannot } = plan.numbers;
  const fire = plan.main.find((step) => step.does === 'fire')?.id ?? 'fire';
  const unexecutable = [...cannot.map((reason) => ({ step: fire, reason })), ...player.cannot];
  const voltageAtShot = world.shotVolts;
  const band = shot && { low: shot.low, high: shot.high };
  // What a curve of so many points is read at is good to a thousandth.
  const slack = 2e-3;
  return {
    executable: unexecutable.length === 0 && isOver,
    unexecutable,
    fired: voltageAtShot !== null,
    voltageAtShot,
    band,
    inBand:
      voltageAtShot !== null &&
      band !== null &&
      voltageAtShot >= band.low * (1 - slack) &&
      voltageAtShot <= band.high * (1 + slack),
    worstHandEnergy: Math.max(0, ...player.contacts.filter(({ who }) => who !== 'tool').map(({ joules }) => joules)),
    contacts: player.contacts,
    seconds: player.now / 1000,
  };
}

/** In words, for a terminal. */
export function playedWords(played: Played): string {
  const lines = [
    played.executable ? 'Carried out as written.' : 'Cannot be carried out as it stands.',
    ...played.unexecutable.map(({ step, reason }) => `  ${step}: ${reason}`),
    played.voltageAtShot === null
      ? 'Not fired.'
      : `Fired at ${printQuantity(played.voltageAtShot, 'V')}${played.band ? `, ${played.inBand ? 'within' : 'outside'} ${printQuantity(played.band.low, 'V')} to ${printQuantity(played.band.high, 'V')}` : ''}.`,
    `Greatest energy met by a hand or a strap: ${printQuantity(played.worstHandEnergy, 'J')}.`,
    ...played.contacts.map(
      ({ who, where, step, volts, joules }) =>
        `  ${step}: ${who} at ${where}, ${printQuantity(volts, 'V')}, ${printQuantity(joules, 'J')}`,
    ),
    `It takes ${printDuration(played.seconds)}.`,
  ];
  return lines.join('\n');
}
