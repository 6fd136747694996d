import type { Terminals } from '../../block/define.ts';
import type { FaultMode } from '../../block/fault.ts';

/** How the diode across the store fails. */
export const freewheelFaults = ({ tag, store }: Terminals): FaultMode[] => {
  const name = `D${tag}`;
  return [
    {
      id: 'freewheel-open',
      title: 'The freewheel diode is open',
      moment: 'shot',
      says: 'The current of the coil has no way round the store: it charges it in reverse.',
      circuit: (parts) => parts.filter(({ element }) => element.name !== name),
    },
    {
      id: 'freewheel-short',
      title: 'The freewheel diode shorts',
      moment: 'charged',
      says: 'It lies across the store: all of it goes through the diode at once, switch or no switch.',
      shorts: true,
      circuit: (parts, R) => [
        ...parts,
        { element: { kind: 'resistor', name: `R${tag}d`, nodes: [store, '0'], R }, says: 'the shorted diode', slot: 'load' },
      ],
      into: [`R${tag}d`],
      withstands: null,
    },
  ];
};
