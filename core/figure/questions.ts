import { questions, type FigureId, type Question, type Slot } from '../block/index.ts';
import type { Rig } from '../rig/index.ts';
import { figureSpecs } from './context.ts';
import type { Figure } from './figures.ts';

/** What the figures of a block answer, unless one says otherwise. */
const askedOf: { readonly [S in Slot]: Question } = {
  supply: 'charge',
  charging: 'charge',
  store: 'out',
  switch: 'out',
  trigger: 'out',
  crowbar: 'out',
  leads: 'out',
  load: 'out',
  monitor: 'out',
  bleeder: 'left',
  dump: 'left',
  tool: 'left',
  meter: 'left',
  guard: 'reaches',
  air: 'out',
};

/** Figures of the whole that come first, in this order, behind those that a kind of block puts first. */
const first: { readonly [Q in Question]: readonly FigureId[] } = {
  out: ['peak-current', 'time-to-peak', 'stored-energy', 'voltage-reversal', 'load-energy', 'peak-di-dt', 'damping-ratio'],
  charge: ['charge-time', 'repetition-rate', 'charging-current', 'mean-charging-current', 'source-energy', 'charging-efficiency'],
  wears: [],
  left: ['bleed-time', 'bleed-time-open', 'reversed-voltage'],
  reaches: [],
};

/** Numbers in the working of others that no one asks for by themselves. */
const inner: ReadonlySet<FigureId> = new Set<FigureId>([
  'charging-resistance',
  'charging-voltage',
  'bank-capacitance',
  'discharge-voltage',
  'discharge-capacitance',
  'loop-capacitance',
  'loop-reversal',
]);

/** A time of zero says nothing. */
const isIdle = (figure: Figure): boolean => figure.ok && figure.worked.unit === 's' && figure.worked.value === 0;

export interface FigureGroup {
  readonly question: Question;
  readonly title: string;
  /** First what is asked first. */
  readonly figures: readonly Figure[];
}

/** The figures of a rig by the question they answer. One that cannot be had is listed where every rig has it. */
export function figureGroups(rig: Rig, figures: readonly Figure[]): FigureGroup[] {
  const specs = figureSpecs(rig);
  const rank = ({ id }: Figure, question: Question): number => {
    if (specs.get(id)?.leads) return -1;
    const place = first[question].indexOf(id);
    return place < 0 ? first[question].length : place;
  };
  return (Object.keys(questions) as Question[]).flatMap((question) => {
    const own = figures
      .filter(({ id, slot }) => (specs.get(id)?.asks ?? askedOf[slot]) === question)
      .filter((figure) => !inner.has(figure.id) && !isIdle(figure))
      .filter((figure) => figure.ok || first[question].includes(figure.id))
      .sort((a, b) => rank(a, question) - rank(b, question));
    return own.length === 0 ? [] : [{ question, title: questions[question], figures: own }];
  });
}
