import { stepAt, stepRun, notBegun, type RunEvent, type RunPlan } from '../run/index.ts';
import { faultTitles, type FaultId } from './fault.ts';
import type { Rehearsal } from './rehearsal.ts';
import { worldAt, type Touch, type World } from './world.ts';

/** What became of one fault that was put in. */
export interface FaultOutcome {
  readonly fault: FaultId;
  readonly title: string;
  readonly isNoticed: boolean;
  /** How it was noticed, or how it could have been. */
  readonly how: string;
  /** J that stood behind it: what it would have cost if nobody had noticed, at the most. */
  readonly joules: number;
}

export interface Score {
  readonly faults: readonly FaultOutcome[];
  /** Faults that were named and were not there. */
  readonly falseAlarms: readonly FaultId[];
  readonly touches: readonly Touch[];
  /** J that went through somebody. */
  readonly joules: number;
  /** From 0 to 100. */
  readonly points: number;
}

/** J that a hand may meet at the most: the lowest published line for a shock, IEC TS 60479-2, about 1 J through 1 kΩ; from memory. */
const mostByHand = 1;

const howToNotice: { readonly [K in FaultId]: string } = {
  'bleeder-open': 'the meter did not fall as the curve says',
  'dump-stuck': 'the meter did not fall when the dump was closed',
  'meter-lead-off': 'the meter shows zero on a known source, and during the charge',
  'meter-battery': 'the meter shows too little on a known source, and during the charge',
  'wrong-range': 'the meter shows only whole steps of its range',
  'charger-not-isolated': 'the blade was still in, and the voltage came back after the stick',
  'pre-fire': 'the bang came before the count',
  misfire: 'nothing happened at the count',
  'stage-left': 'the bang was weak; the earthed lead to every element finds it',
  rebound: 'the second reading is above the first',
  'strap-forgotten': 'look at the strap; do not take anybody’s word for it',
  'early-approach': 'a door bangs; whoever comes is called back',
  'door-welded': 'each door contact is tried by itself before the strap comes off',
};

/** J of a voltage on the whole store. */
const energy = ({ numbers }: RunPlan, volts: number): number => 0.5 * numbers.capacitance * volts ** 2;

/** J behind a fault at the most. */
function behind(plan: RunPlan, fault: FaultId): number {
  const { charged, below, open, bleeder, stages, energy: all } = plan.numbers;
  switch (fault) {
    case 'bleeder-open': {
      // What is left when the bleeder should have done its work.
      const tau = open.nominal / Math.log(Math.max(charged / below, 1.0001));
      return energy(plan, charged * Math.exp(-(bleeder?.nominal ?? 0) / tau));
    }
    case 'stage-left':
      return all / Math.max(4, stages);
    case 'rebound':
    case 'strap-forgotten':
      return energy(plan, 0.12 * charged);
    default:
      return all;
  }
}

/** Ways to notice a fault that lie in the run itself: a shot that is told as what it was, a reading that is kept as what it is. */
function noticedInRun(plan: RunPlan, rehearsal: Rehearsal, events: readonly RunEvent[]): Set<FaultId> {
  const noticed = new Set<FaultId>();
  let state = notBegun;
  let first: number | null = null;
  for (const event of events) {
    const step = stepAt(plan, state);
    const next = stepRun(plan, state, event, rehearsal.speed);
    if (next.ok && event.type === 'outcome' && (event.outcome === 'misfire' || event.outcome === 'pre-fire'))
      noticed.add(event.outcome);
    if (next.ok && event.type === 'outcome' && event.outcome === 'partial') noticed.add('stage-left');
    if (event.type === 'suspected' && event.fault in faultTitles) noticed.add(event.fault as FaultId);
    if (next.ok && event.type === 'read' && step?.does === 'verify') {
      if (first !== null && Math.abs(event.value) > 2 * Math.abs(first) && Math.abs(event.value) >= plan.numbers.below)
        noticed.add('rebound');
      first = event.value;
    }
    state = next.state;
  }
  return noticed;
}

/**
 * What a rehearsal came to: which faults were noticed, which were missed, and what that would have cost.
 *
 * @param now ms since 1970: the end of it
 */
export function scoreOf(plan: RunPlan, rehearsal: Rehearsal, events: readonly RunEvent[], now: number): Score {
  const world: World = worldAt(plan, rehearsal, events, now);
  const inRun = noticedInRun(plan, rehearsal, events);
  const faults = rehearsal.faults.map((fault): FaultOutcome => {
    const isNoticed = inRun.has(fault) || world.found[fault] !== undefined;
    return { fault, title: faultTitles[fault], isNoticed, how: howToNotice[fault], joules: behind(plan, fault) };
  });
  const named = new Set(events.flatMap((e) => (e.type === 'suspected' && e.fault in faultTitles ? [e.fault as FaultId] : [])));
  const falseAlarms = [...named].filter((f) => !rehearsal.faults.includes(f));
  const joules = world.touches.reduce((sum, t) => sum + t.joules, 0);
  const share = faults.length === 0 ? 1 : faults.filter((f) => f.isNoticed).length / faults.length;
  // A rehearsal is for a shot that happens and for hands that meet nothing: without either the rest counts for nothing.
  const cannotFire = rehearsal.faults.includes('misfire') || rehearsal.faults.includes('pre-fire');
  const isLost = (!world.hasFired && !cannotFire) || world.touches.some((touch) => touch.joules > mostByHand);
  const points = isLost ? 0 : Math.max(0, Math.round(100 * share) - 10 * falseAlarms.length - 50 * world.touches.length);
  return { faults, falseAlarms, touches: world.touches, joules, points };
}
