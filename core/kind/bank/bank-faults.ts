import type { FaultMode, PlacedPart } from '../../block/fault.ts';
import type { Own, RigContext } from '../../block/context.ts';
import type { Terminals } from '../../block/define.ts';
import { inductanceOfOne } from './bank-protection.ts';
import type { capacitorBankFields } from './bank-fields.ts';

type BankOwn = Own<typeof capacitorBankFields>;

/** How one of the capacitors of a bank is: as it should be, with a short inside, or with less capacitance than it had. */
interface Failed {
  readonly shortR?: number;
  readonly share?: number;
  /** Its lead is off: so is the string it stands in. */
  readonly isOff?: true;
}

/** Resistance that stands for the losses of a lead at its highest frequencies, over the impedance of the capacitor in it. */
const damping = 1e3;
/** What stands for a capacitor that dried out or lost foil: half of what it had. */
const lowShare = 0.5;

const placed = (element: PlacedPart['element'], says: string, count?: number): PlacedPart => ({
  element,
  says,
  slot: 'store',
  ...(count === undefined ? {} : { count }),
});

/**
 * A bank capacitor by capacitor: the string with the failed one, and all others as one of their kind at each level. Each has its own
 * inductance, resistance and protection; levels are tied to each other or not, as the bank says.
 */
function bankInDetail(
  own: BankOwn,
  { plus, minus, tag }: Terminals,
  charged: number,
  { shortR, share = 1, isOff }: Failed,
): PlacedPart[] {
  const [ns, np] = [own.quantity('ns').value, own.quantity('np').value];
  const [C, Ri, ESR] = [own.quantity('C').value, own.quantity('Ri').value, own.quantity('ESR').value];
  const ESL = inductanceOfOne(own).value;
  const Rs = own.optional('Rs')?.value ?? 0;
  const tied = own.is('ties', 'levels');
  // One that is low takes more of the voltage: all of a string, or of tied levels, have one charge.
  const own1 = tied ? C * (np - 1 + share) : share * C;
  const rest = tied ? C * np : C;
  const q = charged / ((ns - 1) / rest + 1 / own1);
  const voltageOf = (string: 'f' | 'h', k: number): number =>
    string === 'f' || tied ? (k === 1 ? q / own1 : q / rest) : charged / ns;
  const level = (string: 'f' | 'h', k: number): string =>
    k === 0 ? plus : k === ns ? minus : tied ? `${tag}m${k}` : `${tag}${string}m${k}`;
  const one = (string: 'f' | 'h', k: number, count: number): PlacedPart[] => {
    const isFailed = string === 'f' && k === 1;
    const [from, to] = [level(string, k - 1), level(string, k)];
    const [outer, inner] = [`${tag}${string}o${k}`, `${tag}${string}i${k}`];
    const value = C * count * (isFailed ? share : 1);
    const V0 = voltageOf(string, k);
    const of =
      count > 1
        ? `each of ${count} capacitors of level ${k}`
        : isFailed
          ? 'the failed capacitor'
          : `a capacitor of level ${k} beside it`;
    const lead: PlacedPart[] =
      isFailed && isOff
        ? []
        : [
            placed(
              ESL > 0
                ? {
                    kind: 'inductor',
                    name: `L${tag}${string}${k}`,
                    nodes: [from, outer],
                    L: ESL / count,
                    R: Math.max(Rs, 1e-7) / count,
                  }
                : {
                    kind: 'resistor',
                    name: `R${tag}${string}${k}`,
                    nodes: [from, outer],
                    R: Math.max(Rs, 1e-7) / count,
                  },
              `lead of ${of}`,
              count,
            ),
          ];
    // Beside the inductance of a lead: what lies between two of them would else hang in the air at the start.
    const damped: PlacedPart[] =
      ESL > 0 && lead.length > 0
        ? [
            placed(
              {
                kind: 'resistor',
                name: `R${tag}${string}d${k}`,
                nodes: [from, outer],
                R: (damping * Math.sqrt(ESL / C)) / count,
              },
              `losses of the lead of ${of}`,
              count,
            ),
          ]
        : [];
    return [
      ...lead,
      ...damped,
      placed(
        { kind: 'resistor', name: `R${tag}${string}e${k}`, nodes: [outer, inner], R: Math.max(ESR, 1e-7) / count },
        `ESR of ${of}`,
        count,
      ),
      placed({ kind: 'capacitor', name: `C${tag}${string}${k}`, nodes: [inner, to], C: value, V0 }, of, count),
      placed(
        { kind: 'resistor', name: `R${tag}${string}l${k}`, nodes: [inner, to], R: Ri / count },
        `insulation of ${of}`,
        count,
      ),
      ...(isFailed && shortR !== undefined
        ? [
            placed(
              { kind: 'resistor', name: `R${tag}short`, nodes: [inner, to], R: shortR },
              'the short inside the failed capacitor',
            ),
          ]
        : []),
    ];
  };
  const levels = Array.from({ length: ns }, (_, i) => i + 1);
  return [...levels.flatMap((k) => one('f', k, 1)), ...(np > 1 ? levels.flatMap((k) => one('h', k, np - 1)) : [])];
}

