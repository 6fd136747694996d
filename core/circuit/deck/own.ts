import type { Arc, Element, Nodes } from '../element.ts';
import { BadWord } from './number.ts';
import type { Words } from './line.ts';

/**
 * Devices that the old line syntax has no letter for, as sub-circuits of behavioural sources: so written, any simulator of the
 * family runs them. Each keeps what it has become (fired, latched, cut off) as the voltage of an inner node, which follows
 * within `tau`. A gap's arc falls as its integral grows; of a thyristor the holding current and the gate are kept, of a recorded coil
 * the flux is integrated and its current is flux over inductance; 100 kΩ take over what is left of it when its switch opens.
 */
export const ownCircuits: Readonly<Record<string, string>> = {
  vs_diode: `.subckt vs_diode a k vf=0 ron=1m
B1 a k I = max(0,(V(a,k)-{vf})/{ron})
R1 a k 1e12
C1 a k 1e-14
.ends vs_diode`,
  vs_switch: `.subckt vs_switch a b close=0 open=1e30 ron=1m
B1 a b I = (time >= {close} && time < {open}) ? V(a,b)/{ron} : 0
R1 a b 1e12
.ends vs_switch`,
  vs_scr: `.subckt vs_scr a k vf=0 ron=1m from=0 until=1e9 il=0 ih=0 tq=0 both=0 tau=1n
B1 a k I = V(q)*(max(0,(V(a,k)-{vf})/{ron}) + {both}*min(0,(V(a,k)+{vf})/{ron}))
R1 a k 1e12
B2 0 q I = ((time >= {from} && time <= {until}) || (V(q) > 0.5 && abs(max(0,(V(a,k)-{vf})/{ron}) + {both}*min(0,(V(a,k)+{vf})/{ron})) > {ih}) ? 1 : 0) - V(q)
C1 q 0 {tau} IC=0
.ends vs_scr`,
  vs_gap: `.subckt vs_gap a b vb=1k l=10n rarc=0.1 fire=-1 tau=1n
B1 a m I = V(q)*V(a,m)/{rarc}
L1 m b {l} IC=0
R1 a m 1e12
B2 0 q I = ((abs(V(a,b)) >= {vb} || ({fire} >= 0 && time >= {fire}) || V(q) > 0.5) ? 1 : 0) - V(q)
C1 q 0 {tau} IC=0
.ends vs_gap`,
  vs_gap_toepler: `.subckt vs_gap_toepler a b vb=1k l=10n kt=8m len=5m rmin=0.1 rser=0 rbeg=1e5 fire=-1 tau=1n
B1 a m I = V(a,m)/({rser} + 1/max(1e-12,V(q)*min(V(u),1/{rmin})))
V1 m n 0
L1 n b {l} IC=0
R1 a m 1e12
B2 0 q I = ((abs(V(a,b)) >= {vb} || ({fire} >= 0 && time >= {fire}) || V(q) > 0.5) ? 1 : 0) - V(q)
C1 q 0 {tau} IC=0
B3 0 u I = abs(I(V1))
C2 u 0 {kt*len} IC={1/rbeg}
.ends vs_gap_toepler`,
  vs_gap_rompe: `.subckt vs_gap_rompe a b vb=1k l=10n ar=1e-4 len=5m rmin=0.1 rser=0 rbeg=1e5 fire=-1 tau=1n
B1 a m I = V(a,m)/({rser} + 1/max(1e-12,V(q)*min(sqrt(abs(V(u))),1/{rmin})))
V1 m n 0
L1 n b {l} IC=0
R1 a m 1e12
B2 0 q I = ((abs(V(a,b)) >= {vb} || ({fire} >= 0 && time >= {fire}) || V(q) > 0.5) ? 1 : 0) - V(q)
C1 q 0 {tau} IC=0
B3 0 u I = I(V1)*I(V1)
C2 u 0 {len*len/(2*ar)} IC={1/(rbeg*rbeg)}
.ends vs_gap_rompe`,
  vs_power: `.subckt vs_power a b p=1 imax=1 voff=1e30 von=0 tau=1n
B1 b a I = V(q)*min({imax}, {p}/max(V(a,b),{p/imax}))
R1 a b 1e12
B2 0 q I = (V(a,b) >= {voff} ? 0 : (V(a,b) < {von} ? 1 : (V(q) > 0.5 ? 1 : 0))) - V(q)
C1 q 0 {tau} IC=1
.ends vs_power`,
  vs_coil: `.subckt vs_coil a b l
B1 a b I = V(p)/V(l)
R1 l 0 1e12
R2 a b 1e5
B2 0 p I = V(a,b)*1e6
C1 p 0 1 IC=0
.ends vs_coil`,
};

