import type { FaultMode } from '../../block/fault.ts';
import type { Terminals } from '../../block/define.ts';

/** Coupling of a turn to the rest of its coil. Common practice, no source: 0.8 in a long thin one, 0.95 in a short thick one. */
const coupling = 0.9;

/**
 * A turn that shorts on itself: it takes current like the secondary of a transformer, until it melts.
 *
 * @param turns of the winding
 * @param R Ω of the whole winding, of which one turn has its share
 */
export const turnShort = (turns: number, R: number, { tag }: Pick<Terminals, 'tag'>): readonly FaultMode[] =>
  turns < 2
    ? []
    : [
        {
          id: 'turn-short',
          title: 'One turn of the coil shorts on itself',
          moment: 'shot',
          says: `It is a secondary of one turn, coupled by about ${coupling}: the coil loses inductance, the current rises, and the turn takes its heat alone.`,
          circuit: (parts) => {
            const coil = parts
              .filter(({ slot }) => slot === 'load')
              .map(({ element }) => element)
              .filter((element) => element.kind === 'inductor')
              .sort((a, b) => b.L - a.L)[0];
            if (!coil) return parts;
            return [
              ...parts,
              {
                element: { kind: 'inductor', name: `L${tag}turn`, nodes: [`${tag}turn`, '0'], L: coil.L / turns ** 2 },
                says: 'the shorted turn',
                slot: 'load',
              },
              {
                element: { kind: 'resistor', name: `R${tag}turn`, nodes: [`${tag}turn`, '0'], R: Math.max(R / turns, 1e-7) },
                says: 'the shorted turn, its resistance',
                slot: 'load',
              },
              {
                element: { kind: 'coupling', name: `K${tag}turn`, inductors: [coil.name, `L${tag}turn`], k: coupling },
                says: 'the shorted turn and the rest of the coil',
                slot: 'load',
              },
            ];
          },
          into: [`R${tag}turn`],
          // Nobody rates a turn for it.
          withstands: null,
        },
      ];
