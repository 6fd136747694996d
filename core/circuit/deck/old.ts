import type { Arc, Element, Nodes } from '../element.ts';
import { BadWord, shown } from './number.ts';
import type { Words } from './line.ts';
import { maybeKeyOf, powerSourceOf, thyristorOf } from './own.ts';

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
  const made =
    of === 'gap' ? gapOf(name, nodes, words) : of === 'scr' ? thyristorOf(name, nodes, words) : powerSourceOf(name, nodes, words);
  words.end('two nodes, GAP, SCR or POWER and its values');
  return made;
}

const gapOf = (name: string, nodes: Nodes, words: Words): Element => ({
  kind: 'gap',
  name,
  nodes,
  breakdown: words.key('vb', 'breakdown voltage'),
  L: words.key('l', 'inductance of the arc', 1e-8),
  arc: arcOf(words),
  ...maybeKeyOf(words, 'scatter', 'scatter', 'scatter of the breakdown voltage'),
  ...maybeKeyOf(words, 'recovery', 'recovery', 'time constant of recovery'),
  ...maybeKeyOf(words, 'fire', 'fireAt', 'time at which it is fired'),
});
