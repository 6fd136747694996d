import { printExact } from '../quantity/index.ts';
import type { Measure } from './kind/define.ts';
import { partKind } from './kind/registry.ts';
import { elementsOf, elementTitle, readingIssue, type Part } from './part.ts';

/** A step of the guided test. Nothing is measured on a part that may hold a charge before it is discharged and verified. */
export type TestStep =
  | { readonly step: 'discharge'; readonly text: string }
  | { readonly step: 'verify'; readonly text: string }
  | { readonly step: 'measure'; readonly measure: Measure; readonly element: number; readonly between: string | null };

/** Voltage, V, below which a part counts as verified. Common practice, no source: a meter's leads pick up less. */
export const verifiedBelow = 1;

const emptied: readonly TestStep[] = [
  {
    step: 'discharge',
    text: 'Discharge it through a soft discharge stick, terminal by terminal and to the case, then strap it.',
  },
  {
    step: 'verify',
    text: `Strap off: a meter rated for its voltage, between every two terminals and to the case. It must read below ${printExact(verifiedBelow, 'V')} and stay there. Type the highest reading.`,
  },
];

/**
 * The guided test of a part, in the order that is enforced: discharge, verify, then every measure of every element. A
 * measure that leaves the part charged is followed by discharge and verify again.
 */
export function guidedTest(part: Part): TestStep[] {
  const kind = partKind(part.kind);
  const elements = elementsOf(part);
  const measured = kind.measures.flatMap((measure) =>
    Array.from({ length: measure.perElement ? elements : 1 }, (_, i): TestStep[] => [
      { step: 'measure', measure, element: i + 1, between: elementTitle(part, i + 1) },
      ...(measure.charges ? emptied : []),
    ]).flat(),
  );
  return [...(kind.holdsCharge ? emptied : []), ...measured];
}

/** How far a guided test has come, and what was found on the way. */
export interface TestRun {
  readonly steps: readonly TestStep[];
  /** The step to be done; `steps.length` when all are. */
  readonly at: number;
  /** Whether the part is known to be discharged just now. */
  readonly verified: boolean;
}

export const startTest = (part: Part): TestRun => ({
  steps: guidedTest(part),
  at: 0,
  verified: !partKind(part.kind).holdsCharge,
});

export type TestAct =
  | { readonly act: 'discharged' }
  | { readonly act: 'verified'; readonly volts: number }
  | { readonly act: 'measured'; readonly value: number }
  | { readonly act: 'skipped' };

export type TestAnswer =
  | { readonly ok: true; readonly run: TestRun; readonly measured?: { readonly measure: Measure; readonly element: number } }
  | { readonly ok: false; readonly reason: string };

const refuse = (reason: string): TestAnswer => ({ ok: false, reason });
const on = (run: TestRun, verified = run.verified): TestRun => ({ ...run, at: run.at + 1, verified });

/**
 * Does one act of a test. An act out of its order is refused with the reason; a voltage that is found on the part sends
 * it back to be discharged.
 */
export function actOn(part: Part, run: TestRun, act: TestAct): TestAnswer {
  const step = run.steps[run.at];
  if (!step) return refuse('the test is done');
  switch (act.act) {
    case 'discharged':
      return step.step === 'discharge' ? { ok: true, run: on(run, false) } : refuse('discharging is not the next step');
    case 'verified': {
      if (step.step !== 'verify')
        return refuse(step.step === 'discharge' ? 'discharge it first' : 'verifying is not the next step');
      const volts = Math.abs(act.volts);
      if (!Number.isFinite(volts)) return refuse('the voltage must be a number');
      if (volts < verifiedBelow) return { ok: true, run: on(run, true) };
      // Back to the discharge before it.
      return { ok: true, run: { ...run, at: run.at - 1, verified: false } };
    }
    case 'measured': {
      if (step.step !== 'measure') return refuse('it is not verified to be discharged: nothing is measured on it yet');
      const issue = readingIssue(part.kind, step.measure.id, act.value);
      if (issue !== null) return refuse(`${step.measure.title} ${issue}`);
      return {
        ok: true,
        run: on(run, run.verified && step.measure.charges !== true),
        measured: { measure: step.measure, element: step.element },
      };
    }
    case 'skipped': {
      if (step.step !== 'measure') return refuse('discharging and verifying are never left out');
      // What was not applied has not charged it: the discharge that follows it is passed over with it.
      const past = step.measure.charges ? run.at + 3 : run.at + 1;
      return { ok: true, run: { ...run, at: past } };
    }
    default:
      return act satisfies never;
  }
}
