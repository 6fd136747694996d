import type { SymbolSpec } from './define.ts';

/**
 * Ranges shared by the formulas. They are wide: they keep out slips of a prefix by twelve orders and numbers no bench
 * holds, not unusual rigs.
 */
const spec = (title: string, unit: SymbolSpec['unit'], min: number, max: number, more: Partial<SymbolSpec> = {}): SymbolSpec => ({
  title,
  unit,
  min,
  max,
  ...more,
});

export const capacitance = (title = 'capacitance') => spec(title, 'F', 0, 1e5, { open: true });
export const voltage = (title = 'voltage') => spec(title, 'V', 0, 1e8);
export const positiveVoltage = (title = 'voltage') => spec(title, 'V', 0, 1e8, { open: true });
export const resistance = (title = 'resistance') => spec(title, 'Ω', 0, 1e16, { open: true });
/** Resistance that may be nought: a lossless loop. */
export const resistanceFromZero = (title = 'resistance') => spec(title, 'Ω', 0, 1e16);
export const inductance = (title = 'inductance') => spec(title, 'H', 0, 1e6, { open: true });
export const inductanceFromZero = (title = 'inductance') => spec(title, 'H', 0, 1e6);
export const energy = (title = 'energy') => spec(title, 'J', 0, 1e12);
export const charge = (title = 'charge') => spec(title, 'C', 0, 1e9);
export const current = (title = 'current') => spec(title, 'A', 0, 1e12);
export const power = (title = 'power') => spec(title, 'W', 0, 1e18);
export const time = (title = 'time') => spec(title, 's', 0, 1e15);
export const action = (title = 'action integral') => spec(title, 'A²s', 0, 1e18);
export const length = (title = 'length') => spec(title, 'm', 0, 1e6, { open: true });
export const count = (title: string) => spec(title, '1', 1, 10_000, { integer: true });
export const fraction = (title: string) => spec(title, '1', 0, 1);
export const ratio = (title: string, max = 1e12) => spec(title, '1', 0, max);
export const spread = (title: string, max: number) => spec(title, '1', 0, max);
