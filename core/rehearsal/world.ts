import { behindDoor, chainFaults, chainState } from '../block/index.ts';
import { uniforms } from '../numeric/index.ts';
import { stepAt, stepRun, notBegun, voltsOn, type PlanCurve, type RunEvent, type RunPlan, type RunState } from '../run/index.ts';
import { isAct, type RehearsalAct } from './act.ts';
import type { FaultId } from './fault.ts';
import type { Rehearsal } from './rehearsal.ts';

/** Something that the trainee sees or hears at the time. */
export interface Happening {
  /** ms since 1970 */
  readonly at: number;
  readonly text: string;
  readonly isBad: boolean;
}

/** Somebody touched what was charged. */
export interface Touch {
  readonly at: number;
  readonly volts: number;
  readonly joules: number;
  readonly who: 'trainee' | 'other';
}

/** The simulated rig at one time. */
export interface World {
  readonly at: number;
  /** V across the terminals. */
  readonly volts: number;
  /** V in what was left charged by itself: a can cut off, a stage that did not erect. */
  readonly leftVolts: number;
  /** V of each that keeps a charge beside the store, by its id, and whether it has come back once. */
  readonly beside: Readonly<Record<string, number>>;
  readonly isBesideBack: boolean;
  /** V that the dielectric still gives back. */
  readonly soaked: number;
  readonly isSupplyOn: boolean;
  readonly wasSupplyOn: boolean;
  readonly isIsolatorOpen: boolean;
  /** Dump and switched bleeder are held off. */
  readonly isHeldOff: boolean;
  readonly isToolOn: boolean;
  readonly isStrapOn: boolean;
  /** Somebody said that it is on. */
  readonly isStrapSaid: boolean;
  readonly meter: 'first' | 'mended' | 'second';
  readonly isMeterDestroyed: boolean;
  readonly hasFired: boolean;
  /** V of the store when it fired as it should; null before, and where it fired too early. */
  readonly shotVolts: number | null;
  /** ms at which somebody comes to the guard, and whether they were called back or have been in. */
  readonly comesAt: number | null;
  readonly isAtDoor: boolean;
  readonly isCalledBack: boolean;
  /** What the trainee found out by looking or trying, with the time. */
  readonly found: Readonly<Partial<Record<FaultId, number>>>;
  readonly touches: readonly Touch[];
  readonly happened: readonly Happening[];
}

const has = (rehearsal: Rehearsal, fault: FaultId) => rehearsal.faults.includes(fault);

/** s within which a person who comes to the guard is inside it. */
const walk = 15;
/** s over which a dielectric gives back. */
const reboundTau = 40;

const drawn = (rehearsal: Rehearsal) => {
  const uniform = uniforms(rehearsal.seed + 1);
  // Share of the charge at which the gap self-breaks, share that comes back, and s after the shot at which somebody comes.
  return { preFire: 0.78 + 0.17 * uniform(), rebound: 0.06 + 0.06 * uniform(), comes: 2 + 8 * uniform() };
};

const startWorld = (at: number): World => ({
  at,
  volts: 0,
  leftVolts: 0,
  beside: {},
  isBesideBack: false,
  soaked: 0,
  isSupplyOn: false,
  wasSupplyOn: false,
  isIsolatorOpen: true,
  isHeldOff: false,
  isToolOn: false,
  isStrapOn: true,
  isStrapSaid: true,
  meter: 'first',
  isMeterDestroyed: false,
  hasFired: false,
  shotVolts: null,
  comesAt: null,
  isAtDoor: false,
  isCalledBack: false,
  found: {},
  touches: [],
  happened: [],
});

/** 1/s of an exponential that takes `seconds` from the charge to the goal. */
const rate = ({ numbers }: RunPlan, seconds: number): number =>
  seconds > 0 ? Math.log(Math.max(numbers.charged / numbers.below, 1.0001)) / seconds : Infinity;

/** s on the charge curve at a voltage. */
export function timeAt({ t, v }: PlanCurve, volts: number): number {
  const i = v.findIndex((value) => value > volts);
  if (i <= 0) return i === 0 ? 0 : (t.at(-1) ?? 0);
  const [t0 = 0, t1 = 0, v0 = 0, v1 = 1] = [t[i - 1], t[i], v[i - 1], v[i]];
  return t0 + ((volts - v0) / (v1 - v0)) * (t1 - t0);
}

