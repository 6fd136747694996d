import { stackFormulas } from '../../formula/index.ts';
import type { UnitId } from '../../quantity/index.ts';

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
  readonly cost: { readonly thyristor: number; readonly gap: number; readonly triggeredGap: number; readonly contact: number };
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
  cost: { thyristor: 0, gap: 0, triggeredGap: 0, contact: 0 },
};

export interface SwitchChoice {
  readonly id: 'free-gap' | 'triggered-gap' | 'thyristors' | 'contact';
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
  /** s: how much the moment of a self-break is off, and of a triggered gap, a thyristor, a hand. */
  jitter: { 'free-gap': Infinity, 'triggered-gap': 1e-6, thyristors: 1e-6, contact: 10e-3 },
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

/** Kinds of switch beside each other for one duty: which can do it at all, what limits each, what it costs. */
export function compareSwitches(duty: Duty, stock: SwitchStock, print: Print): SwitchChoice[] {
  const { V, I, action, L, rate, jitter } = duty;
  const late = (id: SwitchChoice['id']) =>
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
    {
      id: 'contact',
      title: 'Contact or dropped arm',
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
