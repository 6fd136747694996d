import { FormulaError, type Worked } from '../formula/index.ts';
import { Unavailable } from './context.ts';

/** What can be worked out, or null where something is missing for it. @throws what is no reason of the rig */
export function ifKnown<T>(get: () => T): T | null {
  try {
    return get();
  } catch (error) {
    if (error instanceof Unavailable || error instanceof FormulaError) return null;
    throw error;
  }
}

/** Whether somebody gave a value, and it does not stand there only because nobody did. */
export const isTyped = (worked: Worked): boolean => worked.kind === 'given' && worked.origin.from !== 'default';
