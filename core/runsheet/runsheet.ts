import { bleedGoal, phases, slots, type Phase, type Slot, type StepSpec } from '../block/index.ts';
import { definitionIn, reasonOf } from '../figure/index.ts';
import { figureIn, type Evaluation } from '../evaluation/index.ts';
import { printDuration, printQuantity } from '../quantity/index.ts';
import { limitState } from '../limit/index.ts';
import type { Worked } from '../formula/index.ts';
import { connectionsIn, type Connections } from './instruments.ts';

/** One thing to do, numbered within its sheet. */
export interface Step {
  readonly number: number;
  readonly id: string;
  readonly phase: Phase;
  readonly text: string;
  readonly expect: readonly {
    readonly label: string;
    readonly printed: string;
    readonly worked: Worked;
    readonly use: 'nominal' | 'high';
  }[];
  readonly hold?: string;
  readonly caution?: string;
}

export interface RunSheet {
  readonly rigName: string;
  /** What the rig can do to a person, before anything else. */
  readonly summary: readonly string[];
  /** Reasons why this sheet must not be used as it stands. */
  readonly stops: readonly string[];
  readonly main: readonly Step[];
  /** What may be connected in each phase of the steps, and what must not. */
  readonly connections: Readonly<Partial<Record<Phase, Connections>>>;
  readonly branches: readonly {
    readonly id: 'misfire' | 'abort';
    readonly title: string;
    readonly when: string;
    readonly steps: readonly Step[];
  }[];
  readonly cautions: readonly string[];
}

export const phaseTitles: { readonly [K in Phase]: string } = {
  prepare: 'Prepare',
  instruments: 'Instruments',
  commission: 'Commission',
  charge: 'Charge',
  isolate: 'Isolate the charger',
  fire: 'Fire',
  bleed: 'Bleed',
  verify: 'Verify',
  strap: 'Strap',
  'hand-over': 'Hand over',
  misfire: 'Misfire',
  abort: 'Abort',
};

/** The usual cautions; they stand on every sheet and every print. */
export const cautions: readonly string[] = [
  'These numbers are calculated from what was entered. They protect nobody: verify with a meter rated for the voltage.',
  'Never work alone, never reach into the guard with both hands, never trust an indicator lamp instead of a meter.',
  'Always take the bleeder for open and the store for charged until the meter and the strap say otherwise.',
  'Local codes and licensed practice come first.',
];

/** Steps that belong to no block: people, the guard, the strap, and the two branches. */
function commonSteps(evaluation: Evaluation): StepSpec[] {
  const reading = evaluation.corners.nominal();
  const goal = bleedGoal(reading);
  const open = reading.figure(goal.figures.open);
  return [
    {
      id: 'people',
      phase: 'prepare',
      text: 'Name who acts and who reads. Everyone knows where the isolator is and whom to call.',
      hold: 'Both have answered.',
    },
    {
      id: 'guard',
      phase: 'prepare',
      text: 'Guard in place; nobody inside it without the strap on. First-aid and fire extinguisher within reach.',
    },
    { id: 'strap-off', phase: 'charge', text: 'Everyone out of the guard. Strap off, guard shut.', hold: 'The guard is shut.' },
    {
      id: 'strap',
      phase: 'strap',
      text: 'Shorting strap across the bank, earthed side first. It stays on while anyone works, and in storage.',
      hold: 'The strap is seen on.',
    },
    {
      id: 'hand-over',
      phase: 'hand-over',
      text: 'Write down what was set, what was read and what to change. The strap stays on.',
      hold: 'The two readings and the strap are in the notes.',
    },
    {
      id: 'misfire-wait',
      phase: 'misfire',
      text: 'Nothing happened: it may still go. Stay outside the guard for a minute, hands off the trigger. The store is fully charged.',
      caution: 'Never walk up to a charged bank to look.',
    },
    {
      id: 'misfire-isolate',
      phase: 'misfire',
      text: 'Supply off and isolated, from outside the guard.',
      hold: 'The isolator is seen open.',
    },
    {
      id: 'misfire-open',
      phase: 'misfire',
      text: 'Do not count on time alone: should the bleeder be open, the store keeps its charge. Discharge it, do not wait for it.',
      expect: [{ label: `Bleeder open, below ${goal.text} after`, worked: open, print: 'duration', use: 'high' }],
    },
    {
      id: 'abort-supply',
      phase: 'abort',
      text: 'Supply off and isolated. Do not fire to empty the store unless the guard is shut and clear.',
      hold: 'The isolator is seen open.',
    },
    { id: 'abort-bleed', phase: 'abort', text: 'Bleed, verify and strap as in the steps above, from the first bleed step on.' },
    {
      id: 'abort-meter',
      phase: 'abort',
      text: 'If the meter itself is in doubt, take the store for fully charged: tool on for its whole worst time, then a second meter, then the strap.',
    },
  ];
}

