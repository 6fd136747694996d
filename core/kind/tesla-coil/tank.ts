import {
  bleedFormulas,
  breakFormulas,
  chargeFormulas,
  dischargeFormulas,
  inductanceFormulas,
  ruled,
  sourceFormulas,
  storeFormulas,
  tankFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { once, Unavailable, type FigureSpec, type Question, type RigContext } from '../../block/context.ts';
import type { FigureId } from '../../block/names.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'break-rate': true;
    'left-current': true;
    'break-energy': true;
    'tank-power': true;
    'supply-break-energy': true;
    'supply-power': true;
    'path-rms': true;
    'path-peak': true;
    'unlimited-current': true;
    'path-power': true;
    'doubler-sag': true;
    'doubler-ripple': true;
    'path-mean': true;
    'gap-heat': true;
    'gap-power': true;
    'quench-rate': true;
    'gap-run-time': true;
  }
}

/** A tank that is charged and broken again and again: what its switch tells, whatever sort of gap it is. */

const noInductance = ruled('inductance of the charging path', 0, 'H', 'nothing in it has any');

/** What lies between the supply and the tank, as the formulas of its breaks take it. */
export const breakPath = once((rig: RigContext) => {
  const alternating = rig.offers('supply').alternating;
  const mean = rig.offers('supply').meanResistance;
  const R = rig.figure('charging-resistance');
  const coils = [rig.offers('supply').chargingInductance, rig.offers('charging').chargingInductance].flatMap((L) => L ?? []);
  const [first, second] = coils;
  return {
    Vs: alternating ? rig.offer('sourceVoltage') : rig.figure('charging-voltage'),
    R: mean ? work(chargeFormulas.seriesSum, { R1: R, R2: mean }, 'resistance of the path, with that of the doubler’s mean') : R,
    L:
      first && second
        ? work(inductanceFormulas.inductanceSum, { L1: first, L2: second }, 'inductance of the path')
        : (first ?? noInductance),
    Ct: rig.figure('bank-capacitance'),
    td: rig.own('switch').quantity('td'),
  };
});

/** What is asked of any row of breaks; how high the tank swings between the passes is asked by itself. */
type Output = Exclude<breakFormulas.BreakOutput, 'highest'>;

/** How the breaks come: at a voltage of the gap, or so many times a second; on ac where the gap then holds less than the tank has. */
export interface Breaking {
  readonly Vb: () => Worked;
  readonly n?: Worked;
}

/** A number of the steady row of breaks. @throws Unavailable, FormulaError where the gap never fires or the path is not known */
export function ofBreaks(rig: RigContext, { Vb, n }: Breaking, what: Output, title: string): Worked {
  const path = breakPath(rig);
  const f = rig.offers('supply').alternating;
  if (n && !f) return what === 'rate' ? n : work(breakFormulas.rotaryGapBreaks[what], { ...path, n }, title);
  if (what === 'Vb' && !n) return Vb();
  if (!f) return work(breakFormulas.staticBreaks[what], { ...path, Vb: Vb() }, title);
  const ac = (output: 'rate' | 'rms' | 'peak') =>
    n
      ? work(breakFormulas.acRotaryBreaks[output], { ...path, Vb: Vb(), n, f }, title)
      : work(breakFormulas.acSupplyBreaks[output], { ...path, Vb: Vb(), f }, title);
  const broken = () => (n ? work(breakFormulas.acRotaryBreaks.Vb, { ...path, Vb: Vb(), n, f }, 'voltage at a break') : Vb());
  switch (what) {
    case 'Vb':
      return broken();
    case 'rate':
    case 'rms':
    case 'peak':
      return ac(what);
    case 'left':
    case 'atBreak':
      // The transformer limits by itself: at most the peak of its current feeds an arc.
      return ac('peak');
    case 'heat':
    case 'given': {
      const P = work(bleedFormulas.resistorPowerFromCurrent, { I: ac('rms'), R: path.R });
      const heat = work(tankFormulas.energyOfEach, { P, n: ac('rate') }, 'heat in the path for a break');
      if (what === 'heat') return heat;
      const E = work(storeFormulas.storedEnergy, { C: path.Ct, V: broken() });
      return work(sourceFormulas.energySum, { E1: E, E2: heat }, title);
    }
    default:
      return what satisfies never;
  }
}

