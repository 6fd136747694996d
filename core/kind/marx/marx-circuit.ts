import { arcFall, fallingArc } from '../../block/arc.ts';
import type { Own } from '../../block/context.ts';
import type { CircuitPart, Scene, Terminals } from '../../block/define.ts';
import { eachStage, firstResistance, gapSpacing, gapStray, isTwo, lastNode, selfBreakBehind, stageStray } from './marx-own.ts';
import type { marxFields } from './marx-fields.ts';

/** Capacitance of a terminal that nothing is said of, F. */
const unknownTerminal = 1e-12;
/** Stray capacitance of a stage that nothing is said of, F. */
const unknownStray = 0.2e-12;

/** One link of the ladder: a resistor, or the winding and the inductance of a choke. */
function linkParts(own: Own<typeof marxFields>, name: string, from: string, to: string, says: string, times = 1): CircuitPart[] {
  const Lc = own.optional('Lc');
  const R = times * own.quantity('Rc').value;
  if (!Lc) return [{ element: { kind: 'resistor', name: `R${name}`, nodes: [from, to], R }, says: `charging resistor ${says}` }];
  const inside = `${name}x`;
  return [
    {
      element: { kind: 'resistor', name: `R${name}`, nodes: [from, inside], R },
      says: `winding of the charging choke ${says}`,
    },
    {
      element: { kind: 'inductor', name: `L${name}`, nodes: [inside, to], L: times * Lc.value },
      says: `charging choke ${says}`,
      leftOut: { what: 'the inductance of the charging chokes', instead: 'short' },
    },
  ];
}

/** The stages of a tower with what charges them. */
export function ladderParts(
  own: Own<typeof marxFields>,
  { plus, minus, tag }: Terminals,
  scene: Scene,
  charged: number,
): CircuitPart[] {
  const each = eachStage(own);
  const n = each.length;
  const top = (k: number) => `T${k}`;
  const base = (k: number) => (k === 1 ? minus : `B${k}`);
  const V0 = scene.of === 'charge' ? 0 : charged;
  return each.flatMap((C, i): CircuitPart[] => {
    const k = i + 1;
    // The last stage is what a charge waits for: it is the store that is looked at.
    const mark = k === n ? '' : String(k);
    // The gap of a stage bears its resistance; the first gap is the switch of the rig and knows nothing of it.
    const shot = scene.of === 'discharge' && k === 1;
    const foot = shot ? 'B1' : base(k);
    return [
      ...linkParts(own, `${tag}a${k}`, k === 1 ? plus : top(k - 1), top(k), `before stage ${k}, live side`, k === 1 ? 2 : 1),
      ...(k > 1 ? linkParts(own, `${tag}b${k}`, base(k - 1), base(k), `before stage ${k}, earth side`) : []),
      ...(shot
        ? [
            {
              element: {
                kind: 'inductor',
                name: `L${tag}1`,
                nodes: [foot, minus],
                L: Math.max(own.quantity('L').value, 1e-12),
                R: firstResistance(own).value,
              } as const,
              says: 'inductance, ESR and front resistor of stage 1',
            },
          ]
        : []),
      {
        element: { kind: 'capacitor', name: `C${tag}${mark}`, nodes: [top(k), foot], C, V0 },
        says: `capacitor of stage ${k}`,
      },
      {
        element: { kind: 'resistor', name: `R${tag}i${k}`, nodes: [top(k), base(k)], R: own.quantity('Ri').value },
        says: `insulation of stage ${k}`,
        leftOut: { what: 'the insulation of the stages', instead: 'open' },
      },
    ];
  });
}

/** What joins the stages of a tower to a discharge: gaps, tail resistors, strays. */
export function shotParts(own: Own<typeof marxFields>, tag: string, out: string, V0: number): CircuitPart[] {
  const n = own.quantity('n').value;
  const Cs = stageStray(own)?.value ?? 0;
  const Cg = gapStray(own)?.value ?? 0;
  const Rt = own.optional('Rt');
  const CL = own.optional('CL')?.value ?? 0;
  const parts: CircuitPart[] = [];
  for (let k = 1; k <= n; k++) {
    const next = k === n ? lastNode(own, out) : `B${k + 1}`;
    if (Cs > 0)
      parts.push({
        element: { kind: 'capacitor', name: `C${tag}s${k}`, nodes: [`T${k}`, '0'], C: Cs, V0 },
        says: `stray capacitance of the top of stage ${k}`,
        leftOut: { what: 'the stray capacitance', instead: 'next to none' },
      });
    // Without any the gaps would all fire in one instant, and between two of them no voltage would be defined.
    else
      parts.push({
        element: { kind: 'capacitor', name: `C${tag}s${k}`, nodes: [`T${k}`, '0'], C: unknownStray, V0 },
        says: `stray capacitance of the top of stage ${k}, not given: as little as any has`,
      });
    if (Rt)
      parts.push({
        element: {
          kind: 'resistor',
          name: `R${tag}t${k}`,
          nodes: [`T${k}`, k === 1 ? '0' : `B${k}`],
          R: Math.max(Rt.value, 1e-6),
        },
        says: `tail resistor of stage ${k}`,
        leftOut: { what: 'the tail resistors', instead: 'open' },
      });
    // The first gap is the switch of the rig.
    if (k === 1) continue;
    parts.push({
      element: {
        kind: 'gap',
        name: `S${tag}${k}`,
        nodes: [`T${k}`, next],
        breakdown: selfBreakBehind(own).value,
        arc: fallingArc(gapSpacing(own), own.quantity('Ra').value, firstResistance(own).value),
        L: Math.max(own.quantity('L').value, 1e-12),
      },
      says: `gap ${k}, with the ESR, front resistor and inductance of its stage`,
      leftOut: { what: arcFall, instead: 'at once' },
    });
    if (Cg > 0)
      parts.push({
        element: { kind: 'capacitor', name: `C${tag}g${k}`, nodes: [`T${k}`, next], C: Cg, V0 },
        says: `stray capacitance across gap ${k}`,
        leftOut: { what: 'the stray capacitance', instead: 'next to none' },
      });
  }
  const Lo = own.optional('Lo');
  if (Lo)
    parts.push({
      element: { kind: 'inductor', name: `L${tag}o`, nodes: [lastNode(own, out), out], L: Lo.value },
      says: 'inductance of the output lead',
    });
  if (CL > 0)
    parts.push({
      element: { kind: 'capacitor', name: `C${tag}o`, nodes: [out, '0'], C: CL },
      says: 'capacitance of terminal and leads',
      leftOut: { what: 'the capacitance of the output', instead: 'open' },
    });
  // A load between two tops hangs in the air until the gaps fire.
  else if (isTwo(own))
    parts.push({
      element: { kind: 'capacitor', name: `C${tag}o`, nodes: [out, '0'], C: unknownTerminal },
      says: 'capacitance of terminal and leads, not given: as little as any has',
    });
  return parts;
}
