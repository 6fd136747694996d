import { bleedFormulas, work } from '../../formula/index.ts';
import type { FigureSpec, RigContext, StepSpec } from '../../block/context.ts';
import type { CircuitPart, Scene, Terminals } from '../../block/define.ts';
import { bleedGoal, longestBleed } from '../../block/goal.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'bleeder-power': true;
  }
}

/** A bleeder of any kind is one resistor across the store. */
export const bleederCircuit = (_own: unknown, rig: RigContext, { plus, minus, tag }: Terminals, scene: Scene): CircuitPart[] => [
  {
    element: { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R: rig.offer('bleedResistance').value },
    says: 'permanent bleeder',
    ...(scene.of === 'discharge' ? { leftOut: { what: 'the bleeder', instead: 'open' as const } } : {}),
  },
];

export const bleederPower: FigureSpec = {
  id: 'bleeder-power',
  title: 'Bleeder power at full charge',
  slot: 'bleeder',
  compute: (rig) =>
    work(bleedFormulas.bleedPeakPower, { R: rig.offer('bleedResistance'), V: rig.offer('chargedTo') }, 'power in the bleeder'),
};

export function bleederSteps(rig: RigContext): StepSpec[] {
  const goal = bleedGoal(rig);
  const worked = rig.figure('bleed-time');
  const isSlow = worked.value > longestBleed;
  const hasDump = rig.offers('dump').dumpResistance !== undefined;
  return [
    {
      id: 'bleed-wait',
      phase: 'bleed',
      text: hasDump
        ? `Stay outside the guard until the meter reads below ${goal.text}. If the dump has not done it, wait for the bleeder to its worst-case time.`
        : isSlow
          ? 'Do not wait for this bleeder: it is there for the night. Treat the store as charged, and go on with the stick at arm’s length.'
          : 'Stay outside the guard and let the bleeder work. Watch the meter fall.',
      expect: [
        { label: `Calculated below ${goal.text} after`, worked, print: 'duration', use: 'nominal' },
        { label: 'Worst case after', worked, print: 'duration', use: 'high' },
      ],
      does: 'bleed',
      caution:
        'A meter that does not fall as calculated means a weak or open bleeder: do not wait on it, go on with the discharge stick at arm’s length.',
    },
  ];
}