/** How long the discharge of the others into a short goes on, s: until it has rung out, or crept out. */
function ringOut(own: BankOwn, R: number): number {
  const [L, C] = [2 * inductanceOfOne(own).value, own.quantity('C').value * own.quantity('np').value];
  const loop = R + 2 * (own.quantity('ESR').value + (own.optional('Rs')?.value ?? 0)) + 1e-6;
  const creeping = 10 * loop * C;
  return L === 0 ? creeping : Math.max(creeping, Math.min((14 * L) / loop, 120 * Math.PI * Math.sqrt(L * C)));
}

/** How the capacitors of a bank fail. */
export function bankFaults(own: BankOwn, rig: RigContext, at: Terminals): readonly FaultMode[] {
  const [ns, np] = [own.quantity('ns').value, own.quantity('np').value];
  const V0 = rig.offer('chargedTo').value;
  const [Am, Vf] = [own.optional('Am'), own.optional('Vf')];
  const inDetail = (failed: Failed) => (parts: readonly PlacedPart[]) => [
    ...parts.filter(({ slot }) => slot !== 'store'),
    ...bankInDetail(own, at, V0, failed),
  ];
  const others = ns * np - 1;
  const feeders =
    others === 0
      ? 'Its own charge goes into the short.'
      : ns === 1 || own.is('ties', 'levels')
        ? `All that stand in parallel with it discharge into it${ns > 1 ? '; the other levels take its share of the voltage' : ''}.`
        : `Its own charge goes into the short; the other strings push the ${ns - 1} left in its string up by its share of the voltage.`;
  const short: FaultMode = {
    id: 'capacitor-short',
    title: ns * np === 1 ? 'The capacitor shorts inside' : 'One capacitor shorts inside',
    moment: 'charged',
    says: feeders,
    shorts: true,
    circuit: (parts, R) => inDetail({ shortR: R })(parts),
    into: [`R${at.tag}short`, `R${at.tag}fe1`],
    ...(ns > 1
      ? { strained: { title: 'A capacitor left in its string', element: `C${at.tag}f2`, rating: own.optional('Vr') } }
      : {}),
    failed: [`C${at.tag}f1`, `L${at.tag}f1`, `R${at.tag}f1`],
    until: (R) => ringOut(own, R),
    withstands: own.optional('Ec'),
    ...(Am && Vf && Vf.value >= V0 ? { fuse: Am.value } : {}),
    lead: inductanceOfOne(own).value > 0 ? `L${at.tag}f1` : `R${at.tag}f1`,
  };
  const off: FaultMode = {
    id: 'capacitor-off',
    title: ns > 1 ? 'A lead of one capacitor is off, its string with it' : 'A lead of one capacitor is off',
    moment: 'shot',
    says: 'The shot lacks its part, and what is cut off keeps its charge: neither bleeder nor dump nor meter reaches it.',
    circuit: inDetail({ isOff: true }),
    cutOff: Array.from({ length: own.is('ties', 'levels') ? 1 : ns }, (_, i) => `C${at.tag}f${i + 1}`),
  };
  const low: FaultMode = {
    id: 'capacitor-low',
    title: 'One capacitor has half its capacitance',
    moment: 'charged',
    says: 'All of a string carry one charge: the low one takes more of the voltage than its share.',
    circuit: inDetail({ share: lowShare }),
    strained: { title: 'The low capacitor', element: `C${at.tag}f1`, rating: own.optional('Vr') },
  };
  return [short, ...(np > 1 ? [off] : []), ...(ns > 1 ? [low] : [])];
}
