import {
  bleedGoal,
  phases,
  slots,
  type FigureId,
  type Phase,
  type RigContext,
  type Slot,
  type StepSpec,
} from '../block/index.ts';
import { definitionIn, reasonOf } from '../figure/index.ts';
import { figureIn, leadsHazard, type Evaluation } from '../evaluation/index.ts';
import { inManner, inSI, mannerNow, type Manner, printDuration, printQuantity } from '../quantity/index.ts';
import { noSheetEdits, type SheetEdits } from '../rig/index.ts';
import { limitState } from '../limit/index.ts';
import { isTypical, ruled, type Worked } from '../formula/index.ts';
import { commissioningLadder, type Rung } from './commissioning.ts';
import { commonSteps } from './common-steps.ts';
import { arranged } from './edits.ts';
import { emergencyCards, type Emergency } from './emergency.ts';
import { heldSteps } from './held-steps.ts';
import { unratedIn, waivedWords, withheldBy, type Unrated } from './judged.ts';
import { beyondHands } from './tier.ts';
import { secondsOfStep } from './seconds.ts';
import { blindness, shotTimeOf, type ShotTime } from './shot.ts';
import { verdictOf, type Verdict } from './verdict.ts';
import type { Step } from './step.ts';
import { connectionsIn, readsUpTo, type Connections } from './instruments.ts';

export interface RunSheet {
  readonly rigName: string;
  readonly people: SheetEdits['people'];
  /** What the rig can do to a person, before anything else. */
  readonly summary: readonly string[];
  /** What the sheet says before anything else: by calculation. */
  readonly verdict: Verdict;
  /** The voltage at the shot, and what the time of people makes of it. */
  readonly shot: ShotTime;
  /** Reasons why nobody can carry this sheet out as it stands. */
  readonly cannot: readonly string[];
  /** Ratings that a live run asks for and that nobody has entered. */
  readonly unrated: readonly Unrated[];
  /** What holds back a live run, and nothing else. */
  readonly withheld: readonly string[];
  /** What somebody of a name answers for. */
  readonly waived: readonly string[];
  /** Reasons why this sheet must not be used as it stands. */
  readonly stops: readonly string[];
  readonly main: readonly Step[];
  /** Voltages to stop at on the way up, and what to see there. */
  readonly commissioning: readonly Rung[];
  /** What must be off in each phase of the steps, and what stays on and why. */
  readonly connections: Readonly<Partial<Record<Phase, Connections>>>;
  readonly branches: readonly {
    readonly id: 'misfire' | 'abort';
    readonly title: string;
    readonly when: string;
    readonly steps: readonly Step[];
  }[];
  /** What to do when somebody was shocked, or it burns. */
  readonly emergency: readonly Emergency[];
  readonly cautions: readonly string[];
}

/** Every step of a sheet, those of its branches last. */
export const stepsIn = ({ main, branches }: Pick<RunSheet, 'main' | 'branches'>): Step[] => [
  ...main,
  ...branches.flatMap(({ steps }) => steps),
];

/** The usual cautions; they stand on every sheet and every print. */
export const cautions: readonly string[] = [
  'These numbers are calculated from what was entered. They protect nobody: verify with a meter rated for the voltage.',
  'Never work alone, never reach into the guard with both hands, never trust an indicator lamp instead of a meter.',
  'Always treat the bleeder as open and the store as charged until the meter and the strap say otherwise.',
  'Local codes and licensed practice come first.',
];