/** Every device that is run is followed within this share of the time that is run, but no slower than 10 ns. */
export const followTime = (until: number): number => Math.min(1e-8, until * 2e-6);

const maybe = (key: string, value: number | undefined): string => (value === undefined ? '' : ` ${key}=${value}`);

function arcWords(arc: Arc): { of: string; words: string } {
  switch (arc.law) {
    case 'fixed':
      return { of: 'vs_gap', words: `rarc=${arc.R}` };
    case 'toepler':
      return {
        of: 'vs_gap_toepler',
        words: `kt=${arc.k} len=${arc.d} rmin=${arc.Rmin}${maybe('rser', arc.series)}${maybe('rbeg', arc.start)}`,
      };
    case 'rompe-weizel':
      return { of: 'vs_gap_rompe', words: `ar=${arc.a} len=${arc.d} rmin=${arc.Rmin}${maybe('rser', arc.series)}` };
    default:
      return arc satisfies never;
  }
}

/** Lines of a device of ours, and the sub-circuit it wants; null where the old syntax has a letter for it. */
export function ownWords(e: Element, tau: number, holds: number): { of: string; line: string } | null {
  const line = (of: string, words: string) => ({
    of,
    line: `X${e.name} ${'nodes' in e ? e.nodes.join(' ') : ''} ${of} ${words}`,
  });
  switch (e.kind) {
    case 'diode':
      return line('vs_diode', `vf=${e.Vf} ron=${e.Ron}`);
    case 'switch':
      if (e.control.by !== 'time') return null;
      return line('vs_switch', `close=${e.control.closeAt}${maybe('open', e.control.openAt)} ron=${e.Ron}`);
    case 'thyristor':
      return line(
        'vs_scr',
        `vf=${e.Vf} ron=${e.Ron} from=${e.gate.from} until=${e.gate.until} il=${e.latching} ih=${e.holding} tq=${e.turnOff} both=${e.bothWays ? 1 : 0} tau=${tau}`,
      );
    case 'gap': {
      const { of, words } = arcWords(e.arc);
      return line(of, `vb=${holds} l=${e.L} ${words}${maybe('fire', e.fireAt)} tau=${tau}`);
    }
    case 'power-source':
      return line(
        'vs_power',
        `p=${e.P} imax=${e.Imax}${maybe('voff', e.Voff)}${maybe('von', e.Voff === undefined ? undefined : (e.Von ?? e.Voff * (1 - 1e-3)))} tau=${tau}`,
      );
    default:
      return null;
  }
}

/** A key that may be left out, under the field that it gives. */
export const maybeKeyOf = (words: Words, id: string, field: string, what: string): Readonly<Record<string, number>> =>
  words.has(id) ? { [field]: words.key(id, what) } : {};

export function thyristorOf(name: string, nodes: Nodes, words: Words): Element {
  return {
    kind: 'thyristor',
    name,
    nodes,
    Vf: words.key('vf', 'threshold voltage', 0),
    Ron: words.key('ron', 'resistance', 1e-3),
    gate: {
      from: words.key('from', 'time at which the gate is driven', 0),
      until: words.key('until', 'time at which it is not', 1e9),
    },
    latching: words.key('il', 'latching current', 0),
    holding: words.key('ih', 'holding current', 0),
    turnOff: words.key('tq', 'turn-off time', 0),
    bothWays: words.key('both', '1 where it conducts both ways', 0) === 1,
  };
}

