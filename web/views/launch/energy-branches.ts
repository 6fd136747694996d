import type { LaunchStudy } from '@vast-surge/core/study';
import type { Ink } from '../../plot/option.ts';

export interface Branch {
  readonly name: string;
  readonly joules: number;
  readonly ink: Ink;
}

/** Where the energy of the stores goes: what stays on them, and what is given out and becomes. Nothing is left out but what the solver cannot account for. */
export function branchesOf({ energy, coils, projectile }: Pick<LaunchStudy, 'energy' | 'coils' | 'projectile'>): {
  readonly left: Branch;
  readonly out: readonly Branch[];
} {
  const { left, field, kinetic, lifted, heat, armature, friction } = energy;
  const { kind } = projectile.body;
  const out: Branch[] = [
    { name: `motion of the ${kind}`, joules: kinetic, ink: 'select' },
    { name: 'lifted', joules: lifted, ink: 'select' },
    { name: `heat in coil${coils.length > 1 ? 's' : ''}, store and switch`, joules: heat, ink: 'current' },
    { name: `heat in the ${kind}`, joules: armature, ink: 'current' },
    { name: 'friction', joules: friction, ink: 'third' },
    { name: 'left in the field', joules: field, ink: 'dim' },
  ];
  return { left: { name: 'left on the store', joules: left, ink: 'dim' }, out };
}