const tell = (world: World, text: string, isBad = false): World => ({
  ...world,
  happened: [...world.happened, { at: world.at, text, isBad }],
});

const find = (world: World, fault: FaultId): World =>
  world.found[fault] === undefined ? { ...world, found: { ...world.found, [fault]: world.at } } : world;

/** J that a touch of a voltage takes: all that stands on the terminals, and what is left in an element of its own. */
function touched(plan: RunPlan, world: World, who: Touch['who']): World {
  const { capacitance, below, stages } = plan.numbers;
  const part = capacitance / Math.max(4, stages);
  const onTerminals = world.isStrapOn ? 0 : world.volts;
  const volts = Math.max(Math.abs(onTerminals), Math.abs(world.leftVolts));
  const joules = 0.5 * capacitance * onTerminals ** 2 + 0.5 * part * world.leftVolts ** 2;
  if (volts < below)
    return tell(world, who === 'trainee' ? 'Nothing is felt.' : 'Somebody went in. Nothing was felt.', who === 'other');
  const who2 = who === 'trainee' ? 'You have' : 'Somebody has';
  return tell(
    { ...world, touches: [...world.touches, { at: world.at, volts, joules, who }] },
    `${who2} touched ${volts.toPrecision(3)} V, with ${joules.toPrecision(3)} J behind it.`,
    true,
  );
}

/** V that come back with the fault of a rebound: more than is aimed at, once the store had its charge. */
const backAfter = ({ numbers }: RunPlan, rehearsal: Rehearsal, volts: number): number =>
  (volts / numbers.charged) * Math.max(drawn(rehearsal).rebound * numbers.charged, 1.5 * numbers.below);

/** Parts of the store itself: what they keep is what a shot or a bleeder has left in one of them. */
const partsOfStore = ['stage', 'group'];
export const isPartOfStore = (id: string): boolean => partsOfStore.includes(id);
/** Charged by the shot, and by nothing before it. */
const afterShot = 'second';

/** What the supply charges beside the store. */
const chargedBeside = ({ numbers }: RunPlan, before: World['beside']): World['beside'] => ({
  ...before,
  ...Object.fromEntries(
    numbers.held.filter(({ id }) => !isPartOfStore(id) && id !== afterShot).map(({ id, volts }) => [id, volts]),
  ),
});

/** What stands beside the store falls by what is known to lie across it, once no supply holds it. */
const besideAfter = ({ numbers }: RunPlan, { beside, isSupplyOn }: World, s: number): World['beside'] =>
  isSupplyOn
    ? beside
    : Object.fromEntries(
        Object.entries(beside).map(([id, volts]) => {
          const tau = numbers.held.find((held) => held.id === id)?.tau ?? null;
          return [id, tau === null ? volts : volts * Math.exp(-s / tau)];
        }),
      );

/** The tool across each that keeps a charge of its own, as long as the sheet says. */
function besideTouched(plan: RunPlan, rehearsal: Rehearsal, world: World): World {
  const { held } = plan.numbers;
  const share = ({ tool, toolTau }: (typeof held)[number]) => (toolTau > 0 ? Math.exp(-tool / toolTau) : 0);
  const comesBack = has(rehearsal, 'rebound') && !world.isBesideBack;
  const beside = Object.fromEntries(
    held.flatMap((one) => {
      const volts = world.beside[one.id];
      if (volts === undefined) return [];
      return [[one.id, Math.max(volts * share(one), comesBack ? Math.min(volts, 1.5 * one.below) : 0)]];
    }),
  );
  const part = held.find(({ id }) => isPartOfStore(id));
  return {
    ...world,
    beside,
    isBesideBack: world.isBesideBack || comesBack,
    leftVolts: world.leftVolts * (part ? share(part) : 0),
  };
}

/**
 * Bleeders of their own across the groups of a series, that of one of them open: the others empty their groups, that one keeps its own,
 * and what the terminals show is the sum. What flows through the terminals leaves the difference as it is.
 */