export function powerSourceOf(name: string, nodes: Nodes, words: Words): Element {
  return {
    kind: 'power-source',
    name,
    nodes,
    P: words.key('p', 'power'),
    Imax: words.key('imax', 'current limit'),
    ...maybeKeyOf(words, 'voff', 'Voff', 'cut-off voltage'),
    ...maybeKeyOf(words, 'von', 'Von', 'voltage at which it starts again'),
  };
}

/** A device of ours out of the words behind its sub-circuit's name; `tau` is how closely others follow it, and nothing here. */
export function ownDevice(of: string, name: string, nodes: Nodes, words: Words): Element {
  const key = (id: string, what: string, initial?: number) => words.key(id, what, initial);
  key('tau', 'time within which it is followed', 1e-9);
  switch (of) {
    case 'vs_diode':
      return { kind: 'diode', name, nodes, Vf: key('vf', 'forward drop', 0), Ron: key('ron', 'resistance', 1e-3) };
    case 'vs_switch': {
      const open = maybeKeyOf(words, 'open', 'openAt', 'time at which it opens');
      return {
        kind: 'switch',
        name,
        nodes,
        Ron: key('ron', 'resistance', 1e-3),
        control: { by: 'time', closeAt: key('close', 'time at which it closes', 0), ...open },
      };
    }
    case 'vs_scr':
      return thyristorOf(name, nodes, words);
    case 'vs_gap':
    case 'vs_gap_toepler':
    case 'vs_gap_rompe': {
      const fire = words.has('fire') ? key('fire', 'time at which it is fired') : -1;
      return {
        kind: 'gap',
        name,
        nodes,
        breakdown: key('vb', 'breakdown voltage'),
        L: key('l', 'inductance of the arc', 1e-8),
        arc:
          of === 'vs_gap'
            ? { law: 'fixed', R: key('rarc', 'resistance of the arc', 0.1) }
            : of === 'vs_gap_toepler'
              ? { law: 'toepler', k: key('kt', 'constant of Toepler'), ...falling(words) }
              : { law: 'rompe-weizel', a: key('ar', 'constant of Rompe and Weizel'), ...falling(words) },
        ...(fire >= 0 ? { fireAt: fire } : {}),
      };
    }
    case 'vs_power':
      return powerSourceOf(name, nodes, words);
    default:
      throw new BadWord(`"${of}" is no sub-circuit that is known here`);
  }
}

const falling = (words: Words) => ({
  d: words.key('len', 'length of the arc'),
  Rmin: words.key('rmin', 'least resistance of the arc', 0.1),
  ...(words.has('rser') ? { series: words.key('rser', 'resistance in series') } : {}),
  ...(words.has('rbeg') ? { start: words.key('rbeg', 'resistance it begins at') } : {}),
});

/** A coil whose inductance follows a record: straight lines between points in order of time, H. */
export function recordedCoil(name: string, nodes: Nodes, record: readonly (readonly [number, number])[]): Element {
  const [first, last] = [record[0], record.at(-1)];
  if (!first || !last) throw new BadWord('the record of an inductance is empty');
  return {
    kind: 'coil',
    name,
    nodes,
    R: 0,
    states: [],
    record,
    read: (t, _i, _states, out) => {
      let [low, high] = [0, record.length - 1];
      if (t <= first[0] || t >= last[0]) {
        out.L = t <= first[0] ? first[1] : last[1];
        out.dLdt = 0;
        return;
      }
      while (high - low > 1) {
        const middle = (low + high) >> 1;
        if ((record[middle]?.[0] ?? 0) <= t) low = middle;
        else high = middle;
      }
      const [[t0, L0], [t1, L1]] = [record[low] ?? first, record[high] ?? last];
      out.dLdt = t1 > t0 ? (L1 - L0) / (t1 - t0) : 0;
      out.L = L0 + out.dLdt * (t - t0);
    },
    slopes: () => undefined,
  };
}
