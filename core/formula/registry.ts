import type { Formula } from './define.ts';
import * as bleed from './bleed.ts';
import * as charge from './charge.ts';
import * as discharge from './discharge.ts';
import * as inductance from './inductance.ts';
import * as store from './store.ts';

/** Every formula, in the order in which the subjects are listed. A new formula in a known file needs no line here. */
export const formulas: readonly Formula[] = [store, charge, discharge, bleed, inductance].flatMap(
  (subject) => Object.values(subject) as unknown as Formula[],
);

export const formulaById: ReadonlyMap<string, Formula> = new Map(formulas.map((formula) => [formula.id, formula]));
