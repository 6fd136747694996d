import type { Remedy } from './remedy.ts';

/** Something that people do, with no part to put in. */
export const practice = (title: string, says: string): Remedy => ({
  id: 'practice',
  title,
  says,
  leaves: null,
  costs: null,
  sets: [],
  not: null,
});

/** What people do about it, where no part does. Common practice, no source. */
export const practices: { readonly [place: string]: readonly [title: string, says: string] } = {
  'supply.runaway': [
    'Ceiling of the supply',
    'A supply that cannot give more than the rating of the store needs no regulator to hold it back; else an overvoltage trip that opens the interlock, and a second meter.',
  ],
  'supply.earth-off': [
    'Two earths',
    'One star point, two leads to it by different ways, each pulled on by hand and read below 0.1 Ω before the strap comes off.',
  ],
  'charging.charging-short': [
    'Two resistors in series',
    'Of two in series one that bridges leaves the other; a fuse in the charging lead that breaks the voltage of the store.',
  ],
  'charging.charging-open': [
    'Look for it with the supply off',
    'A store that does not come up is treated as one at full voltage: supply off, locked, stick, then look.',
  ],
  'switch.early': [
    'Interlock',
    'Nobody is inside the guard from the strap off on; the charge begins from outside it, and the door opens the dump.',
  ],
  'charging.diode-short': [
    'Two diodes in series',
    'Each rated for all of it, with a resistor across each: one that shorts leaves the other. Supply off and isolated before anybody looks.',
  ],
  'load.freewheel-open': [
    'Two diodes in parallel',
    'On leads of their own, each for the whole pulse; tried with a meter before the day.',
  ],
  'load.freewheel-short': [
    'Raise it slowly',
    'A diode that shorts is found by the first volts of a charge: stop where it does not rise.',
  ],
  'crowbar.open': [
    'Two diodes in parallel',
    'On leads of their own, each for the whole pulse; tried with a meter before the day.',
  ],
  'crowbar.silent': ['A diode as well', 'A diode across the load needs no trigger; the gap then spares it most of the action.'],
  'switch.stays-on': [
    'Charger that is stopped by the shot',
    'The trigger stops the charger for longer than the arc needs to go out; a relay between them does it by contacts.',
  ],
  'switch.no-fire': [
    'Misfire branch',
    'Supply off, wait, dump, bleed to its worst case, stick: the run sheet has the branch. Nobody goes in to look first.',
  ],
  'meter.lead-off': [
    'Prove the meter',
    'On a known voltage before and after the reading. A reading that does not fall as calculated is no reading.',
  ],
  'load.missing': ['Pull on the leads', 'With the strap on; a shot that was not heard is a misfire.'],
  'meter.foot-open': [
    'Clamp across the foot',
    'A spark gap, a varistor or a pair of lamps across the foot, at the divider and not at the meter; the meter is looked at, never touched.',
  ],
  'load.turn-short': [
    'Inductance before the day',
    'Measure it cold at each session: a coil that lost some per cent since the last has a turn gone.',
  ],
  'dump.stuck-closed': [
    'Watch it come up',
    'A store that stays below what it should reach in the time of the sheet is stopped: supply off, and look at the dump.',
  ],
  'store.capacitor-off': [
    'Stick each string',
    'After a weak shot the stick goes across each capacitor, not across the bank alone.',
  ],
  'store.capacitor-low': ['Measure them', 'Capacitance of each, once a season: one that lost a tenth goes.'],
};