function bledByGroup(n: number, bleeder: number, s: number, { volts, leftVolts }: World): Pick<World, 'volts' | 'leftVolts'> {
  const others = ((volts - leftVolts) / n) * Math.exp(-bleeder * s);
  const one = (volts - leftVolts) / n + leftVolts;
  return { volts: one + (n - 1) * others, leftVolts: one - others };
}

/** The rig left to itself for a time, s of its own. Short enough that nothing but what stands here happens in it. */
function drift(plan: RunPlan, rehearsal: Rehearsal, before: World, s: number): World {
  const { numbers, curves } = plan;
  const isOpen = has(rehearsal, 'bleeder-open');
  const isHeldOff = numbers.isSwitched && before.isHeldOff;
  const groups = numbers.isBledByGroup ? (numbers.held.find(({ id }) => id === 'group')?.count ?? 1) : 1;
  const isOneOpen = isOpen && groups > 1 && numbers.bleeder !== null && !isHeldOff && !before.isSupplyOn;
  const world: World = {
    ...before,
    beside: besideAfter(plan, before, s),
    ...(isOneOpen ? bledByGroup(groups, rate(plan, numbers.bleeder?.nominal ?? 0), s, before) : {}),
  };
  const stuck = has(rehearsal, 'charger-not-isolated') && world.found['charger-not-isolated'] === undefined;
  const feeds = (world.isSupplyOn && !world.isIsolatorOpen) || (stuck && world.wasSupplyOn);
  const bleeder = numbers.bleeder && !isOpen && !isHeldOff ? rate(plan, numbers.bleeder.nominal) : 0;
  const dump = numbers.dump && !world.isHeldOff && !has(rehearsal, 'dump-stuck') ? rate(plan, numbers.dump.nominal) : 0;
  const leak = rate(plan, numbers.open.nominal);
  const meter = numbers.meter.R && meterGain(rehearsal, world) > 0 ? 1 / (numbers.meter.R * numbers.capacitance) : 0;
  const tool = (world.isToolOn ? rate(plan, numbers.tool.nominal) : 0) + dump;
  if (world.isStrapOn) return { ...world, volts: 0, soaked: world.soaked * Math.exp(-s / reboundTau) };
  let { volts, soaked } = world;
  const charge = curves.charge;
  if (feeds && charge) {
    // Against a tool the charger holds what it can; it is far the weaker of the two.
    const end = voltsOn(charge, timeAt(charge, Math.max(0, volts)) + s);
    volts = tool > 0 ? Math.max(volts * Math.exp(-tool * s), 0.05 * numbers.charged) : Math.max(volts, end);
    soaked = Math.max(soaked, volts * 0.005, has(rehearsal, 'rebound') ? backAfter(plan, rehearsal, volts) : 0);
  } else {
    volts *= Math.exp(-(bleeder + leak + meter + tool) * s);
    // What the dielectric gives back flows as long as the terminals are below it.
    const back = (soaked - Math.abs(volts)) * -Math.expm1(-s / reboundTau);
    if (tool === 0 && back > 0) volts += back;
    // What holds the terminals near nought lets it flow out, a tool as a strap.
    if (tool > 0) soaked *= Math.exp(-s / reboundTau);
  }
  return { ...world, volts, soaked };
}

/** What the chain does behind the open door, with one of its contacts welded or not; null of a rig without one. */
function chainNow({ numbers }: RunPlan, rehearsal: Rehearsal, { found }: World) {
  const { interlock } = numbers;
  if (!interlock) return null;
  const isWelded = has(rehearsal, 'door-welded') && found['door-welded'] === undefined;
  const fault = isWelded ? chainFaults(interlock).find(({ id }) => id === 'door-1') : undefined;
  return chainState(interlock, behindDoor, fault);
}

