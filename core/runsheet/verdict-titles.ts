import type { Verdict } from './verdict.ts';

/** As a verdict heads a sheet or a page; by itself, for a list that calculates nothing. */
export const verdictTitles: { readonly [K in Verdict['word']]: string } = {
  'go at most': 'Go at most',
  'not now': 'Not now',
  'do not fire': 'Do not fire',
};
