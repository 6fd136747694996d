import { above, quantity } from '../../field/index.ts';
import type { QuantityField } from '../../field/index.ts';
import { meterFormulas, ruled, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { FigureSpec, Own, Problem, RigContext, StepSpec } from '../../block/context.ts';
import type { Quantities } from '../../field/index.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'monitor-peak': true;
    'scope-division': true;
    'scope-rate': true;
    'monitor-rise': true;
  }
}

export const bandwidth: QuantityField = quantity('Bandwidth', 'Hz', above(0, 1e12), '10 MHz', {
  symbol: 'B',
  help: 'Of the sensor and the oscilloscope together: the lower one counts.',
});

const samples = ruled('samples in the rise', 20, '1', 'common practice, no source: ten to twenty in the fastest edge');
const divisions = ruled('divisions the peak may fill', 6, '1', 'six of eight; three where it swings both ways');

const riseTime = (own: Own<Quantities<'B'>>): Worked => work(meterFormulas.riseTimeOfBandwidth, { B: own.quantity('B') });

/** What to set on the oscilloscope, given the peak at its input. */
export const scopeFigures = (peak: (rig: RigContext) => Worked): FigureSpec[] => [
  { id: 'monitor-peak', title: 'Monitor, peak at the oscilloscope', slot: 'monitor', compute: peak },
  {
    id: 'scope-division',
    title: 'Oscilloscope, volts per division',
    slot: 'monitor',
    compute: (rig) => work(meterFormulas.voltsPerDivision, { U: rig.figure('monitor-peak'), n: divisions }),
  },
  {
    id: 'scope-rate',
    title: 'Oscilloscope, minimum sample rate',
    slot: 'monitor',
    compute: (rig) => work(meterFormulas.sampleRate, { t: rig.figure('time-to-peak'), k: samples }),
  },
  { id: 'monitor-rise', title: 'Monitor, its own rise time', slot: 'monitor', compute: (rig) => riseTime(rig.own('monitor')) },
];

/** A sensor much slower than the pulse shows a smaller and later peak. */
export function slowProblem(own: Own<Quantities<'B'>>, rig: RigContext): Problem[] {
  const [own_, pulse] = [riseTime(own).value, rig.figure('time-to-peak').value];
  if (own_ < pulse / 5) return [];
  const text = `Its rise time of ${printQuantity(own_, 's')} is not short against the ${printQuantity(pulse, 's')} to the peak: it shows a peak lower and later than the true one. Use one with a fifth or less.`;
  return [{ severity: 'warning', slot: 'monitor', field: 'B', text }];
}

export const monitorSteps = (rig: RigContext, how: string): StepSpec[] => [
  {
    id: 'monitor-set',
    phase: 'instruments',
    text: how,
    expect: [
      { label: 'Volts per division', worked: rig.figure('scope-division'), print: 'quantity', use: 'nominal' },
      { label: 'Minimum sample rate', worked: rig.figure('scope-rate'), print: 'quantity', use: 'nominal' },
      { label: 'Peak expected at its input', worked: rig.figure('monitor-peak'), print: 'quantity', use: 'nominal' },
    ],
    hold: 'Armed, single shot, triggered by the pulse itself at a tenth of the peak.',
  },
];
