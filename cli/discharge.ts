import { readQuantityText } from '@vast-surge/core/field';
import { boundsOf, FormulaError } from '@vast-surge/core/formula';
import type { Quantity } from '@vast-surge/core/quantity';
import { oneCapacitorDielectrics, oneCapacitorFields, oneCapacitorSheet, oneCapacitorText } from '@vast-surge/core/runsheet';
import type { Desk } from './desks.ts';
import { UsageError } from './usage.ts';

export interface DischargeOptions {
  readonly C: string;
  readonly V: string;
  readonly R?: string;
  readonly meter: string;
  readonly dielectric: string;
}

/** @throws UsageError naming the option and its range */
function quantityOf(option: string, id: keyof typeof oneCapacitorFields, text: string): Quantity {
  const read = readQuantityText(oneCapacitorFields[id], text);
  if (!read.ok) throw new UsageError(`${option} ${read.reason}`);
  if (!read.value) throw new UsageError(`${option} is empty; it must be a quantity`);
  return read.value;
}

/** One capacitor on the bench. @throws UsageError where an option is wrong */
export function dischargeOne({ C, V, R, meter, dielectric }: DischargeOptions): Desk {
  const names = oneCapacitorDielectrics.map(({ value }) => value);
  if (!names.includes(dielectric))
    throw new UsageError(`--dielectric is "${dielectric.slice(0, 40)}"; it must be one of ${names.join(', ')}`);
  const of = {
    C: quantityOf('--C', 'C', C),
    V0: quantityOf('--V', 'V0', V),
    R: R === undefined ? null : quantityOf('--R', 'R', R),
    meter: quantityOf('--meter', 'meter', meter),
    dielectric,
  };
  try {
    const sheet = oneCapacitorSheet(of);
    const { energy, goal, hold, longest, back, isByHand, lines, resistor, hazard } = sheet;
    return {
      data: {
        energy: { value: energy.value, worst: boundsOf(energy).high },
        hazard: { class: hazard.class, headline: hazard.headline },
        below: goal.value,
        hold: { value: hold.value, worst: longest },
        back,
        isByHand,
        resistor: {
          R: resistor.R.value,
          isAtHand: resistor.isAtHand,
          current: resistor.first.value,
          power: resistor.peak.value,
          pulse: resistor.pulse,
          against: resistor.against,
        },
        lines,
      },
      text: oneCapacitorText(of),
    };
  } catch (error) {
    if (error instanceof FormulaError) throw new UsageError(error.message);
    throw error;
  }
}
