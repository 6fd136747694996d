import { choiceOf } from '../../field/index.ts';
import { ruled } from '../../formula/index.ts';
import { absorptions } from '../../material/index.ts';
import { choiceOf as partChoice, type Part } from '../../part/index.ts';
import type { Offers, Own } from '../../block/context.ts';
import type { ChoiceField } from '../../field/index.ts';

/** What lies between the electrodes: how much of the voltage comes back after a discharge, and how long that is waited for. */
export const dielectricField = choiceOf(
  'Dielectric',
  [{ id: 'unknown', title: 'not known: assume the one with the highest recovery' }, ...absorptions],
  'unknown',
  'After a discharge some of its voltage comes back (dielectric absorption). The run sheet waits for that before the second reading.',
);

/** The dielectric of a part of the shelf; of film the kind that gives back more. */
const ofPart: Readonly<Record<string, string>> = {
  film: 'pet',
  electrolytic: 'electrolytic',
  ceramic: 'ceramic-2',
  mica: 'mica',
  'paper-oil': 'paper-oil',
};

export const dielectricOf = (part: Part): string => ofPart[partChoice(part, 'dielectric')] ?? 'unknown';

const most = absorptions.reduce((a, b) => (b.high > a.high ? b : a));

/** The share of its voltage that a store may give back, and how long it is left to itself before it is read again. */
export const absorptionOf = (own: Own<{ readonly dielectric: ChoiceField }>): NonNullable<Offers['absorption']> =>
  absorptionBy(own.choice('dielectric'));

/** The same of a dielectric by its id; of one that is not known the one that gives back the most. */
export function absorptionBy(chosen: string): NonNullable<Offers['absorption']> {
  const { title, high, wait } = absorptions.find(({ id }) => id === chosen) ?? most;
  return {
    id: chosen,
    share: ruled(`recovery of ${title}`, high, '1', 'typical range as makers state it; from memory'),
    wait: ruled(`wait for the recovery of ${title}`, wait, 's', 'common practice, no source'),
  };
}