/** The chain opens: the charger goes off, the dump falls in. Without one a door is only a door. */
function doorOpened(plan: RunPlan, rehearsal: Rehearsal, before: World): World {
  const state = chainNow(plan, rehearsal, before);
  if (!state) return before;
  if (state.chargerOn && !state.dumpClosed)
    return tell(before, 'The lamp of the interlock stays lit: the door did not open the chain.', true);
  const off: World = { ...before, isSupplyOn: before.isSupplyOn && state.chargerOn };
  const drops = state.dumpClosed && plan.numbers.dump !== null && before.isHeldOff;
  return tell(
    drops ? { ...off, isHeldOff: false } : off,
    drops
      ? `The chain opens: charger off${has(rehearsal, 'dump-stuck') ? '. No clack from the dump.' : ', and a clack from the dump.'}`
      : 'The chain opens: charger off.',
  );
}

/** Passes time until `to`, ms, with all that happens by itself in between. */
function pass(plan: RunPlan, rehearsal: Rehearsal, before: World, to: number): World {
  let world = before;
  const { preFire } = drawn(rehearsal);
  const total = ((to - world.at) / 1000) * rehearsal.speed;
  if (!(total > 0)) return world;
  // Within a step a voltage moves by little, and what happens by itself is seen in time.
  const n = Math.min(600, Math.max(1, Math.ceil(total / 0.5)));
  const [start, s] = [world.at, total / n];
  for (let i = 1; i <= n; i++) {
    world = { ...drift(plan, rehearsal, world, s), at: start + ((to - start) * i) / n };
    if (world.volts > 1.2 * (plan.numbers.meter.most ?? Infinity) && !world.isMeterDestroyed)
      world = tell({ ...world, isMeterDestroyed: true }, 'The meter has seen more than its maximum: it shows zero.', true);
    if (has(rehearsal, 'pre-fire') && !world.hasFired && world.volts > preFire * plan.numbers.charged)
      world = tell(
        fired({ ...world, hasFired: true }, plan, rehearsal),
        `A bang: the gap has pre-fired at ${(preFire * plan.numbers.charged).toPrecision(3)} V.`,
        true,
      );
    const { shot } = plan.numbers;
    if (
      shot?.byItself &&
      plan.numbers.cannot.length === 0 &&
      !has(rehearsal, 'misfire') &&
      !world.hasFired &&
      world.volts >= 0.999 * plan.numbers.charged
    )
      world = tell(
        { ...fired(world, plan, rehearsal), shotVolts: Math.min(world.volts, plan.numbers.charged) },
        'A bang: the gap has pre-fired.',
      );
    if (world.comesAt !== null && !world.isAtDoor && world.at >= world.comesAt)
      world = doorOpened(plan, rehearsal, tell({ ...world, isAtDoor: true }, 'Somebody opens the door of the guard.', true));
    if (world.comesAt !== null && !world.isCalledBack && world.at > world.comesAt + (walk * 1000) / rehearsal.speed)
      world = touched(plan, { ...world, isCalledBack: true }, 'other');
  }
  return world;
}

function fired(world: World, plan: RunPlan, rehearsal: Rehearsal): World {
  const left = has(rehearsal, 'stage-left') ? world.volts : 0;
  return {
    ...world,
    hasFired: true,
    leftVolts: left,
    beside: plan.numbers.held.some(({ id }) => id === afterShot)
      ? { ...world.beside, [afterShot]: plan.numbers.held.find(({ id }) => id === afterShot)?.volts ?? 0 }
      : world.beside,
    volts: world.volts * 0.02,
    soaked: Math.max(world.soaked, world.volts * 0.005),
  };
}

/** What the meter shows, and why it may not be what stands there. */
export function meterGain(rehearsal: Rehearsal, world: World): number {
  if (world.meter !== 'first') return 1;
  if (has(rehearsal, 'meter-lead-off')) return 0;
  return has(rehearsal, 'meter-battery') ? 0.35 : 1;
}

function proven(rehearsal: Rehearsal, world: World): World {
  if (world.meter === 'first') {
    if (world.isMeterDestroyed) return tell(world, 'On the known source of 9.00 V it shows 0.00 V. Its input is destroyed.');
    if (has(rehearsal, 'meter-lead-off'))
      return tell(find(world, 'meter-lead-off'), 'On the known source of 9.00 V it shows 0.00 V: a lead is off.');
    if (has(rehearsal, 'meter-battery'))
      return tell(find(world, 'meter-battery'), 'On the known source of 9.00 V it shows 3.2 V, and the sign of a battery.');
    if (has(rehearsal, 'wrong-range'))
      return tell(find(world, 'wrong-range'), 'On the known source of 9.00 V it shows 0.0 kV: its range is far too high.');
  }
  return tell(world, 'On the known source of 9.00 V it shows 9.00 V.');
}

