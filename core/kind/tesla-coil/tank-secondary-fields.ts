import { onlyWith, quantity, above, choice, fields, whole, within } from '../../field/index.ts';

const metre = (title: string, initial: string, max: number, help?: string) =>
  quantity(title, 'm', above(0, max), initial, help === undefined ? {} : { help });

/** What primary, secondary and top load are made of. */
export const secondaryFields = fields(
  {
    shape: choice('Primary shape', { flat: 'flat spiral', cone: 'cone', helix: 'helix' }),
    a: onlyWith(
      'shape',
      ['cone'],
      quantity('Cone angle, as its sine', '1', within(0, 1), '0.5', { help: 'For a cone: 0.5 is 30°.' }),
    ),
    r0: metre('Radius of its first turn', '100 mm', 10, 'To the centre of the conductor, at the inner end.'),
    p: metre('Pitch of the turns', '15 mm', 1),
    d1: metre('Diameter of its conductor', '8 mm', 0.2, 'Tube or wire; the current runs on its skin.'),
    n1: quantity('Turns in all', '1', within(0.25, 200), '10'),
    n: quantity('Turns up to the tap', '1', within(0.25, 200), '8'),
    Ll: quantity('Inductance of leads and loop', 'H', within(0, 1e-3), '1 µH ±30 %', {
      tolerance: true,
      help: 'From the capacitor through the gap to the primary and back; it shares no flux with the secondary.',
    }),
    D2: metre('Diameter of the secondary', '110 mm', 10, 'To the middle of the wire.'),
    l2: metre('Length of its winding', '450 mm', 20),
    N2: quantity('Turns of the secondary', '1', whole(1, 20_000), '900'),
    d2: metre('Diameter of its wire over the enamel', '0.45 mm', 0.05),
    dw: quantity('Diameter of its copper', 'm', above(0, 0.05), '0.4 mm', {
      wire: true,
      help: 'A gauge such as 26 AWG is understood.',
    }),
    w2: quantity('Wire available', 'm', above(0, 1e6), null, { help: 'On the reel; empty if there is enough.' }),
    h: quantity('Height of its lowest turn above the primary’s first', 'm', within(-5, 5), '30 mm'),
    Cs: quantity('Self-capacitance, if measured', 'F', within(0, 1e-6), null, {
      help: 'Empty: after Medhurst, from its diameter and length.',
    }),
    top: choice('Top load', { toroid: 'toroid', sphere: 'sphere', given: 'given or measured', none: 'none' }),
    Dt: onlyWith('top', ['toroid', 'sphere'], metre('Toroid outer diameter, or sphere diameter', '320 mm', 20)),
    dt: onlyWith('top', ['toroid'], metre('Toroid tube diameter', '80 mm', 5)),
    Ct: onlyWith('top', ['given'], quantity('Top load capacitance, if given', 'F', within(0, 1e-6), '15 pF')),
    km: quantity('Coupling, if measured', '1', above(0, 0.98), null, {
      help: 'Empty: from the geometry, turn by turn. It must be below 1.',
    }),
    Le: quantity('Inductance of the earth lead', 'H', within(0, 1e-3), '3 µH'),
    Re: quantity('Resistance of earth lead and stake', 'Ω', within(0, 1e4), '10 Ω ±50 %', { tolerance: true }),
  },
  {
    essentials: ['n', 'D2', 'l2', 'N2', 'd2', 'top', 'Dt', 'dt', 'Ct'],
    geometry: ['shape', 'a', 'r0', 'p', 'd1', 'n1', 'Ll', 'dw', 'w2', 'h', 'Cs', 'km', 'Le', 'Re'],
  },
);