/** V that the tank swings up to between the passes of a rotary gap on ac. @throws Unavailable, FormulaError where it has none */
export function highestBetweenPasses(rig: RigContext, { Vb, n }: Breaking): Worked {
  const f = rig.offers('supply').alternating;
  if (!f || !n) throw new Unavailable('supply', 'the tank is charged from a DC supply');
  return work(breakFormulas.acRotaryBreaks.highest, { ...breakPath(rig), Vb: Vb(), n, f }, 'highest between the passes');
}

/** What the numbers of the breaks answer, where that is not what comes out. */
const asked: { readonly [I in FigureId]?: Question } = {
  'supply-break-energy': 'charge',
  'supply-power': 'charge',
  'path-rms': 'charge',
  'path-peak': 'charge',
  'path-mean': 'charge',
  'unlimited-current': 'charge',
  'doubler-sag': 'charge',
  'doubler-ripple': 'charge',
  'path-power': 'wears',
  'gap-heat': 'wears',
  'gap-power': 'wears',
  'gap-run-time': 'wears',
  'quench-rate': 'wears',
};

const figure = (id: FigureId, title: string, compute: FigureSpec['compute'], more: Partial<FigureSpec> = {}): FigureSpec => ({
  id,
  title,
  slot: 'switch',
  ...(asked[id] ? { asks: asked[id] } : {}),
  // A gap that never fires is one problem of the gap, not one of each number that rests on its breaks.
  mayBeMissing: true,
  compute,
  ...more,
});

/** Ω behind the mean of a doubler. @throws Unavailable where the supply is none */
function meanOf(rig: RigContext): Worked {
  const Rd = rig.offers('supply').meanResistance;
  if (!Rd) throw new Unavailable('supply', 'the supply is no doubler');
  return Rd;
}

