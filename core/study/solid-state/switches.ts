import { figureIn, type Evaluation } from '../../evaluation/index.ts';
import { stackFormulas } from '../../formula/index.ts';
import { blockDefinition } from '../../kind/index.ts';
import { limitState, type Limit } from '../../limit/index.ts';
import { printPercent, type UnitId } from '../../quantity/index.ts';
import { blockIn } from '../../rig/index.ts';

/** What a switch has to do, SI. */
export interface Duty {
  /** V it holds off */
  readonly V: number;
  /** A at the peak */
  readonly I: number;
  /** A²s of one shot */
  readonly action: number;
  /** H of the loop */
  readonly L: number;
  /** shots a second */
  readonly rate: number;
  /** C that pass in one shot */
  readonly Q: number;
  /** The current turns round in the shot. */
  readonly rings: boolean;
  /** s by which the moment may be off; null where it does not matter */
  readonly jitter: number | null;
}

/** One thyristor of a stack, and what a person pays. */
export interface SwitchStock {
  /** V, repetitive */
  readonly Vr: number;
  /** A, surge of one half cycle */
  readonly Isurge: number;
  /** A²s */
  readonly action: number;
  /** A/s, critical rate of rise of the current */
  readonly didt: number;
  /** A, leakage at the rated voltage */
  readonly leakage: number;
  /** s by which those of a stack turn on apart */
  readonly spread: number;
  /** A share of the rating that each is used to. */
  readonly derating: number;
  /** One IGBT: V that it blocks, A that it carries in a pulse. */
  readonly igbt: { readonly V: number; readonly I: number };
  /** An ignitron or thyratron: V, A, and C in one shot. */
  readonly tube: { readonly V: number; readonly I: number; readonly Q: number };
  readonly cost: {
    readonly own: number;
    readonly thyristor: number;
    readonly gap: number;
    readonly triggeredGap: number;
    readonly igbt: number;
    readonly tube: number;
    readonly contact: number;
  };
}

export const usualStock: SwitchStock = {
  Vr: 1600,
  Isurge: 1500,
  action: 11e3,
  didt: 150e6,
  leakage: 5e-3,
  // Common practice, no source: gates that are driven hard, all by one edge.
  spread: 200e-9,
  derating: 0.7,
  igbt: { V: 1200, I: 600 },
  // Common practice, no source: a small ignitron.
  tube: { V: 20e3, I: 30e3, Q: 10 },
  cost: { own: 0, thyristor: 0, gap: 0, triggeredGap: 0, igbt: 0, tube: 0, contact: 0 },
};

export interface SwitchChoice {
  readonly id: 'own' | 'free-gap' | 'triggered-gap' | 'thyristors' | 'igbts' | 'tube' | 'contact';
  readonly title: string;
  /** Why it cannot do the job; empty where it can. */
  readonly against: readonly string[];
  /** What limits it, and what it needs beside. */
  readonly needs: readonly string[];
  /** In whatever the costs were given in. */
  readonly cost: number;
}

type Print = (value: number, unit: UnitId) => string;

/** Where common practice, no source, has the ends of each kind. */
const practice = {
  /** s: how much the moment of a self-break is off, and of a triggered gap, a thyristor, a transistor, an ignitron, a hand. */
  jitter: { 'free-gap': Infinity, 'triggered-gap': 1e-6, thyristors: 1e-6, igbts: 50e-9, tube: 0.5e-6, contact: 10e-3 },
  /** More transistors than this are a project of their own. */
  mostIgbts: 24,
  /** shots a second that an ignitron stands */
  tubeRate: 1,
  /** V below which a gap in air fires badly. */
  leastGap: 2e3,
  /** shots a second without blowing it */
  gapRate: 10,
  contactRate: 0.5,
  /** V above which an open contact strikes early */
  contactVoltage: 5e3,
  /** A at which a contact welds */
  contactCurrent: 2e3,
} as const;

/** Thyristors in series that a voltage takes, each used to a share of its rating. */
export const inSeries = (V: number, { Vr, derating }: Pick<SwitchStock, 'Vr' | 'derating'>): number =>
  Math.max(1, Math.ceil((V / (Vr * derating)) * (1 - 1e-12)));