function summaryOf(evaluation: Evaluation): string[] {
  const energy = figureIn(evaluation, 'stored-energy');
  const reading = evaluation.corners.nominal();
  const goal = bleedGoal(reading);
  const time = (id: FigureId, side: 'value' | 'high') => {
    const figure = figureIn(evaluation, id);
    return figure ? printDuration(side === 'high' ? figure.band.high : figure.worked.value) : null;
  };
  const lines: string[] = [];
  if (energy)
    lines.push(
      `${printQuantity(energy.worked.value, 'J')} at ${printQuantity(reading.offer('chargedTo').value, 'V')} (worst case ${printQuantity(energy.band.high, 'J')})${evaluation.hazard && !leadsHazard(evaluation) ? `: ${evaluation.hazard.headline}` : ''}.`,
    );
  const erected = reading.offers('store').ladder ? figureIn(evaluation, 'discharge-voltage') : null;
  if (erected)
    lines.push(
      `During a shot the stages are in series: up to ${printQuantity(erected.band.high, 'V')}${reading.inSeries().length > 1 ? ' from top to top' : ' to earth'}, far above the rating of any meter on a stage.`,
    );
  const leads = leadsHazard(evaluation);
  if (leads)
    lines.unshift(
      `Up to ${printQuantity(leads.figure.band.high, leads.figure.worked.unit)} ${leads.says}: that is what ${evaluation.hazard?.headline ?? 'counts'}.`,
    );
  for (const f of evaluation.hazard?.findings.filter((finding) => finding.exceeded) ?? [])
    lines.push(
      `Above the threshold of ${f.rule.source}: ${f.rule.text}, ${printQuantity(f.rule.threshold, f.rule.unit, { trim: true })}.`,
    );
  for (const { figure, says } of evaluation.beside.filter((one) => one !== leads))
    lines.push(`Up to ${printQuantity(figure.band.high, figure.worked.unit)} ${says}.`);
  const bleeder = time('bleed-time', 'value');
  lines.push(
    bleeder
      ? `Bleeder: calculated below ${goal.text} after ${bleeder}, worst case ${time('bleed-time', 'high')}.`
      : 'No permanent bleeder.',
  );
  const open = figureIn(evaluation, 'bleed-time-open');
  lines.push(
    open && isTypical(open.worked)
      ? `Bleeder open: below ${goal.text} by leakage alone after ${printDuration(open.worked.value)} to ${printDuration(open.band.high)}: not measured, typical of its dielectric.`
      : `Bleeder open: below ${goal.text} by leakage alone only after about ${time('bleed-time-open', 'value')}, perhaps ${time('bleed-time-open', 'high')}.`,
  );
  return lines;
}

const slotOrder = (slot: Slot) => slots.indexOf(slot);

function print(expect: NonNullable<StepSpec['expect']>[number], evaluation: Evaluation): string {
  const show = (value: number) => (expect.print === 'duration' ? printDuration(value) : printQuantity(value, expect.worked.unit));
  if (expect.use === 'nominal') return show(expect.worked.value);
  const figure = evaluation.figures.find((f) => f.ok && f.worked === expect.worked);
  if (!figure?.ok) throw new Error(`${expect.label}: a worst case can only be printed of a figure`);
  if (expect.use === 'low') return show(figure.band.low);
  return Number.isFinite(figure.band.high) ? show(figure.band.high) : 'never, at the worst corner of the tolerances';
}

/** s of a wait: of a figure the worst corner; none where it never ends there, for nobody can wait for that. */
function secondsOf(wait: Worked, evaluation: Evaluation): number | null {
  const figure = evaluation.figures.find((f) => f.ok && f.worked === wait);
  const seconds = figure?.ok ? figure.band.high : wait.value;
  return Number.isFinite(seconds) ? seconds : null;
}

function stepOf({ expect = [], reading, wait, second, ...step }: StepSpec, evaluation: Evaluation, edits: SheetEdits): Step {
  const seconds = wait ? secondsOf(wait, evaluation) : null;
  return {
    ...step,
    number: 0,
    isAdded: false,
    second: second === true,
    seconds: secondsOfStep({ ...step, ...(reading ? { reading } : {}), ...(second ? { second } : {}) }, edits),
    who: second ? 'both' : reading ? 'reader' : 'key',
    expect: expect.map((e) => ({ label: e.label, worked: e.worked, use: e.use, printed: print(e, evaluation) })),
    ...(reading ? { reading: { expected: reading.expected?.value ?? null, below: reading.below?.value ?? null } } : {}),
    ...(seconds === null ? {} : { wait: seconds }),
  };
}

