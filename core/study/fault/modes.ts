import type { FaultMode, PlacedPart, Slot } from '../../block/index.ts';
import { slots } from '../../block/index.ts';
import { definitionIn, ifKnown, type RigReading } from '../../figure/index.ts';
import type { Rig } from '../../rig/index.ts';
import { chargeSpan, oneOpenOf, terminalsOf } from '../../simulate/index.ts';

/** A fault mode with the block that it is of. */
export interface PlacedMode {
  readonly slot: Slot;
  readonly mode: FaultMode;
}

/** Ω of a path through a person, hand to feet at high voltage. Source: IEC TS 60479-1, the lower end; from memory. */
const body = 1000;
/** Ω of insulation that still holds. */
const holds = 1e9;
/** Ω of a joint that has welded or flashed over. */
const welded = 1e-3;

const without =
  (...out: readonly Slot[]) =>
  (parts: readonly PlacedPart[]) =>
    parts.filter(({ slot }) => !out.includes(slot));

const resistor = (slot: Slot, name: string, nodes: readonly [string, string], R: number, says: string): PlacedPart => ({
  slot,
  element: { kind: 'resistor', name, nodes, R },
  says,
});

/** The live side of the capacitor that stands for most of the store. */
function liveNode(parts: readonly PlacedPart[]): string {
  const capacitors = parts.flatMap(({ slot, element }) => (slot === 'store' && element.kind === 'capacitor' ? [element] : []));
  const most = capacitors.reduce<(typeof capacitors)[number] | null>((best, one) => (best && best.C >= one.C ? best : one), null);
  return most?.nodes[0] ?? terminalsOf('store').plus;
}

const namesOf = (rig: Rig, reading: RigReading, slot: Slot, kind: string): string[] =>
  (
    definitionIn(rig, slot).circuit?.(reading.ownOf(slot), reading, terminalsOf(slot), {
      of: 'discharge',
      charger: true,
      cycles: false,
    }) ?? []
  )
    .map(({ element }) => element)
    .filter((element) => element.kind === kind)
    .map(({ name }) => name);

function ofSupply(rig: Rig, reading: RigReading): FaultMode[] {
  const span = ifKnown(() => chargeSpan(reading).span);
  const dump = reading.offers('dump').dumpResistance;
  const falls = dump !== undefined || reading.offers('bleeder').isSwitched;
  return [
    ...(span === null
      ? []
      : [
          {
            id: 'runaway',
            title: 'The charger does not stop',
            moment: 'charge',
            says: 'Its regulator, its comparator or the person at it fails: the store goes on to what the supply can reach.',
            circuit: (parts) => parts,
            until: () => 6 * span,
          } satisfies FaultMode,
        ]),
    {
      id: 'mains-lost',
      title: 'Mains lost',
      moment: dump ? 'dump' : 'bleed',
      says: falls
        ? 'What is held off by power falls in: the store goes down by itself. Run at full charge, the worst moment.'
        : 'Nothing falls in by itself: the store keeps its charge in the dark, with no lamp and no meter that needs the mains. Run at full charge, the worst moment.',
      circuit: (parts) => parts,
      anyMoment: true,
      ...(dump ? { into: namesOf(rig, reading, 'dump', 'resistor') } : {}),
      ...(falls ? {} : { leavesCharged: true as const }),
    },
    {
      id: 'earth-off',
      title: 'The earth lead is off, and something flashes over',
      moment: 'charged',
      says: 'The chassis hangs on strays and looks harmless. When the live side then touches anything earthed, whoever holds the chassis is the way back.',
      circuit: (parts) => [
        ...parts,
        resistor('store', 'Rflash', [liveNode(parts), 'pe'], 1, 'the flashover to an earthed thing'),
        resistor('store', 'Rperson', ['pe', '0'], body, 'a person between earth and chassis'),
      ],
      into: ['Rperson'],
      isPerson: true,
      until: () => 6 * body * reading.figure('bank-capacitance').value,
    },
  ];
}

function ofCharging(reading: RigReading): FaultMode[] {
  const span = ifKnown(() => chargeSpan(reading).span);
  if (span === null || !((reading.offers('charging').chargingResistance?.value ?? 0) > 1)) return [];
  return [
    {
      id: 'charging-short',
      title: 'The charging resistor is bridged',
      moment: 'charge',
      says: 'The supply works into an empty store as into a short, and at the shot nothing stands between them.',
      circuit: (parts) =>
        parts.map((part) =>
          part.slot === 'charging' && part.element.kind === 'resistor'
            ? { ...part, element: { ...part.element, R: welded } }
            : part,
        ),
      until: () => span,
    },
    {
      id: 'charging-open',
      title: 'The charging path is open',
      moment: 'charge',
      says: 'The store stays empty while the supply is on: a hand that looks for the break finds it at full voltage.',
      circuit: (parts) => [
        ...parts.filter(({ slot }) => slot !== 'charging'),
        resistor('charging', 'Rch', [terminalsOf('charging').plus, terminalsOf('charging').minus], holds, 'the break'),
      ],
      until: () => span,
      strays: [{ title: 'At the break, against the store', node: terminalsOf('charging').plus }],
    },
  ];
}

