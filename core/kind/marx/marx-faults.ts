import type { Own, RigContext } from '../../block/context.ts';
import type { Terminals } from '../../block/define.ts';
import type { FaultMode, PlacedPart } from '../../block/fault.ts';
import type { marxFields } from './marx-fields.ts';
import { eachStage, isTwo } from './marx-own.ts';

/** Ω of a charging resistor that flashed over or was bridged. */
const bridged = 1;

const without = (name: string) => (parts: readonly PlacedPart[]) => parts.filter(({ element }) => element.name !== name);

/** How the stages of a Marx fail. */
export function marxFaults(own: Own<typeof marxFields>, rig: RigContext, { tag, minus }: Terminals): readonly FaultMode[] {
  const n = eachStage(own).length;
  const V0 = rig.offer('chargedTo').value;
  const capacitor = (k: number) => `C${tag}${k === n ? '' : String(k)}`;
  const top = (k: number) => `T${k}`;
  const base = (k: number) => (k === 1 ? minus : `B${k}`);
  const middle = Math.max(1, Math.ceil(n / 2));
  const chain = own.quantity('Rc').value * Math.max(...eachStage(own)) * n * n;
  const faults: FaultMode[] = [
    {
      id: 'stage-short',
      title: `Capacitor of stage ${middle} shorts`,
      moment: 'bleed',
      says: 'Its own charge goes into the short at once; the others follow through their charging resistors, as long as those last.',
      shorts: true,
      circuit: (parts, R) => [
        ...parts,
        {
          element: { kind: 'resistor', name: `R${tag}short`, nodes: [top(middle), base(middle)], R },
          says: 'the short inside the failed capacitor',
          slot: 'store',
        },
      ],
      into: [`R${tag}short`],
      failed: [capacitor(middle)],
      withstands: null,
      until: () => Math.max(5 * chain, 1e-6),
    },
  ];
  if (n < 2) return faults;
  faults.push(
    {
      id: 'charging-resistor-open',
      title: `Charging resistor before stage ${n} is open`,
      moment: 'bleed',
      says: 'What lies behind it is charged through the gaps or strays, if at all, and is not bled by the bleeder: it keeps what it has.',
      circuit: without(`R${tag}a${n}`),
      cutOff: [capacitor(n)],
    },
    {
      id: 'charging-resistor-short',
      title: `Charging resistor before stage ${middle} flashes over at the shot`,
      moment: 'shot',
      says: 'Two stages are tied together on that side: the shot goes round the bridge instead of through the load.',
      circuit: (parts) =>
        parts.map((part) =>
          part.element.kind === 'resistor' && part.element.name === `R${tag}a${middle}`
            ? { ...part, element: { ...part.element, R: bridged } }
            : part,
        ),
      into: [`R${tag}a${middle}`],
    },
    {
      id: 'gap-silent',
      title: `Gap ${n} does not fire`,
      moment: 'shot',
      says: 'The shot stops below it; the stage above keeps its charge, and so may others.',
      circuit: without(`S${tag}${n}`),
      cutOff: [capacitor(n)],
    },
  );
  // The towers are mirror images: what fails in one of them takes the same in the other.
  const told = isTwo(own)
    ? faults.map((one) => ({ ...one, says: `${one.says} In either tower: the two are mirror images.` }))
    : faults;
  return V0 > 0 ? told : [];
}