/** What shares the voltage of a stack: resistors while it waits, capacitors while one is late. */
function sharing(n: number, { V, L }: Duty, { Vr, leakage, spread }: SwitchStock, print: Print): string[] {
  const insulated = `gate drives insulated for ${print(V, 'V')}`;
  if (n * Vr <= V) return ['more of them, or none may differ from the others at all', insulated];
  const shared = { n, V1: Vr, V };
  const R = stackFormulas.sharingResistor.compute({ ...shared, dI: leakage });
  const C = stackFormulas.lateSwitchCapacitance.compute({ ...shared, L, dt: spread });
  return [
    `a sharing resistor of at most ${print(R, 'Ω')} across each, dissipating ${print((V / n) ** 2 / R, 'W')} while charged`,
    `a snubber of at least ${print(C, 'F')} across each, with a resistor, for the one that turns on ${print(spread, 's')} late`,
    insulated,
  ];
}

/** What stands against a rating, in words; empty where it is kept. */
const over = (title: string, stress: number, rated: number, unit: UnitId, print: Print): string[] =>
  stress > rated ? [`${title} rating ${print(rated, unit)}, the shot has ${print(stress, unit)}`] : [];

/** Transistors in series for the voltage and side by side for the current, each used to a share of its rating. */
function igbtChoice(
  { V, I, rings }: Duty,
  { igbt, derating, cost }: SwitchStock,
  late: readonly string[],
  print: Print,
): SwitchChoice {
  const series = inSeries(V, { Vr: igbt.V, derating });
  const beside = Math.max(1, Math.ceil((I / (igbt.I * derating)) * (1 - 1e-12)));
  const all = series * beside;
  return {
    id: 'igbts',
    title: all === 1 ? 'One IGBT' : `${all} IGBTs, ${series} in series, ${beside} side by side`,
    against: [
      ...(all > practice.mostIgbts ? [`${all} of them: more than ${practice.mostIgbts} are a project of their own`] : []),
      ...late,
    ],
    needs: [
      `each at ${print(V / series, 'V')} of ${print(igbt.V, 'V')} and ${print(I / beside, 'A')} of ${print(igbt.I, 'A')} in a pulse, derated to ${(derating * 100).toFixed(0)} %`,
      ...(series > 1 ? ['sharing resistors and snubbers across each, gate drives insulated for the whole voltage'] : []),
      ...(beside > 1 ? ['equal leads to each, a gate resistor of its own'] : []),
      rings ? 'a diode across each for the current that turns round' : 'a clamp for the voltage as it turns off',
    ],
    cost: all * cost.igbt,
  };
}

/** The switch that a rig has, as its own limits and problems judge it. */
export function ownSwitch(evaluation: Evaluation, cost: number, jitter: number | null, print: Print): SwitchChoice {
  const { kind } = blockIn(evaluation.rig, 'switch');
  const of = evaluation.ladder.limits.filter(({ slot }) => slot === 'switch');
  const at = ({ title, worst }: Limit) =>
    `${title}: ${worst === null ? 'no rating entered' : `${printPercent(worst, 3)} of its rating`}`;
  const problems = evaluation.problems.filter(({ slot, channel }) => slot === 'switch' && channel === undefined);
  const blind = evaluation.ladder.blind.filter(({ slot }) => slot === 'switch');
  const spread = figureIn(evaluation, 'trigger-jitter')?.worked.value ?? null;
  return {
    id: 'own',
    title: `The switch it has: ${blockDefinition('switch', kind).title.toLowerCase()}`,
    against: [
      ...of.filter((limit) => limitState(limit) === 'over').map(at),
      ...problems.filter(({ severity }) => severity === 'error').map(({ text }) => text.replace(/\.$/, '')),
      ...(jitter !== null && spread !== null && spread > jitter ? [`its jitter is about ${print(spread, 's')}, calculated`] : []),
    ],
    needs: [
      ...(spread === null ? [] : [`jitter about ${print(spread, 's')}, calculated from its field and its trigger`]),
      ...of.filter((limit) => limitState(limit) !== 'over').map(at),
      ...blind.map(({ title }) => `${title}: not judged`),
      ...problems.filter(({ severity }) => severity === 'warning').map(({ text }) => text.replace(/\.$/, '')),
    ],
    cost,
  };
}