/** A gap that self-breaks is isolated after the shot, not before it; so is what drops its charger at the press. */
const isIsolatedAfter = (reading: RigContext): boolean =>
  reading.offers('switch').firedBy === 'itself' || reading.offers('trigger').dropsCharger !== undefined;
const phasesOf = (evaluation: Evaluation): readonly Phase[] =>
  isIsolatedAfter(evaluation.corners.nominal())
    ? phases.flatMap((phase) => (phase === 'isolate' ? ['fire', 'isolate'] : phase === 'fire' ? [] : [phase]))
    : phases;

/** Where a step stands within its phase, before what blocks say of it in the order of the line: nothing else fires, nobody else is inside. */
const firstIn: { readonly [K in Phase]?: readonly string[] } = {
  charge: ['strap-off', 'clear', 'dump-open', 'bleeder-hold'],
  bleed: ['trigger-off-bleed', 'dump-close'],
  misfire: ['misfire-wait', 'trigger-off', 'misfire-isolate', 'misfire-dump', 'misfire-outside'],
  abort: ['abort-supply', 'trigger-off-abort', 'abort-dump', 'abort-outside'],
};

/** Within a phase: what comes first, common steps, the blocks in the order of the line, then what holds a charge beside the store. */
function ordered(evaluation: Evaluation, edits: SheetEdits): StepSpec[] {
  const reading = evaluation.corners.nominal();
  const fromBlocks = [...slots]
    .sort((a, b) => slotOrder(a) - slotOrder(b))
    .flatMap((slot) => [...(definitionIn(evaluation.rig, slot).steps?.(reading.ownOf(slot), reading) ?? [])]);
  const all = [...commonSteps(evaluation, edits), ...fromBlocks, ...heldSteps(evaluation)];
  const residual = (step: StepSpec) => step.id === 'reversed-after-shot';
  return phasesOf(evaluation).flatMap((phase) => {
    const inPhase = all.filter((step) => step.phase === phase);
    const first = (firstIn[phase] ?? []).flatMap((id) => inPhase.find((step) => step.id === id) ?? []);
    const rest = inPhase.filter((step) => !first.includes(step));
    // The store is bled first, from outside and by the tool; then what its terminals do not show is gone to, one after the other.
    if (phase === 'bleed') return [...first, ...rest.filter(({ does }) => does), ...rest.filter(({ does }) => !does)];
    // What is waited for while it is charged stands before the act of it, which ends at the voltage: from there on every second costs.
    const late = (step: StepSpec) => step.does === 'charge' || step.does === 'fire';
    if (phase === 'charge') return [...first, ...rest.filter((step) => !late(step)), ...rest.filter(late)];
    return [...first, ...rest.filter((step) => !residual(step)), ...rest.filter(residual)];
  });
}

/** A number of the course of the stores, as it stands beside a step. */
const beside = (label: string, value: number, unit: 'V' | 's', printed: string): Step['expect'][number] => ({
  label,
  worked: ruled(label, value, unit, 'the time of the steps from the charge to the shot'),
  use: 'nominal',
  printed,
});

/** What every store stands at when a step is done. */
function standing({ course, turns }: ShotTime, step: Step): Step['expect'] {
  const volts = course.find((one) => one.step === step.id)?.volts;
  const [first] = volts ?? [];
  if (volts === undefined || first === undefined) return [];
  const all = volts.map((V) => printQuantity(V, 'V')).join(', ');
  const many = volts.length > 1;
  if (step.does === 'charge')
    return turns === null
      ? []
      : [
          beside('All stores charged within', turns, 's', `${printDuration(turns)} of the first`),
          beside('By then they are at', first, 'V', all),
        ];
  return [beside(many ? 'By then they are at' : 'By then it is at', first, 'V', all)];
}