function summaryOf(evaluation: Evaluation): string[] {
  const energy = figureIn(evaluation, 'stored-energy');
  const reading = evaluation.corners.nominal();
  const goal = bleedGoal(reading);
  const time = (id: string, side: 'value' | 'high') => {
    const figure = figureIn(evaluation, id);
    return figure ? printDuration(side === 'high' ? figure.band.high : figure.worked.value) : null;
  };
  const lines: string[] = [];
  if (energy)
    lines.push(
      `${printQuantity(energy.worked.value, 'J')} at ${printQuantity(reading.offer('chargedTo').value, 'V')} (at worst ${printQuantity(energy.band.high, 'J')})${evaluation.hazard ? `: ${evaluation.hazard.headline}` : ''}.`,
    );
  const erected = reading.offers('store').ladder ? figureIn(evaluation, 'discharge-voltage') : null;
  if (erected)
    lines.push(
      `In the shot the stages stand in series: up to ${printQuantity(erected.band.high, 'V')}${reading.offers('store').towers ? ' from top to top' : ' to earth'}, far above what any meter on a stage is made for.`,
    );
  for (const f of evaluation.hazard?.findings.filter((finding) => finding.exceeded) ?? [])
    lines.push(
      `Above the threshold of ${f.rule.source}: ${f.rule.text}, ${printQuantity(f.rule.threshold, f.rule.unit, { trim: true })}.`,
    );
  const bleeder = time(goal.figures.bleeder, 'value');
  lines.push(
    bleeder
      ? `Bleeder: calculated below ${goal.text} after ${bleeder}, at worst ${time(goal.figures.bleeder, 'high')}.`
      : 'No permanent bleeder.',
  );
  lines.push(
    `Bleeder open: below ${goal.text} by leakage alone only after about ${time(goal.figures.open, 'value')}, perhaps ${time(goal.figures.open, 'high')}.`,
  );
  return lines;
}

const slotOrder = (slot: Slot) => slots.indexOf(slot);

function print(expect: NonNullable<StepSpec['expect']>[number], evaluation: Evaluation): string {
  const show = (value: number) => (expect.print === 'duration' ? printDuration(value) : printQuantity(value, expect.worked.unit));
  if (expect.use === 'nominal') return show(expect.worked.value);
  const figure = evaluation.figures.find((f) => f.ok && f.worked === expect.worked);
  if (!figure?.ok) throw new Error(`${expect.label}: a worst case can only be printed of a figure`);
  return Number.isFinite(figure.band.high) ? show(figure.band.high) : 'never, at the worst corner of the tolerances';
}

/** Within a phase: common steps that open it, then the blocks in the order of the line, then common steps that close it. */
function ordered(evaluation: Evaluation): StepSpec[] {
  const reading = evaluation.corners.nominal();
  const fromBlocks = [...slots]
    .sort((a, b) => slotOrder(a) - slotOrder(b))
    .flatMap((slot) => [...(definitionIn(evaluation.rig, slot).steps?.(reading.own(slot), reading) ?? [])]);
  const common = commonSteps(evaluation);
  const all = [...common, ...fromBlocks];
  const residual = (step: StepSpec) => step.id === 'reversed-after-shot';
  return phases.flatMap((phase) => {
    const inPhase = all.filter((step) => step.phase === phase);
    return [...inPhase.filter((step) => !residual(step)), ...inPhase.filter(residual)];
  });
}

/**
 * The run sheet of a rig: every step with the times, voltages and ranges to expect, and the branches for a misfire and
 * an abort.
 *
 * @returns the sheet, or the reason why none can be made of this rig
 */
export function runSheetOf(
  rigName: string,
  evaluation: Evaluation,
): { ok: true; sheet: RunSheet } | { ok: false; reason: string } {
  try {
    let number = 0;
    const steps = ordered(evaluation).map(({ expect = [], ...step }): Step => ({
      ...step,
      number: ++number,
      expect: expect.map((e) => ({ label: e.label, worked: e.worked, use: e.use, printed: print(e, evaluation) })),
    }));
    const over = evaluation.ladder.limits
      .filter((l) => limitState(l) === 'over')
      .map((l) => `${l.title} is above its rating at the worst corner.`);
    const errors = evaluation.problems.filter((p) => p.severity === 'error').map((p) => p.text);
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
        summary: summaryOf(evaluation),
        stops: [...errors, ...over],
        main: renumbered(steps.filter((s) => s.phase !== 'misfire' && s.phase !== 'abort')),
        connections: Object.fromEntries(phases.map((phase) => [phase, connectionsIn(phase, evaluation)])),
        branches: [
          branch('misfire', 'Misfire', 'The count is over and nothing happened.'),
          branch('abort', 'Abort', 'Anything unexpected, at any step: a reading, a sound, a smell, a person.'),
        ],
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
