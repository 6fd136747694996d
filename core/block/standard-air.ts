import { gapFormulas, ruled, work, type Worked } from '../formula/index.ts';

/** The air that a rig stands in. */
export interface Air {
  /** Absolute, Pa */
  readonly pressure: Worked;
  /** K */
  readonly temperature: Worked;
  /** Water in it, g/m³; null: that of the tables of breakdown. */
  readonly humidity: Worked | null;
  /** Density over that at 20 °C and 101.3 kPa. */
  readonly density: Worked;
}

/** Where nothing else is said. */
export const standardAir: Air = {
  pressure: ruled('ambient pressure', 101_300, 'Pa', 'IEC 60060-1, standard atmosphere'),
  temperature: ruled('temperature', 293.15, 'K', 'IEC 60060-1, standard atmosphere'),
  humidity: null,
  density: ruled('relative air density', 1, '1', '20 °C, 101.3 kPa'),
};

/** As much of a rig as knows its air. */
interface InAir {
  offers(slot: 'air'): { readonly air?: Air };
}

export const airOf = (rig: InAir): Air => rig.offers('air').air ?? standardAir;

/** What a voltage does in the air of the day, as the voltage that does the same in standard air, V. */
export function inStandardAir(rig: InAir, V: Worked): Worked {
  const { density } = airOf(rig);
  return density === standardAir.density ? V : work(gapFormulas.voltageAtReference, { V, delta: density });
}
