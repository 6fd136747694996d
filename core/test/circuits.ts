import type { Element, Netlist } from '../circuit/index.ts';

/**
 * A Marx generator of N stages as a check problem has it: 2 nF at 20 kV a stage, 8 pF from each top and the output to earth,
 * gaps of 1 Ω and 80 nH that break at 22 kV, 1 MΩ between stages, 100 Ω and 1 µH to a load of 300 pF and 5 kΩ.
 */
export function marx(N: number): Netlist {
  const base = (k: number) => (k === 1 ? '0' : `B${k}`);
  const stage = (k: number): Element[] => [
    { kind: 'capacitor', name: `C${k}`, nodes: [`T${k}`, base(k)], C: 2e-9, V0: 20e3 },
    { kind: 'capacitor', name: `S${k}`, nodes: [`T${k}`, '0'], C: 8e-12, V0: 20e3 },
    {
      kind: 'gap',
      name: `G${k}`,
      nodes: [`T${k}`, k === N ? 'O' : base(k + 1)],
      breakdown: 22e3,
      arc: { law: 'fixed', R: 1 },
      L: 80e-9,
      ...(k === 1 ? { fireAt: 0 } : {}),
    },
    ...(k < N
      ? ([
          { kind: 'resistor', name: `RT${k}`, nodes: [`T${k}`, `T${k + 1}`], R: 1e6 },
          { kind: 'resistor', name: `RB${k}`, nodes: [base(k), base(k + 1)], R: 1e6 },
        ] as const)
      : []),
  ];
  return {
    title: `Marx of ${N}`,
    elements: [
      ...Array.from({ length: N }, (_, i) => stage(i + 1)).flat(),
      { kind: 'capacitor', name: 'SO', nodes: ['O', '0'], C: 8e-12 },
      { kind: 'inductor', name: 'LO', nodes: ['O', 'out'], L: 1e-6, R: 100 },
      { kind: 'capacitor', name: 'CL', nodes: ['out', '0'], C: 300e-12 },
      { kind: 'resistor', name: 'RL', nodes: ['out', '0'], R: 5e3 },
    ],
  };
}