function ofSwitch(reading: RigReading): FaultMode[] {
  const span = ifKnown(() => chargeSpan(reading).span);
  return [
    {
      id: 'no-fire',
      title: 'The switch does not fire',
      moment: 'bleed',
      says: 'Nothing is heard, and all of it is still there: a misfire is a charged store with people who want to look.',
      circuit: (parts) => parts,
      leavesCharged: true,
    },
    ...(reading.offers('switch').freeRunning
      ? []
      : [
          {
            id: 'early',
            title: 'The switch fires early',
            moment: 'early',
            says: 'The whole shot comes when nobody waits for it, with the charger connected.',
            circuit: (parts) => parts,
          } satisfies FaultMode,
        ]),
    ...(span === null
      ? []
      : [
          {
            id: 'stays-on',
            title: 'The switch welds, or its arc stays lit',
            moment: 'after',
            says: 'The charger feeds the load through it: the store does not come up, and what was made for a pulse carries current for as long as the supply is on.',
            circuit: (parts) =>
              parts.map((part) => (part.element.kind === 'capacitor' ? { ...part, element: { ...part.element, V0: 0 } } : part)),
            until: () => span,
          } satisfies FaultMode,
        ]),
  ];
}

function ofBleeder(rig: Rig, reading: RigReading): FaultMode[] {
  if (!reading.offers('bleeder').bleedResistance) return [];
  const oneOpen = ifKnown(() => oneOpenOf(reading, rig));
  const at = terminalsOf('bleeder');
  return [
    {
      id: 'open',
      title: 'The bleeder is open',
      moment: 'bleed',
      says: 'Nothing shows it: the meter falls by its own resistance or not at all, and the time on the sheet is wrong.',
      circuit: without('bleeder'),
      leavesCharged: true,
    },
    ...(oneOpen
      ? [
          {
            id: 'one-open',
            title: `${oneOpen.title}`,
            moment: 'bleed',
            says: 'It goes down, only later than the sheet says.',
            circuit: (parts) => [
              ...without('bleeder')(parts),
              resistor('bleeder', 'Rbl', [at.plus, at.minus], oneOpen.R.value, 'what is left of the bleeder'),
            ],
          } satisfies FaultMode,
        ]
      : []),
  ];
}

function ofDump(reading: RigReading): FaultMode[] {
  const R = reading.offers('dump').dumpResistance;
  if (!R) return [];
  const span = ifKnown(() => chargeSpan(reading).span);
  return [
    {
      id: 'stuck-open',
      title: 'The dump sticks open',
      moment: 'bleed',
      says: 'It is asked to close and does not: what is left is the bleeder, and the stick.',
      circuit: (parts) => parts,
      leavesCharged: true,
    },
    ...(span === null
      ? []
      : [
          {
            id: 'stuck-closed',
            title: 'The dump sticks closed',
            moment: 'charge',
            says: 'The supply heats the dump instead of charging the store: it was made for one discharge, not for that.',
            circuit: (parts) => [
              ...parts,
              resistor('dump', 'Rdump', [terminalsOf('dump').plus, terminalsOf('dump').minus], R.value, 'the dump, stuck closed'),
            ],
            into: ['Rdump'],
            until: () => 3 * span,
          } satisfies FaultMode,
        ]),
  ];
}

const ofMeter = (): FaultMode[] => [
  {
    id: 'lead-off',
    title: 'A lead of the meter is off',
    moment: 'charged',
    says: 'It reads zero whatever stands there. A meter that was proved on a known voltage before and after is the only one that is believed.',
    circuit: without('meter'),
    leavesCharged: true,
  },
];

const ofLoad = (): FaultMode[] => [
  {
    id: 'missing',
    title: 'The load is missing or its lead is off',
    moment: 'shot',
    says: 'The switch closes on nothing: the store stays full, and its voltage stands at the free end.',
    circuit: (parts) => [...without('load', 'monitor')(parts), resistor('load', 'Rld', ['out', '0'], holds, 'the open end')],
    strays: [{ title: 'At the free end of the load lead', node: 'out' }],
    leavesCharged: true,
  },
];

/** Every way in which the parts of a rig fail, place by place: what any block of its place does, and what its kind adds. */
export function faultModes(rig: Rig, reading: RigReading): readonly PlacedMode[] {
  const general: { readonly [K in Slot]?: () => readonly FaultMode[] } = {
    supply: () => ofSupply(rig, reading),
    charging: () => ofCharging(reading),
    switch: () => ofSwitch(reading),
    load: ofLoad,
    bleeder: () => ofBleeder(rig, reading),
    dump: () => ofDump(reading),
    meter: () => (reading.offers('meter').meterResistance ? ofMeter() : []),
  };
  return slots.flatMap((slot) => {
    const own = definitionIn(rig, slot).faults?.(reading.ownOf(slot), reading, terminalsOf(slot)) ?? [];
    return [...own, ...(general[slot]?.() ?? [])].map((mode) => ({ slot, mode }));
  });
}
