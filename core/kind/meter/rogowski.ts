import { above, fields, quantity, rating, whole } from '../../field/index.ts';
import { meterFormulas, probeFormulas, work, type Worked } from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import type { Own } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { ifKnown } from '../../block/known.ts';
import { loopGlyph } from './glyphs.ts';
import { bandwidth, monitorSteps, scopeFigures, slowProblem } from './monitor.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'monitor/rogowski': typeof rogowskiFields;
  }
  interface FigureIds {
    'rogowski-mutual': true;
    'rogowski-sensitivity': true;
    'rogowski-output': true;
    'rogowski-droop': true;
  }
}

const rogowskiFields = fields({
  N: quantity('Turns', '1', whole(1, 1e5), '200', { tolerance: true }),
  l: quantity('Length of the winding', 'm', above(0, 100), '40 cm', {
    tolerance: true,
    help: 'Along its middle, all the way round; the end comes back through the inside of the winding.',
  }),
  d: quantity('Diameter of a turn', 'm', above(0, 1), '6 mm', { tolerance: true }),
  Ri: quantity('Integrator, resistance', 'Ω', above(0, 1e9), '10 kΩ', { tolerance: true }),
  Ci: quantity('Integrator, capacitance', 'F', above(0, 1), '100 nF', { tolerance: true }),
  B: bandwidth,
  Ui: rating('Voltage of the winding, permitted', 'V', 1e6, {
    help: 'Before the integrator: of its insulation, and of what it is plugged into.',
  }),
  V: rating('Insulation rating', 'V', 1e6, { symbol: 'Vi', help: 'Against the conductor that it lies around.' }),
});

type Rogowski = Own<typeof rogowskiFields>;

const mutual = (own: Rogowski): Worked =>
  work(probeFormulas.rogowskiMutual, { N: own.quantity('N'), l: own.quantity('l'), d: own.quantity('d') });
const sensitivity = (own: Rogowski): Worked =>
  work(probeFormulas.integratorSensitivity, { M: mutual(own), R: own.quantity('Ri'), C: own.quantity('Ci') });

/** Share of the peak that an integrator may have lost by then. Common practice, no source. */
const droopLimit = 0.05;

export const rogowski = defineBlock({
  slot: 'monitor',
  kind: 'rogowski',
  title: 'Rogowski coil with RC integrator',
  glyph: () => loopGlyph,
  fields: rogowskiFields,
  key: (own) => ({ text: `${printQuantity(1 / sensitivity(own).value, '1')} A/V` }),
  offers: () => ({}),
  figures: [
    ...scopeFigures((rig) =>
      work(
        meterFormulas.shuntVoltage,
        { I: rig.figure('peak-current'), R: sensitivity(rig.own('monitor')) },
        'peak after the integrator',
      ),
    ),
    {
      id: 'rogowski-mutual',
      title: 'Rogowski coil, mutual inductance',
      slot: 'monitor',
      compute: (rig) => mutual(rig.own('monitor')),
    },
    {
      id: 'rogowski-sensitivity',
      title: 'Rogowski coil, volts an ampere after the integrator',
      slot: 'monitor',
      compute: (rig) => sensitivity(rig.own('monitor')),
    },
    {
      id: 'rogowski-output',
      title: 'Rogowski coil, voltage of the winding',
      slot: 'monitor',
      compute: (rig) => work(meterFormulas.loopOutput, { M: rig.figure('rogowski-mutual'), S: rig.figure('peak-di-dt') }),
    },
    {
      id: 'rogowski-droop',
      title: 'Rogowski coil, lost by droop at the peak',
      slot: 'monitor',
      compute: (rig) => {
        const own = rig.own('monitor');
        return work(probeFormulas.integratorDroop, {
          t: rig.figure('time-to-peak'),
          R: own.quantity('Ri'),
          C: own.quantity('Ci'),
        });
      },
    },
  ],
  limits: [
    {
      id: 'rogowski-output',
      title: 'Rogowski coil, voltage of the winding',
      slot: 'monitor',
      stress: (rig) => rig.figure('rogowski-output'),
      rating: (rig) => rig.own('monitor').optional('Ui'),
      levers: ['load.L', 'store.V0'],
      onlyIfKnown: true,
    },
    {
      id: 'rogowski-insulation',
      title: 'Rogowski coil, insulation',
      slot: 'monitor',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.own('monitor').optional('V'),
      levers: ['store.V0'],
      note: 'Around the earthed lead it sees almost nothing; around the live one it sees the bank.',
    },
  ],
  problems: (own, rig) => {
    const lost = ifKnown(() => rig.figure('rogowski-droop').value);
    if (lost === null || lost <= droopLimit) return slowProblem(own, rig);
    const text = `By the peak the integrator has lost ${printPercent(lost, 2)}: its R·C is too short for this pulse. Make it longer; the signal falls in proportion.`;
    return [...slowProblem(own, rig), { severity: 'warning', slot: 'monitor', field: 'Ci', text }];
  },
  instruments: (own) => [
    { name: 'Rogowski coil with its oscilloscope', at: 'earthed lead', most: own.optional('V')?.value ?? null },
  ],
  steps: (_own, rig) =>
    monitorSteps(
      rig,
      'Rogowski coil closed around the earthed lead, its ends touching, arrow along the current; the integrator at the oscilloscope end of the cable.',
    ),
});
