import type { Arc, Element, Nodes } from '../element.ts';
import { BadWord, shown } from './number.ts';
import type { Words } from './line.ts';

/** Devices in the words that decks of this program had before they became sub-circuits: read as ever, written no more. */
const devices = new Set(['gap', 'scr', 'power']);
export const isOldDevice = (word: string | undefined): boolean => devices.has(word?.toLowerCase() ?? '');

function arcOf(words: Words): Arc {
  const law = words.text('law')?.toUpperCase() ?? 'FIXED';
  const falling = () => ({ d: words.key('len', 'length of the arc'), Rmin: words.key('r', 'least resistance of the arc', 0.1) });
  if (law === 'TOEPLER') return { law: 'toepler', k: words.key('kt', 'constant of Toepler'), ...falling() };
  if (law === 'ROMPE') return { law: 'rompe-weizel', a: words.key('ar', 'constant of Rompe and Weizel'), ...falling() };
  if (law !== 'FIXED') throw new BadWord(`LAW is one of FIXED, TOEPLER, ROMPE; "${shown(law)}" is not known`);
  return { law: 'fixed', R: words.key('r', 'resistance of the arc', 0.1) };
}

export function oldDevice(name: string, nodes: Nodes, words: Words): Element {
  const of = words.next('device').toLowerCase();
  const key = (id: string, what: string, initial?: number) => words.key(id, what, initial);
  const maybe = (id: string, field: string, what: string) => (words.has(id) ? { [field]: key(id, what) } : {});
  const made = ((): Element => {
    if (of === 'gap')
      return {
        kind: 'gap',
        name,
        nodes,
        breakdown: key('vb', 'breakdown voltage'),
        L: key('l', 'inductance of the arc', 1e-8),
        arc: arcOf(words),
        ...maybe('scatter', 'scatter', 'scatter of the breakdown voltage'),
        ...maybe('recovery', 'recovery', 'time constant of recovery'),
        ...maybe('fire', 'fireAt', 'time at which it is fired'),
      };
    if (of === 'scr')
      return {
        kind: 'thyristor',
        name,
        nodes,
        Vf: key('vf', 'threshold voltage', 0),
        Ron: key('ron', 'resistance', 1e-3),
        gate: { from: key('from', 'time at which the gate is driven', 0), until: key('until', 'time at which it is not', 1e9) },
        latching: key('il', 'latching current', 0),
        holding: key('ih', 'holding current', 0),
        turnOff: key('tq', 'turn-off time', 0),
        bothWays: key('both', '1 where it conducts both ways', 0) === 1,
      };
    return {
      kind: 'power-source',
      name,
      nodes,
      P: key('p', 'power'),
      Imax: key('imax', 'current limit'),
      ...maybe('voff', 'Voff', 'cut-off voltage'),
      ...maybe('von', 'Von', 'voltage at which it starts again'),
    };
  })();
  words.end('two nodes, GAP, SCR or POWER and its values');
  return made;
}
