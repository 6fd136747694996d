import { above, fields, quantity, within } from '../../field/index.ts';
import { chargeFormulas, fuseFormulas, inductanceFormulas, ruled, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { LimitSpec, Own, Problem } from '../../block/context.ts';

/** What contains a capacitor that fails: all of it beside each capacitor of the bank. */
export const protectionFields = fields({
  Rs: quantity('Series resistor, per capacitor', 'Ω', within(0, 1e6), null, {
    group: 'protection',
    help: 'In the lead of each: it takes its share of what the others would discharge into one that shorts, and of every shot.',
  }),
  Ls: quantity('Series inductor, per capacitor', 'H', within(0, 1), null, {
    group: 'protection',
    help: 'In the lead of each: it slows what the others drive into one that shorts, and every shot. It takes none of the energy.',
  }),
  Am: quantity('Fuse per capacitor, melting I²t', 'A²s', above(0, 1e9), null, {
    group: 'protection',
    help: 'From its data sheet, or of a wire by its diameter; the faults page says what it needs.',
  }),
  Vf: quantity('Fuse per capacitor, breaking voltage', 'V', above(0, 1e6), null, {
    group: 'protection',
    help: 'DC voltage at which it interrupts a capacitor discharge. A mains fuse has none stated for that.',
  }),
  Ec: quantity('Case rupture energy, each', 'J', above(0, 1e9), null, {
    group: 'protection',
    help: 'Energy of an internal fault that the case of one capacitor contains without rupture, as its maker states. Empty: not rated.',
  }),
});

/** Only the fields named here are read, so that any bank that has them will do. */
type Protected = Pick<Own<typeof protectionFields>, 'optional' | 'quantity'>;

/** Resistance in series with one capacitor: its own, and the resistor beside it. */
export function seriesOfOne(own: Protected & { readonly quantity: (field: 'ESR') => Worked }): Worked {
  const Rs = own.optional('Rs');
  const ESR = own.quantity('ESR');
  return Rs ? work(chargeFormulas.seriesSum, { R1: ESR, R2: Rs }, 'ESR and series resistor of one') : ESR;
}

/** Inductance of one capacitor with what stands in its lead. */
export function inductanceOfOne(own: Protected & { readonly quantity: (field: 'ESL') => Worked }): Worked {
  const Ls = own.optional('Ls');
  const ESL = own.quantity('ESL');
  return Ls ? work(inductanceFormulas.inductanceSum, { L1: ESL, L2: Ls }, 'ESL and series inductor of one') : ESL;
}

export const protectionLimits: readonly LimitSpec[] = [
  {
    id: 'fuse-shot',
    title: 'Fuse per capacitor, action of a shot',
    slot: 'store',
    stress: (rig) =>
      work(
        fuseFormulas.stringAction,
        { A: rig.figure('action-integral'), np: rig.own('store').quantity('np') },
        'action in the fuse, each shot',
      ),
    rating: (rig) => {
      const Am = rig.own('store').optional('Am');
      return (
        Am && work(fuseFormulas.fuseDuty, { Am, k: ruled('share that does not age it', 0.5, '1', 'common practice, no source') })
      );
    },
    levers: ['store.Am', 'store.V0', 'load.R'],
    onlyIfKnown: true,
    note: 'A fuse that comes near its melting action at every shot ages, and opens on a day when nothing is wrong.',
  },
  {
    id: 'fuse-voltage',
    title: 'Fuse per capacitor, voltage it must break',
    slot: 'store',
    stress: (rig) => rig.offer('chargedTo'),
    rating: (rig) => rig.own('store').optional('Vf'),
    levers: ['store.V0', 'store.Vf'],
    onlyIfKnown: true,
    protects: true,
    note: 'A fuse that cannot break it goes on as an arc, and the capacitor it should save gets all of the energy.',
  },
];

/** A fuse of which nobody says what it breaks. */
export function fuseProblem(own: Protected & { readonly quantity: (field: 'V0') => Worked }): Problem[] {
  if (!own.optional('Am') || own.optional('Vf')) return [];
  const text = `Nothing says that the fuses break ${printQuantity(own.quantity('V0').value, 'V')} of a capacitor: without a breaking voltage a fuse is a wire that arcs. Enter it, or take the fuses out of the rig.`;
  return [{ severity: 'error', slot: 'store', field: 'Vf', text }];
}