/** The figures of a tank whose switch breaks in this way. */
export const breakFigures = (breaking: (rig: RigContext) => Breaking): readonly FigureSpec[] => {
  const of = (what: Output, title: string) => (rig: RigContext) => ofBreaks(rig, breaking(rig), what, title);
  return [
    figure('break-rate', 'Break rate', of('rate', 'break rate'), { leads: true }),
    figure('left-current', 'Follow current', of('left', 'follow current'), {
      leads: true,
    }),
    figure('break-energy', 'Energy per break', (rig) =>
      work(
        storeFormulas.storedEnergy,
        { C: rig.figure('bank-capacitance'), V: rig.figure('break-voltage') },
        'energy of a break',
      ),
    ),
    figure(
      'tank-power',
      'Mean power into the tank',
      (rig) =>
        work(tankFormulas.breakPower, { E: rig.figure('break-energy'), n: rig.figure('break-rate') }, 'mean power of the tank'),
      { leads: true },
    ),
    figure('supply-break-energy', 'Supply energy per break', of('given', 'energy from the supply for a break')),
    figure('supply-power', 'Mean power out of the supply', (rig) =>
      work(
        tankFormulas.breakPower,
        { E: rig.figure('supply-break-energy'), n: rig.figure('break-rate') },
        'mean power of the supply',
      ),
    ),
    figure('path-rms', 'Charging current, rms', of('rms', 'charging current, rms')),
    figure('path-peak', 'Charging current, peak', of('peak', 'greatest charging current')),
    figure('unlimited-current', 'Short-circuit current of the supply', (rig) => {
      if (rig.offers('supply').alternating) throw new Unavailable('supply', 'the supply limits its own current');
      const { Vs, R } = breakPath(rig);
      return work(chargeFormulas.initialCurrent, { Vs, R }, 'current into a short');
    }),
    figure('path-power', 'Heat in the charging path', (rig) =>
      work(
        tankFormulas.breakPower,
        { E: of('heat', 'heat in the path for a break')(rig), n: rig.figure('break-rate') },
        'heat in the charging path',
      ),
    ),
    figure('doubler-sag', 'Doubler, mean sag', (rig) =>
      work(tankFormulas.doublerSag, { I: rig.figure('path-mean'), Rd: meanOf(rig) }),
    ),
    figure('doubler-ripple', 'Doubler, ripple, peak to peak', (rig) =>
      work(tankFormulas.doublerRipple, { I: rig.figure('path-mean'), Rd: meanOf(rig) }),
    ),
    figure('path-mean', 'Charging current, mean', (rig) =>
      work(
        tankFormulas.meanOfBreaks,
        { E: rig.figure('supply-break-energy'), V: breakPath(rig).Vs, n: rig.figure('break-rate') },
        'mean charging current',
      ),
    ),
    figure('gap-heat', 'Gap heat per break', (rig) =>
      work(
        dischargeFormulas.heatFromAction,
        { A: rig.figure('ring-action'), R: rig.own('switch').quantity('R') },
        'heat of the gap for a break',
      ),
    ),
    figure('gap-power', 'Heat per gap', (rig) =>
      work(
        tankFormulas.powerOfOne,
        {
          x: work(tankFormulas.breakPower, { E: rig.figure('gap-heat'), n: rig.figure('break-rate') }, 'heat of all gaps'),
          n: rig.own('switch').quantity('k'),
        },
        'heat per gap',
      ),
    ),
    figure('quench-rate', 'Break rate, gap-cooling-limited', (rig) =>
      work(
        sourceFormulas.powerLimitedRate,
        {
          P: coolingOf(rig),
          E: work(
            bleedFormulas.energyShare,
            { E: rig.figure('gap-heat'), n: rig.own('switch').quantity('k') },
            'heat per gap and break',
          ),
        },
        'break rate within the cooling',
      ),
    ),
    figure('gap-run-time', 'Gap, permitted run time', (rig) => {
      const own = rig.own('switch');
      const m = own.optional('me');
      if (!m) throw new Unavailable('switch', 'the mass of the electrodes of each gap is not given', 'me');
      return work(
        tankFormulas.timeToHeat,
        { m, c: electrodeHeat, dT: own.quantity('dTe'), P: rig.figure('gap-power') },
        'time until one gap is as hot as it may be, without cooling',
      );
    }),
  ];
};

const electrodeHeat = ruled('specific heat', 390, 'J/(kg·K)', 'copper and brass, from memory; tungsten has 134');

/** W that one gap gives off and still opens again, by its cooling. */
const coolings = { still: 30, fan: 100, blast: 300 } as const;

export const coolingOf = (rig: RigContext): Worked => {
  const own = rig.own('switch');
  const given = own.optional('Pg');
  const cooling = own.choice('cooling') as keyof typeof coolings;
  return (
    given ??
    ruled(
      'heat one gap can lose',
      coolings[cooling] ?? coolings.still,
      'W',
      'a rule of thumb by its cooling; common practice, no source',
    )
  );
};

/** What is left of the current is below this share of what holds an arc: it runs; above it that is doubtful. */
const surely = 0.7;

export type Verdict = 'runs' | 'doubtful' | 'holds';

/** Whether a gap opens again after a break: what the supply leaves in it against what holds an arc. */
export const verdictOf = (left: number, holding: number): Verdict =>
  left >= holding ? 'holds' : left >= surely * holding ? 'doubtful' : 'runs';

/** A breakdown of gaps in a row, which share unevenly. */
export const rowBreakdown = (Vb: Worked, k: Worked, u: Worked): Worked => work(tankFormulas.gapsInRow, { Vb, k, u });
