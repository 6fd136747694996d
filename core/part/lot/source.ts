/** A kind of source that parts come from, with what to watch for before and while one opens it. */
export interface LotSource {
  /** kebab-case. */
  readonly id: string;
  readonly title: string;
  readonly hazards: readonly string[];
}

const charged =
  'Capacitors inside may hold a lethal charge for days: discharge through a soft discharge stick, verify with a meter rated for it, strap, and only then reach in.';
const pcb =
  'Oil in old capacitors and transformers may hold PCBs: gloves, no opening, no drilling, and keep it out of drains and skips.';
const beryllia =
  'Pink or white ceramic in a magnetron or a power transistor may be beryllia: whole it gives nothing off, its dust is poison. Never break, file or grind it.';
const springs = 'Springs and doors under tension let go when a screw comes out.';
const mains = 'Unplug it and keep the plug in your hand before the first screw.';
const edges = 'Cut sheet metal: gloves.';

/** In the order in which they are offered. A new one is an entry here. All hazards: common practice, no source. */
export const lotSources: readonly LotSource[] = [
  {
    id: 'bought-new',
    title: 'bought new',
    hazards: ['A new capacitor can arrive charged from its test: verify before you unwrap the strap.'],
  },
  { id: 'bought-used', title: 'bought used', hazards: [charged, pcb] },
  { id: 'given', title: 'given', hazards: [charged, pcb] },
  {
    id: 'oven',
    title: 'microwave oven',
    hazards: [mains, charged, beryllia, 'The transformer alone kills when it is powered: it is no bench supply.', edges],
  },
  { id: 'flash', title: 'photo or studio flash', hazards: [charged, 'Flash tubes are glass under low pressure: they splinter.'] },
  {
    id: 'power-supply',
    title: 'switch-mode supply',
    hazards: [mains, charged, 'The input bank stays charged after the plug is out.'],
  },
  {
    id: 'picture-tube',
    title: 'television or monitor with a tube',
    hazards: [
      mains,
      charged,
      'The tube’s own glass holds charge at the anode and can recharge.',
      'Implosion: a tube that is struck or scratched throws glass. Wear goggles, and leave its neck alone.',
    ],
  },
  {
    id: 'motor',
    title: 'motor, pump or air conditioner',
    hazards: [mains, charged, pcb, 'Do not vent refrigerant: that is licensed work.'],
  },
  {
    id: 'power-factor',
    title: 'power-factor correction',
    hazards: [
      charged,
      pcb,
      'Built-in discharge resistors are often open: never trust them.',
      'A bulged can holds gas under pressure.',
    ],
  },
  {
    id: 'drive',
    title: 'welder or motor drive',
    hazards: [mains, charged, 'Its DC link is a bank in itself: hundreds of volts on large electrolytics.', edges],
  },
  {
    id: 'ballast',
    title: 'lamp ballast or sign transformer',
    hazards: [mains, pcb, 'Potting tar in old ballasts may hold PCBs as well.'],
  },
  {
    id: 'pulse-equipment',
    title: 'laser, defibrillator or other pulse equipment',
    hazards: [charged, pcb, springs, 'Storage capacitors here are made for one purpose: they deliver everything at once.'],
  },
  { id: 'other', title: 'something else', hazards: [charged, springs] },
];

export const disposalCaution = 'Local rules for disposal apply: ask before you throw away oil, ceramics, tubes or boards.';

const byId = new Map(lotSources.map((s) => [s.id, s]));

/** @throws Error where no such source is registered; the schema lets none through */
export function lotSource(id: string): LotSource {
  const found = byId.get(id);
  if (!found) throw new Error(`no source ${id}`);
  return found;
}