/** What the sheet says beside the steps from the charge to the shot: what stands there, how soon it is fired, and at what voltage. */
function withShot(step: Step, shot: ShotTime): Step {
  if (step.does !== 'fire') {
    const more = standing(shot, step);
    return more.length === 0 ? step : { ...step, expect: [...step.expect, ...more] };
  }
  const band = `${printQuantity(shot.low, 'V')} to ${printQuantity(shot.high, 'V')}`;
  if (shot.against !== null)
    return {
      ...step,
      expect: [
        ...step.expect,
        beside('Voltage at the shot', shot.expected, 'V', `${printQuantity(shot.expected, 'V')}: not to be fired`),
      ],
    };
  return {
    ...step,
    expect: [
      ...step.expect,
      beside('Voltage at the shot', shot.expected, 'V', `${printQuantity(shot.expected, 'V')}, ${band}`),
      ...(shot.within === null
        ? []
        : [beside('Fire within', shot.within, 's', `${printDuration(shot.within)} of the supply off`)]),
    ],
    ...(shot.within === null
      ? {}
      : { hold: `${step.hold ? `${step.hold} ` : ''}Not fired within ${printDuration(shot.within)}: bleed, and begin again.` }),
  };
}

/**
 * The run sheet of a rig: every step with the times, voltages and ranges to expect, and the branches for a misfire and
 * an abort.
 *
 * @returns the sheet, or the reason why none can be made of this rig
 */
export const runSheetOf = (
  rigName: string,
  evaluation: Evaluation,
  edits: SheetEdits = noSheetEdits,
): { ok: true; sheet: RunSheet } | { ok: false; reason: string } => {
  // A sheet is kept, compared with what it was, and carried out by several people: its numbers are nobody's own. Its verdict is read here.
  const here = mannerNow();
  return inSI(() => sheetOf(rigName, evaluation, edits, here));
};

function sheetOf(
  rigName: string,
  evaluation: Evaluation,
  edits: SheetEdits,
  here: Manner,
): { ok: true; sheet: RunSheet } | { ok: false; reason: string } {
  try {
    const made = ordered(evaluation, edits).map((spec) => stepOf(spec, evaluation, edits));
    const placed = arranged(made, edits, phasesOf(evaluation));
    const shot = shotTimeOf(evaluation, placed);
    const steps = placed.map((step) => withShot(step, shot));
    const cannot = [shot.against, beyondHands(evaluation), blindness(evaluation, readsUpTo(evaluation))].filter(
      (reason) => reason !== null,
    );
    const over = evaluation.ladder.limits
      .filter((l) => limitState(l) === 'over')
      .map((l) => `${l.title} is above its rating in the worst case.`);
    const errors = evaluation.problems.filter((p) => p.severity === 'error').map((p) => p.text);
    const unrated = unratedIn(evaluation, edits);
    const withheld = withheldBy(unrated, edits);
    const branch = (id: 'misfire' | 'abort', title: string, when: string) => ({
      id,
      title,
      when,
      steps: renumbered(steps.filter((s) => s.phase === id)),
    });
    return {
      ok: true,
      sheet: {
        rigName,
        people: edits.people,
        summary: summaryOf(evaluation),
        verdict: inManner(here, () => verdictOf(evaluation, [...errors, ...over], cannot, withheld, shot.mends[0] ?? null)),
        shot,
        cannot,
        unrated,
        withheld,
        waived: waivedWords(unrated, edits),
        stops: [...errors, ...over],
        main: renumbered(steps.filter((s) => s.phase !== 'misfire' && s.phase !== 'abort')),
        commissioning: commissioningLadder(evaluation),
        connections: Object.fromEntries(phases.map((phase) => [phase, connectionsIn(phase, evaluation)])),
        branches: [
          branch('misfire', 'Misfire', 'The count is over and nothing happened.'),
          branch('abort', 'Abort', 'Anything unexpected, at any step: a reading, a sound, a smell, a person.'),
        ],
        emergency: emergencyCards(edits, evaluation.corners.nominal().offers('dump').dumpResistance !== undefined),
        cautions,
      },
    };
  } catch (error) {
    const known = reasonOf(error);
    if (!known) throw error;
    const explained = evaluation.problems.find((p) => p.severity === 'error');
    return { ok: false, reason: explained?.text ?? known.reason };
  }
}

const renumbered = (steps: readonly Step[]): Step[] => steps.map((step, i) => ({ ...step, number: i + 1 }));