const doing: { readonly [K in RehearsalAct]: (world: World, plan: RunPlan, rehearsal: Rehearsal) => World } = {
  'supply-on': (before, plan) => {
    const w = { ...before, beside: chargedBeside(plan, before.beside) };
    return w.isStrapOn
      ? tell(
          { ...w, isSupplyOn: true, isIsolatorOpen: false },
          'Supply on, into the strap: its fuse goes. The store stays at zero.',
          true,
        )
      : tell({ ...w, isSupplyOn: true, wasSupplyOn: true, isIsolatorOpen: false }, 'Supply on.');
  },
  'supply-off': (w) => tell({ ...w, isSupplyOn: false }, 'Supply off.'),
  isolate: (w) => tell({ ...w, isIsolatorOpen: true }, 'The isolator handle is over.'),
  'look-isolator': (w, _plan, r) =>
    has(r, 'charger-not-isolated') && w.isIsolatorOpen && w.wasSupplyOn && w.found['charger-not-isolated'] === undefined
      ? tell(
          { ...find(w, 'charger-not-isolated'), isSupplyOn: false },
          'The handle is over, and the blade is still in: the charger feeds the store. You open it by hand, from outside.',
        )
      : tell(w, w.isIsolatorOpen ? 'The blade is seen open.' : 'The blade is closed.'),
  fire: (before, plan, r) => {
    // An interlock takes the charger off with the press, whatever comes of it.
    const w = plan.numbers.shot?.dropsCharger ? { ...before, isSupplyOn: false } : before;
    if (w.isAtDoor && !w.isCalledBack && chainNow(plan, r, w)?.triggerLive === false)
      return tell(w, 'A click. The chain is open at the door: the trigger is dead.');
    if (has(r, 'misfire')) return tell(w, 'A click. Nothing happens.', true);
    if (w.volts < 0.2 * plan.numbers.charged) return tell(w, 'A click. There is too little on the store to fire.');
    return tell(
      { ...fired(w, plan, r), shotVolts: w.volts },
      has(r, 'stage-left') ? 'A bang, somewhat weaker than the last one.' : 'A bang.',
    );
  },
  'hold-off': (w) => tell({ ...w, isHeldOff: true }, 'Its relay is held off.'),
  'fall-in': (w, plan, r) => {
    const after = { ...w, isHeldOff: false };
    return plan.numbers.dump && has(r, 'dump-stuck')
      ? tell(after, 'Its power is off. No clack from the dump.')
      : tell(after, 'Its power is off: a clack.');
  },
  'tool-on': (w, plan) =>
    tell({ ...w, isToolOn: true }, w.volts > 0.3 * plan.numbers.charged ? 'Stick on: a crack at the tip.' : 'Stick on.'),
  'tool-off': (w) => tell({ ...w, isToolOn: false }, 'Stick off.'),
  'prove-meter': (w, _plan, r) => proven(r, w),
  'mend-meter': (w) => tell({ ...w, meter: 'mended' }, 'New battery, both leads seated, the range chosen anew.'),
  'second-meter': (w) => tell({ ...w, meter: 'second', isMeterDestroyed: false }, 'The second meter is on the bank.'),
  'touch-stages': (before, plan, r) => {
    const w = besideTouched(plan, r, before);
    const wasLeft = Math.abs(before.leftVolts) > plan.numbers.below;
    const snaps = wasLeft || plan.numbers.held.some(({ id, below }) => (before.beside[id] ?? 0) > below);
    const isWeak =
      Math.abs(w.leftVolts) > plan.numbers.below || plan.numbers.held.some(({ id, below }) => (w.beside[id] ?? 0) >= below);
    return tell(
      wasLeft && has(r, 'stage-left') ? find(w, 'stage-left') : w,
      snaps
        ? `A snap at one of them: it was still charged.${isWeak ? '' : ' It is not any more.'}`
        : 'Each was touched on both sides. Nothing.',
    );
  },
  'strap-on': (w, plan, r) => {
    const said = tell({ ...w, isStrapSaid: true }, '“Strap on”, says your partner.');
    if (has(r, 'strap-forgotten') && w.hasFired && w.found['strap-forgotten'] === undefined) return said;
    // A strap laid across a charged store is a short in somebody's hand.
    return { ...(w.volts > plan.numbers.below ? touched(plan, said, 'trainee') : said), isStrapOn: true };
  },
  'strap-off': (w) => tell({ ...w, isStrapOn: false, isStrapSaid: false }, 'Strap off.'),
  'look-strap': (w) =>
    !w.isStrapOn && w.isStrapSaid
      ? tell(find(w, 'strap-forgotten'), 'Its second clip hangs loose: the strap is not on.')
      : tell(w, w.isStrapOn ? 'Both clips are seen on.' : 'The strap hangs on its hook.'),
  'try-guard': (w, plan, r) =>
    !plan.numbers.interlock
      ? tell(w, 'There is no chain to try.')
      : has(r, 'door-welded') && w.found['door-welded'] === undefined
        ? tell(
            find(w, 'door-welded'),
            'With one contact of the door held by hand the chain opens, with the other it does not: that one is welded. It is changed, and tried again.',
          )
        : tell(w, 'Each contact by itself opens the chain.'),
  'call-back': (w, _plan, r) =>
    w.comesAt !== null && !w.isCalledBack
      ? tell(find({ ...w, isCalledBack: true }, 'early-approach'), 'They stop at the door and go back.')
      : tell(w, has(r, 'early-approach') && w.isCalledBack ? 'Everybody is back.' : 'Nobody is near the guard.'),
  approach: (w, plan) => touched(plan, w, 'trainee'),
};

