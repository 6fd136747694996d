import { z } from 'zod';
import { setFor, type Answers, type Campaign, type Place } from '@vast-surge/core/campaign';
import { outcomes, type Outcome } from '@vast-surge/core/run';
import { axisOf, shotSchema, type Shot, type Values } from '@vast-surge/core/shot';
import { parseTyped, readTyped } from '../../ui/typed.ts';
import { fieldOf } from '../shots/shot-fields.tsx';

/** What is typed of the shot of a place and not saved yet. */
const draftSchema = z.object({
  id: z.uuid(),
  outcome: z.enum(outcomes),
  reading: z.string(),
  remarks: z.string(),
  /** The air of the day as it was read for this shot; null: that of the shot before. */
  air: shotSchema.shape.set.nullable(),
});
export interface DraftShot {
  readonly id: string;
  readonly outcome: Outcome;
  readonly reading: string;
  readonly remarks: string;
  readonly air: Values | null;
}
export const newDraft = (): DraftShot => ({ id: crypto.randomUUID(), outcome: 'fired', reading: '', remarks: '', air: null });
export const isDraft = (value: unknown): value is DraftShot => draftSchema.safeParse(value).success;

/** Which setting, where it is another than the one that was planned for the place. */
function otherSetting({ settings, row }: Campaign, { place, setting }: Place): { setting?: number } {
  const k = settings.indexOf(setting);
  return k === row[place] || k < 0 ? {} : { setting: k };
}

/** The reading of what answers the question, as a shot keeps it; or what is wrong with it, in a sentence without its end. */
export function readReading(
  answers: Answers,
  { outcome, reading }: Pick<DraftShot, 'outcome' | 'reading'>,
): Pick<Shot, 'measured' | 'own'> | string {
  const { title } = axisOf(answers);
  if (reading.trim() === '')
    return outcome === 'fired'
      ? `${title} is empty: enter what was read, or say that it did not fire`
      : { measured: {}, own: [] };
  if ('measure' in answers) {
    const got = readTyped(fieldOf(answers.measure), reading);
    return got.ok ? { measured: { [answers.measure]: got.value?.value }, own: [] } : `${title} ${got.reason}`;
  }
  const { name, unit } = answers;
  const got = parseTyped(reading, '1');
  if (!got.ok || Math.abs(got.quantity.value) > 1e15)
    return `${name} is "${reading.slice(0, 20)}"; it must be a number in ${unit}, without its unit, from −1e15 to 1e15`;
  return { measured: {}, own: [{ name, unit, value: got.quantity.value }] };
}

/** The shot of a place as it is kept, or what is wrong with what was typed. @param air that it was fired in, as far as it was read */
export function shotFrom(
  campaign: Campaign,
  id: string,
  place: Place,
  draft: DraftShot,
  { people, air, at }: { readonly people: readonly string[]; readonly air: Values; readonly at: string },
): Shot | string {
  const got = readReading(campaign.answers, draft);
  if (typeof got === 'string') return got;
  const [acts, reads] = people.map((one) => one.trim());
  const said = [acts ? `${acts} acted` : '', reads ? `${reads} read` : ''].filter(Boolean).join(', ');
  return {
    at,
    outcome: draft.outcome,
    set: { ...setFor(place.setting), ...air },
    ...got,
    sound: '',
    remarks: [draft.remarks.trim(), said].filter(Boolean).join(' · '),
    campaign: { id, place: place.place, ...otherSetting(campaign, place) },
  };
}
