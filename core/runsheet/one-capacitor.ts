import { goalBeside, holdOf } from '../block/index.ts';
import { absorptionBy, dielectricField } from '../kind/index.ts';
import { quantity, above, fields } from '../field/index.ts';
import { bleedFormulas, boundsOf, chargeFormulas, storeFormulas, work, type Given, type Worked } from '../formula/index.ts';
import { hazardOf, type Hazard } from '../hazard/index.ts';
import { printDuration, printQuantity, type Quantity } from '../quantity/index.ts';
import { stickOf, type Stick } from '../study/index.ts';
import { emergencyCards, type Emergency } from './emergency.ts';
import { tiers } from './tier.ts';

/** What is asked of a capacitor on the bench: nothing of a supply, a switch or a load. */
export const oneCapacitorFields = fields({
  C: quantity('Capacitance', 'F', above(0, 100), '470 µF ±20 %', {
    tolerance: true,
    help: 'As marked, or measured once it is empty.',
  }),
  V0: quantity('Voltage it may hold', 'V', above(0, 1e6), '400 V', {
    tolerance: true,
    help: 'What was read, or its rating: the higher of the two.',
  }),
  R: quantity('Resistor at hand', 'Ω', above(0, 1e12), null, { tolerance: true, help: 'Leave empty for a proposal.' }),
  meter: quantity('Meter, maximum input', 'V', above(0, 1e6), '600 V', {
    symbol: 'Vm',
    help: 'The lowest of its range, its category and its leads.',
  }),
});
export const oneCapacitorDielectrics = dielectricField.options;

export interface OneCapacitor {
  readonly C: Quantity;
  readonly V0: Quantity;
  readonly R: Quantity | null;
  readonly meter: Quantity;
  readonly dielectric: string;
}

export interface OneLine {
  readonly text: string;
  readonly hold?: string;
}

/** How one capacitor is discharged on the bench: as long as what it holds is dangerous. */
export interface OneSheet {
  readonly hazard: Hazard;
  readonly energy: Worked;
  /** V it goes below. */
  readonly goal: Worked;
  /** The resistor at hand, or the one proposed: Ω of all, and what it has to bear. */
  readonly resistor: {
    readonly isAtHand: boolean;
    readonly R: Worked;
    readonly stick: Stick | null;
    readonly peak: Worked;
    readonly first: Worked;
    /** J in a pulse: twice what is stored at most. */
    readonly pulse: number;
    /** Why it is none for this; null where it is one. */
    readonly against: string | null;
  };
  readonly hold: Worked;
  /** s at the worst corner. */
  readonly longest: number;
  /** V that may come back, and s that are waited for it. */
  readonly back: { readonly volts: number; readonly wait: number };
  /** Whether hands may do it at all. */
  readonly isByHand: boolean;
  readonly lines: readonly OneLine[];
  readonly cards: readonly Emergency[];
}

/** J below which five lines are enough, and from which a second person and a guard belong to it. Common practice, no source. */
const little = 1;
const much = 10;
/** s nobody waits for a resistor, A that are next to a short. Common practice, no source. */
const patience = 900;
const nextToShort = 200;

const given = (title: string, { value, tolerance }: Quantity, unit: Given['unit']): Given => ({
  kind: 'given',
  title,
  value,
  unit,
  origin: { from: 'rule', source: 'as entered' },
  ...(tolerance ? { tolerance } : {}),
});

/** The ranges of a usual meter, V; what is held in a hand goes no higher. Common practice, no source. */
const ranges = [2, 20, 200, 600, 1000] as const;

/** What the meter does before and after the resistor, and on which range. */
function metering(highest: number, most: number, goal: string): { before: OneLine; after: string } {
  const range = ranges.find((top) => top >= highest);
  const down = `then down its ranges to the lowest that holds it; below ${goal} is what counts`;
  if (range === undefined || highest > most) {
    const why =
      highest > most ? `it may see ${printQuantity(most, 'V', { trim: true })}` : 'nothing held in a hand is on more than 1 kV';
    return {
      before: {
        text: `Meter off it: ${printQuantity(highest, 'V')} can stand there, and ${why}. A divider or an electrostatic voltmeter for it, or none until the resistor has done its work.`,
        hold: 'No lead of the meter is on it.',
      },
      after: `Meter proved on a battery, then across it on its highest range, with the resistor still on, ${down}.`,
    };
  }
  return {
    before: {
      text: `Meter on the ${range} V range, DC: proved on a battery, then across the terminals, then proved again. It shows the voltage there now.`,
      hold: 'The meter has shown what the battery has.',
    },
    after: `Meter across it on the ${range} V range, ${down}.`,
  };
}

function resistorOf(R: Worked | null, V: Worked, C: Worked, goal: Worked, E: number): OneSheet['resistor'] {
  const highest = boundsOf(V).high;
  const stick = R ? null : stickOf({ E, C: boundsOf(C).high, highest, goal: goal.value });
  const used =
    R ??
    work(
      storeFormulas.seriesResistance,
      { R: given('proposed, one', { value: stick?.R ?? 1 }, 'Ω'), n: given('in series', { value: stick?.n ?? 1 }, '1') },
      'proposed resistor',
    );
  const peak = work(bleedFormulas.bleedPeakPower, { R: used, V }, 'power at first touch');
  const first = work(chargeFormulas.initialCurrent, { Vs: V, R: used }, 'first current');
  const time = boundsOf(work(bleedFormulas.rcBleedTime, { R: used, C, V0: V, V: goal }, 'time to the goal')).high;
  const against =
    time > patience
      ? `Nobody stays that long: ${printDuration(time)} to below ${printQuantity(goal.value, 'V', { trim: true })}. Use a lower value.`
      : first.value > nextToShort
        ? `Almost a short: ${printQuantity(first.value, 'A')} at first touch. Use a higher value.`
        : null;
  return { isAtHand: R !== null, R: used, stick, peak, first, pulse: 2 * E, against };
}

