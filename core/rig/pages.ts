import type { Desk, PageGroup } from '../block/index.ts';
import { allDesks } from '../kind/index.ts';
import { desksOf } from './channel.ts';
import type { Rig } from './schema.ts';

/** A page of a rig: a tab, an entry of the finder, a route. */
export interface RigPage extends Pick<Desk, 'group' | 'place' | 'title' | 'words' | 'about'> {
  /** Below the address of the rig; the rig itself has none. */
  readonly route: string;
}

/** Groups of pages in the order of the work. */
export const pageGroups: readonly { readonly id: PageGroup; readonly title: string }[] = [
  { id: 'design', title: 'Design' },
  { id: 'physics', title: 'Physics' },
  { id: 'procedure', title: 'Procedure' },
  { id: 'record', title: 'Record' },
];

const common: readonly RigPage[] = [
  {
    route: '',
    group: 'design',
    place: 0,
    title: 'Rig',
    words: ['blocks', 'fields', 'limits', 'line', 'schematic'],
    about: 'The rig as one line, its blocks and fields, what comes out of it, and its limits.',
  },
  {
    route: 'studies',
    group: 'design',
    place: 90,
    title: 'Studies',
    words: [
      'vary',
      'sweep',
      'parameter',
      'sensitivity',
      'tolerance',
      'what matters',
      'tornado',
      'Sobol',
      'Monte Carlo',
      'scatter',
      'yield',
      'histogram',
      'percentile',
      'what if',
    ],
    about:
      'The rig asked many times: fields varied as curves and maps with its limits, what a figure depends on, and how it scatters over the tolerances.',
  },
  {
    route: 'faults',
    group: 'physics',
    place: 95,
    title: 'Faults',
    words: ['failure', 'short', 'fuse', 'weld', 'pre-fire', 'open bleeder', 'containment', 'protection', 'rupture', 'interlock'],
    about:
      'Every part failing, one at a time, through the solver: what goes into it, what the others carry, what is left where, and what would contain it.',
  },
  {
    route: 'run-sheet',
    group: 'procedure',
    place: 50,
    title: 'Run sheet',
    words: ['procedure', 'steps', 'checklist', 'print', 'emergency'],
    about: 'The procedure from the strap off to the strap on, with what to expect at each step.',
  },
  {
    route: 'rehearse',
    group: 'procedure',
    place: 60,
    title: 'Rehearse',
    words: ['rehearsal', 'practice', 'simulate', 'fault', 'score'],
    about: 'The run sheet on a simulated rig with faults put in, and what earlier rehearsals came to.',
  },
  {
    route: 'campaigns',
    group: 'procedure',
    place: 70,
    title: 'Campaigns',
    words: [
      'series',
      'plan',
      'question',
      'next shot',
      'answer',
      'notebook',
      'near-miss',
      'response',
      'schedule',
      'levels',
      'sessions',
      'calendar',
      'replicates',
      'experiment',
    ],
    about: 'A series of shots for one question: planned into the hours that people have, fired shot by shot, and answered.',
  },
  {
    route: 'runs',
    group: 'record',
    place: 10,
    title: 'Runs',
    words: ['live', 'log', 'history'],
    about: 'Live runs of this rig: who acted, what was read, how each ended.',
  },
  {
    route: 'shots',
    group: 'record',
    place: 20,
    title: 'Shots',
    words: ['measured', 'predicted', 'log', 'trace', 'oscilloscope', 'series'],
    about: 'Shots of this rig: what was set, predicted and measured.',
  },
  {
    route: 'revisions',
    group: 'record',
    place: 30,
    title: 'Revisions',
    words: ['compare', 'restore', 'branch', 'history', 'undo'],
    about: 'What the rig has been, what changed, and the way back.',
  },
];

const groupOf = new Map(pageGroups.map(({ id }, i) => [id, i]));

const inOrder = (desks: readonly Desk[]): RigPage[] =>
  [...common, ...desks].sort((a, b) => (groupOf.get(a.group) ?? 0) - (groupOf.get(b.group) ?? 0) || a.place - b.place);

/** The pages of a rig in the order of the work: those that every rig has, and those its kinds bring with them. */
export const pagesOf = (rig: Rig): readonly RigPage[] => inOrder(desksOf(rig));

/** Every page that some rig has. */
export const allPages: readonly RigPage[] = inOrder(allDesks);