/** Kinds of switch beside each other for one duty: which can do it at all, what limits each, what it costs. */
export function compareSwitches(duty: Duty, stock: SwitchStock, print: Print): SwitchChoice[] {
  const { V, I, action, L, rate, Q, rings, jitter } = duty;
  const late = (id: keyof typeof practice.jitter) =>
    jitter !== null && practice.jitter[id] > jitter
      ? [
          Number.isFinite(practice.jitter[id])
            ? `its jitter is up to ${print(practice.jitter[id], 's')} (common practice, no source)`
            : 'it chooses its own moment',
        ]
      : [];
  const gapLimits = (id: 'free-gap' | 'triggered-gap') => [
    ...(V < practice.leastGap ? [`below about ${print(practice.leastGap, 'V')} a gap in air is unreliable`] : []),
    ...(rate > practice.gapRate ? [`above about ${print(practice.gapRate, 'Hz')} it does not recover without forced air`] : []),
    ...late(id),
  ];
  const n = inSeries(V, stock);
  return [
    {
      id: 'free-gap',
      title: 'Self-breaking gap',
      against: gapLimits('free-gap'),
      needs: ['electrodes for the current; they wear with the charge that passes', 'it fires when the charge reaches self-break'],
      cost: stock.cost.gap,
    },
    {
      id: 'triggered-gap',
      title: 'Triggered gap',
      against: gapLimits('triggered-gap'),
      needs: ['self-break at 1.2 to 1.4 times the charge voltage', 'a trigger generator, its control line isolated'],
      cost: stock.cost.triggeredGap,
    },
    {
      id: 'thyristors',
      title: n === 1 ? 'One thyristor' : `${n} thyristors in series`,
      against: [
        ...(I > stock.Isurge ? [`surge rating ${print(stock.Isurge, 'A')}, the shot has ${print(I, 'A')}`] : []),
        ...(action > stock.action ? [`action rating ${print(stock.action, 'A²s')}, the shot has ${print(action, 'A²s')}`] : []),
        ...(V / L > stock.didt
          ? [
              `di/dt ${print(V / L, 'A/s')}, rated ${print(stock.didt, 'A/s')}: needs at least ${print(V / stock.didt, 'H')} in the loop`,
            ]
          : []),
        ...late('thyristors'),
      ],
      needs:
        n === 1
          ? [`used to ${print(V, 'V')} of ${print(stock.Vr, 'V')}`]
          : [
              `each at ${print(V / n, 'V')} of ${print(stock.Vr, 'V')}, derated to ${(stock.derating * 100).toFixed(0)} %`,
              ...sharing(n, duty, stock, print),
            ],
      cost: n * stock.cost.thyristor,
    },
    igbtChoice(duty, stock, late('igbts'), print),
    {
      id: 'tube',
      title: 'Ignitron or thyratron',
      against: [
        ...over('hold-off', V, stock.tube.V, 'V', print),
        ...over('peak current', I, stock.tube.I, 'A', print),
        ...over('charge per shot', Q, stock.tube.Q, 'C', print),
        ...(rate > practice.tubeRate
          ? [`above about ${print(practice.tubeRate, 'Hz')} an ignitron does not recover; a thyratron does`]
          : []),
        ...late('tube'),
      ],
      needs: [
        'an ignitron stands upright, its cathode cooled and its anode warmer; a thyratron is heated up first',
        'an igniter or grid pulse, isolated from the control line',
        ...(rings ? ['the loop rings: the tube lets go at the first current zero, or arcs back'] : []),
      ],
      cost: stock.cost.tube,
    },
    {
      id: 'contact',
      title: 'Contact, dropped arm or vacuum contact',
      against: [
        ...(V > practice.contactVoltage
          ? [`above about ${print(practice.contactVoltage, 'V')} it strikes before it touches`]
          : []),
        ...(I > practice.contactCurrent
          ? [`above about ${print(practice.contactCurrent, 'A')} it welds unless it was made for it`]
          : []),
        ...(rate > practice.contactRate ? [`it is not a switch for ${print(rate, 'Hz')}`] : []),
        ...late('contact'),
      ],
      needs: [
        'it bounces: several breaks in one shot',
        'it needs a making-current rating; the continuous current on its label does not count',
      ],
      cost: stock.cost.contact,
    },
  ];
}
