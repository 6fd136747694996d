import { capacitorFormulas, FormulaError, ruled, work, type Worked } from '../formula/index.ts';
import { choiceOf, labelOf, type Part } from './part.ts';
import { dcRatingBySchool, defaultSchool, ratingSchools, type RatingSchool } from './rating.ts';

/** One way to say what DC voltage a capacitor takes. */
export interface DcLimit {
  readonly id: 'dc' | RatingSchool['id'];
  readonly title: string;
  readonly argument: string;
  /** The voltage of the label or of the school; null with a reason where the label does not give what it rests on. */
  readonly base: Worked | null;
  readonly missing: string | null;
  /** The same after reversal and shots. */
  readonly limit: Worked | null;
  readonly chosen: boolean;
}

export interface DcLimits {
  readonly polarity: 'polar' | 'non-polar';
  /** One element, every school in order. */
  readonly limits: readonly DcLimit[];
  /** The one that is used as the rating; null where the label gives nothing to choose from. */
  readonly chosen: DcLimit | null;
  /** Voltage the other way round, V. */
  readonly reverse: Worked | null;
  /** What was derated, what was not, and why. */
  readonly notes: readonly string[];
}

/** Aluminium electrolytics bear about 1 to 1.5 V backwards; the lower is taken. Common practice, no source. */
const polarReverse = () =>
  ruled('reverse voltage of a polar capacitor', 1, 'V', 'common practice, no source: 1 to 1.5 V, the lower taken');

const label = (title: string, value: number, unit: 'V' | '1') => ruled(title, value, unit, 'the label of the part');

/** An electrolytic with no AC rating is polar; all else may be charged either way round. */
export const polarityOf = (part: Part): DcLimits['polarity'] =>
  choiceOf(part, 'dielectric') === 'electrolytic' && labelOf(part, 'Vac') === null ? 'polar' : 'non-polar';

/** Formula or what stands before it: a number that is out of range leaves the base as it is, and says so. */
function derated(base: Worked, by: (base: Worked) => Worked, notes: string[]): Worked {
  try {
    return by(base);
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error;
    notes.push(error.message);
    return base;
  }
}

function underReversal(part: Part, school: DcLimit['id'], base: Worked, notes: string[]): Worked {
  const seen = labelOf(part, 'seen');
  if (seen === null || seen === 0) return base;
  const known = labelOf(part, 'reversal');
  const assumed = school === 'dc' ? 0 : 1;
  const rated = known ?? assumed;
  if (seen <= rated) return base;
  return derated(
    base,
    (Vr) =>
      work(
        capacitorFormulas.reversalDerating,
        {
          Vr,
          kr:
            known === null
              ? ruled('rated reversal', assumed, '1', 'the label does not say: none is assumed for a DC rating')
              : label('rated reversal', rated, '1'),
          k: ruled('reversal in use', seen, '1', 'typed with the part'),
        },
        'DC limit under reversal',
      ),
    notes,
  );
}

function overShots(part: Part, base: Worked, notes: string[]): Worked {
  const [wanted, rated] = [labelOf(part, 'N'), labelOf(part, 'Nr')];
  if (wanted === null || rated === null || wanted <= rated) return base;
  return derated(
    base,
    (Vr) =>
      work(
        capacitorFormulas.voltageLife,
        {
          Vr,
          Nr: label('rated shot life', rated, '1'),
          N: ruled('shots wanted', wanted, '1', 'typed with the part'),
          n: ruled('exponent of the voltage-life law', labelOf(part, 'exponent') ?? 7, '1', 'typed with the part, or 7'),
        },
        'DC limit over its shots',
      ),
    notes,
  );
}

function notesOf(part: Part, polarity: DcLimits['polarity']): string[] {
  const notes: string[] = [];
  const [seen, wanted, rated] = [labelOf(part, 'seen'), labelOf(part, 'N'), labelOf(part, 'Nr')];
  if (polarity === 'polar') notes.push('Polar: it withstands voltage one way round only; keep any ringing from it.');
  if (polarity === 'polar' && seen !== null && seen > 0)
    notes.push('It will see a reversal, and a polar capacitor withstands none: no derating makes up for that.');
  if (wanted !== null && rated === null) notes.push('Its rated shot life is not known: the number of shots lowers nothing here.');
  if (wanted !== null && rated !== null && wanted < rated)
    notes.push('Fewer shots than its rated life: no limit here goes above the rating for that.');
  return notes;
}

const titleOf = (id: DcLimit['id']): string =>
  id === 'dc' ? 'its DC rating' : (ratingSchools.find((s) => s.id === id)?.title ?? id);

/**
 * What DC voltage a capacitor's element takes, by every school, with reversal and shots counted in; and which of
 * them is used. Without a choice that is the dc rating where the label gives one, else the AC rating times √2.
 */
export function dcLimits(part: Part): DcLimits {
  const polarity = polarityOf(part);
  const [Vdc, Vac, Vtest] = [labelOf(part, 'Vdc'), labelOf(part, 'Vac'), labelOf(part, 'Vtest')];
  const wish = choiceOf(part, 'school');
  const chosenId = wish === 'default' || wish === '' ? (Vdc !== null ? 'dc' : defaultSchool) : wish;
  const notes = notesOf(part, polarity);
  const limitOf = (id: DcLimit['id'], argument: string, base: Worked | null, missing: string): DcLimit => {
    const chosen = id === chosenId;
    const own: string[] = [];
    const limit = base && overShots(part, underReversal(part, id, base, own), own);
    if (chosen) notes.push(...own);
    return { id, title: titleOf(id), argument, base, missing: base ? null : missing, limit, chosen };
  };
  const dc = limitOf(
    'dc',
    'What its maker guarantees on DC. Where the label gives it, it is the default.',
    Vdc === null ? null : label('DC rating', Vdc, 'V'),
    'the label gives no DC rating',
  );
  const schools = ratingSchools.map((school) => {
    const of = school.of === 'rating' ? 'AC rating' : 'AC test voltage';
    const base = polarity === 'polar' ? null : dcRatingBySchool(school, { rating: Vac, test: Vtest });
    return limitOf(
      school.id,
      school.argument,
      base,
      polarity === 'polar' ? 'it is polar and has no AC rating' : `the label gives no ${of}`,
    );
  });
  const limits = [dc, ...schools];
  const chosen = limits.find((l) => l.chosen) ?? null;
  return {
    polarity,
    limits,
    chosen: chosen?.limit ? chosen : null,
    reverse: polarity === 'polar' ? polarReverse() : (chosen?.limit ?? null),
    notes,
  };
}
