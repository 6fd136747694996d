import { Corners } from '../figure/index.ts';
import { formulaById, ProgramError, type Formula } from '../formula/index.ts';
import type { Rig } from '../rig/index.ts';
import type { Evaluation } from './evaluate.ts';

/** An evaluation as a worker sends it: plain data, formulas by their ids, what is shared still shared. */
export type PackedEvaluation = Omit<Evaluation, 'rig' | 'corners'>;

/** A tree of plain data once more, each formula in it exchanged; one that is met again is the same again. */
function exchanged(of: unknown, formula: (of: unknown) => unknown, made = new Map<object, unknown>()): unknown {
  if (typeof of !== 'object' || of === null) return of;
  const known = made.get(of);
  if (known !== undefined) return known;
  if (Array.isArray(of)) {
    const all: unknown[] = [];
    made.set(of, all);
    for (const one of of) all.push(exchanged(one, formula, made));
    return all;
  }
  const copy: Record<string, unknown> = {};
  made.set(of, copy);
  for (const [key, value] of Object.entries(of))
    copy[key] = key === 'formula' && 'inputs' in of ? formula(value) : exchanged(value, formula, made);
  return copy;
}

/** What can be sent of an evaluation: all but the rig, which the receiver has, and its corners, which he makes as they are asked. */
export function packEvaluation({ figures, ladder, problems, hazard, beside }: Evaluation): PackedEvaluation {
  const all = { figures, ladder, problems, hazard, beside };
  return exchanged(all, (formula) => (formula as Formula).id) as PackedEvaluation;
}

/** The evaluation of a rig as it was packed elsewhere. @throws ProgramError where it names a formula that this program has not */
export function unpackEvaluation(rig: Rig, packed: PackedEvaluation): Evaluation {
  const named = (id: unknown): Formula => {
    const formula = formulaById.get(String(id));
    if (!formula) throw new ProgramError(`no formula ${String(id)}`);
    return formula;
  };
  const made = exchanged(packed, named) as PackedEvaluation;
  const corners = new Corners(rig);
  // Who asks the rig for a figure has the one that is shown, and not its like.
  corners.nominal().adopt(made.figures.flatMap((figure) => (figure.ok ? [figure] : [])));
  return { rig, ...made, corners };
}