/** @throws FormulaError where the values do not go together */
export function oneCapacitorSheet(of: OneCapacitor): OneSheet {
  const [C, V] = [given('capacitance', of.C, 'F'), given('voltage it may stand at', of.V0, 'V')];
  const energy = work(storeFormulas.storedEnergy, { C, V }, 'stored at that voltage');
  const E = boundsOf(energy).high;
  const highest = boundsOf(V).high;
  const goal = goalBeside(V, energy);
  const goalText = printQuantity(goal.value, 'V', { trim: true });
  const hazard = hazardOf({ energy: E, voltage: highest, charge: boundsOf(C).high * highest });
  const resistor = resistorOf(of.R && given('resistor at hand', of.R, 'Ω'), V, C, goal, E);
  const hold = holdOf(work(bleedFormulas.rcBleedTime, { R: resistor.R, C, V0: V, V: goal }, 'time through the resistor'));
  const longest = boundsOf(hold).high;
  const { share, wait } = absorptionBy(of.dielectric);
  const back = { volts: share.value * highest, wait: wait.value };
  const isByHand = E < tiers.byHand;
  const meter = metering(highest, of.meter.value, goalText);
  const what = printQuantity(resistor.R.value, 'Ω', { digits: 2, trim: true });
  const base: OneLine[] = [
    {
      text: `Nothing connected that charges it: plug out, battery off, its other lead free.`,
      hold: 'Its two terminals are free.',
    },
    meter.before,
    {
      text: `${what} across its terminals for at least ${printDuration(longest)}, by insulated clips or the stick; not a screwdriver, not a wire.`,
      hold: `${printDuration(longest)} are over by the clock.`,
    },
    { text: `${meter.after} Prove it again.`, hold: `It reads below ${goalText}.` },
    {
      text: `Resistor off, wait ${printDuration(back.wait)}: up to ${printQuantity(back.volts, 'V', { digits: 2 })} may come back. Read again, then a wire across its terminals that stays there.`,
      hold: `The second reading is below ${goalText}, and the wire is on.`,
    },
  ];
  const more: OneLine[] = [
    { text: 'Glasses on, rings and watch off, one hand away from everything; the capacitor held down and not in a hand.' },
  ];
  const full: OneLine[] = [
    {
      text: 'Somebody else in the room who knows where the power switches off and whom to call; all others out of reach of it and its leads.',
      hold: 'They have answered.',
    },
    {
      text: `The resistor suits it: ${printQuantity(resistor.pulse, 'J', { digits: 2 })} per pulse and ${printQuantity(highest, 'V', { digits: 2 })} from end to end, in an insulating tube with a handle and its own lead to the earthed side, clamped there first.`,
      hold: 'The clamp holds when pulled.',
    },
    ...more,
  ];
  const beyond: OneLine[] = [
    {
      text: `Beyond what is discharged by hand (1 kJ): a fixed resistor that is switched across it from outside a guard comes first, and the steps below after it. Make a rig of it with a dump.`,
      hold: 'The dump has been on for its time, and the meter has fallen.',
    },
  ];
  const before = E >= tiers.byHand ? [...beyond, ...full] : E >= much ? full : E >= little ? more : [];
  return {
    hazard,
    energy,
    goal,
    resistor,
    hold,
    longest,
    back,
    isByHand,
    lines: [...before, ...base],
    cards: E >= much ? emergencyCards({ call: '' }, false) : [],
  };
}

/** The same for a terminal or a file. */
export function oneCapacitorText(of: OneCapacitor): string {
  const { hazard, energy, resistor, lines, cards, goal } = oneCapacitorSheet(of);
  const { stick } = resistor;
  return [
    `# Discharge one capacitor: ${printQuantity(of.C.value, 'F')} at ${printQuantity(of.V0.value, 'V')}`,
    '',
    `**${printQuantity(energy.value, 'J')}, worst case ${printQuantity(boundsOf(energy).high, 'J')}: ${hazard.headline}.** Goal: below ${printQuantity(goal.value, 'V', { trim: true })}.`,
    '',
    stick
      ? `Resistor: ${stick.n} × ${printQuantity(stick.R, 'Ω', { digits: 2 })} in series, each for ${printQuantity(stick.V, 'V', { digits: 2 })} and pulses of ${printQuantity(stick.E, 'J', { digits: 2 })}.`
      : `Resistor at hand: ${printQuantity(resistor.R.value, 'Ω')}, ${printQuantity(resistor.peak.value, 'W')} at first touch; pulses of ${printQuantity(resistor.pulse, 'J')} asked of it.${resistor.against === null ? '' : ` ${resistor.against}`}`,
    '',
    ...lines.flatMap(({ text, hold }, i) => [
      `${i + 1}. ${text}`,
      ...(hold === undefined ? [] : [`   - [ ] HOLD until: ${hold}`]),
    ]),
    ...cards.flatMap((card) => ['', `## Card: ${card.title}`, '', ...card.lines.map((line, i) => `${i + 1}. ${line}`)]),
    '',
    'Calculated from what was entered; it protects nobody: verify with a meter. Local codes and licensed practice come first.',
    '',
  ].join('\n');
}
