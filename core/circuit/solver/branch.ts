import type { TwoPole } from '../element.ts';
import { idealResistance } from './method.ts';

/** Where a branch stands among the others. */
export function rankOf(e: TwoPole, coupled: ReadonlySet<string>): number {
  if (e.kind === 'capacitor') return 0;
  if (e.kind === 'inductor') return coupled.has(e.name) ? 2 : 1;
  return e.kind === 'gap' ? 3 : e.kind === 'coil' ? 4 : 5;
}

/** What a stage needs of a branch as one number. */
export function valueOf(e: TwoPole): number {
  switch (e.kind) {
    case 'resistor':
      return 1 / e.R;
    case 'capacitor':
      return e.C;
    case 'inductor':
    case 'gap':
      return e.L;
    case 'switch':
    case 'diode':
    case 'thyristor':
      return 1 / e.Ron;
    case 'voltage-source':
      return 1 / (e.R && e.R > 0 ? e.R : idealResistance);
    case 'line-end':
      return 1 / e.Z0;
    case 'current-source':
    case 'power-source':
    case 'coil':
      return 0;
    default:
      return e satisfies never;
  }
}