/** What follows for the rig from a step of the sheet that is confirmed: nothing but what other people do meanwhile. */
function bystanders(plan: RunPlan, rehearsal: Rehearsal, world: World, before: RunState): World {
  const does = stepAt(plan, before)?.does;
  if (does === 'isolate' && has(rehearsal, 'early-approach') && world.comesAt === null)
    return tell(
      { ...world, comesAt: world.at + (drawn(rehearsal).comes * 1000) / rehearsal.speed },
      'A door bangs somewhere behind you.',
    );
  return world;
}

/** A rehearsal on its way: the rig, where its run stands, and whether it was handed over. */
export interface Course {
  readonly world: World;
  readonly state: RunState;
  readonly isHandedOver: boolean;
}

export const courseFrom = (at: number): Course => ({ world: startWorld(at), state: notBegun, isHandedOver: false });

/** The course after one more event. Pure. */
export function courseAfter(plan: RunPlan, rehearsal: Rehearsal, before: Course, event: RunEvent): Course {
  let world = pass(plan, rehearsal, before.world, Math.max(before.world.at, event.at));
  const next = stepRun(plan, before.state, event, rehearsal.speed);
  if (next.ok && event.type === 'done') world = bystanders(plan, rehearsal, world, before.state);
  if (next.ok && event.type === 'acted' && isAct(event.act)) world = doing[event.act](world, plan, rehearsal);
  // Whoever says that the rig is handed over sends people in.
  const isEnd = next.state.at === 'ended' && !before.isHandedOver;
  if (isEnd) world = touched(plan, tell(world, 'Handed over: people go in and work on it.'), 'other');
  return { world, state: next.state, isHandedOver: before.isHandedOver || isEnd };
}

/** The rig of a course at a later time, ms since 1970. */
export const worldOf = (plan: RunPlan, rehearsal: Rehearsal, { world }: Course, now: number): World =>
  pass(plan, rehearsal, world, Math.max(world.at, now));

/**
 * The simulated rig after what was done, at a time. Pure: the same events, seed and time always give the same.
 *
 * @param now ms since 1970
 */
export function worldAt(plan: RunPlan, rehearsal: Rehearsal, events: readonly RunEvent[], now: number): World {
  const [first] = events;
  const course = events.reduce((before, event) => courseAfter(plan, rehearsal, before, event), courseFrom(first?.at ?? now));
  return worldOf(plan, rehearsal, course, now);
}
