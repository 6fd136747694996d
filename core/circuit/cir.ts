import type { Arc, Control, Element, Netlist, Nodes, Wave } from './element.ts';

/**
 * Circuits as plain text, one element to a line: a letter and a name, two nodes, a value. Comments begin with `*`, a line that
 * begins with `+` goes on from the one before, `.end` ends it.
 */
export const netlistLimit = 1024 * 1024;

export interface LineIssue {
  /** From 1. */
  readonly line: number;
  readonly reason: string;
}
export type ReadNetlist =
  { readonly ok: true; readonly netlist: Netlist } | { readonly ok: false; readonly issues: readonly LineIssue[] };

/** Scale suffixes of the old line syntax: M is milli, MEG is mega. What follows them, such as a unit, says nothing. */
const suffixes: readonly (readonly [string, number])[] = [
  ['MEG', 1e6],
  ['T', 1e12],
  ['G', 1e9],
  ['K', 1e3],
  ['M', 1e-3],
  ['U', 1e-6],
  ['N', 1e-9],
  ['P', 1e-12],
  ['F', 1e-15],
];

/** A number with its suffix; NaN where it is none. */
export function cirNumber(text: string): number {
  const match = /^([-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)([a-zA-Z]*)$/.exec(text);
  if (!match) return NaN;
  const letters = (match[2] ?? '').toUpperCase();
  const [, scale = 1] = suffixes.find(([suffix]) => letters.startsWith(suffix)) ?? [];
  return Number(match[1]) * scale;
}

class Bad extends Error {}

const number = (text: string | undefined, what: string): number => {
  if (text === undefined) throw new Bad(`${what} is missing`);
  const value = cirNumber(text);
  if (Number.isNaN(value)) throw new Bad(`${what} is "${text.slice(0, 24)}", which is no number`);
  return value;
};

/** `KEY=value` behind the positional words. */
function keyed(words: readonly string[]): { plain: string[]; keys: Map<string, string> } {
  const plain: string[] = [];
  const keys = new Map<string, string>();
  for (const word of words) {
    const match = /^([A-Za-z]+)=(.+)$/.exec(word);
    if (match?.[1] && match[2]) keys.set(match[1].toUpperCase(), match[2]);
    else plain.push(word);
  }
  return { plain, keys };
}

function waveOf(words: readonly string[]): Wave {
  const [first = '0', ...rest] = words;
  const shape = first.toUpperCase();
  const at = (i: number, what: string, initial?: number) =>
    rest[i] === undefined && initial !== undefined ? initial : number(rest[i], what);
  if (shape === 'SIN') {
    if (at(3, 'delay', 0) !== 0 || at(4, 'damping', 0) !== 0) throw new Bad('SIN takes no delay and no damping; both must be 0');
    const phase = at(5, 'phase in degrees', 0);
    const sine = { kind: 'sine' as const, offset: at(0, 'offset'), amplitude: at(1, 'amplitude'), frequency: at(2, 'frequency') };
    return phase === 0 ? sine : { ...sine, phase: (phase * Math.PI) / 180 };
  }
  if (shape === 'PULSE') {
    const period = rest[6] === undefined ? undefined : number(rest[6], 'period');
    return {
      kind: 'pulse',
      low: at(0, 'first level'),
      high: at(1, 'second level'),
      delay: at(2, 'delay', 0),
      rise: at(3, 'rise', 0),
      fall: at(4, 'fall', 0),
      width: at(5, 'width', 0),
      ...(period === undefined ? {} : { period }),
    };
  }
  if (shape === 'PWL') {
    if (rest.length === 0 || rest.length % 2 !== 0) throw new Bad('PWL takes pairs of time and value');
    const points = Array.from({ length: rest.length / 2 }, (_, i) => [at(2 * i, 'time'), at(2 * i + 1, 'value')] as const);
    if (points.some(([t], i) => i > 0 && t < (points[i - 1]?.[0] ?? 0))) throw new Bad('the times of PWL must not fall');
    return { kind: 'piecewise', points };
  }
  return { kind: 'dc', value: number(shape === 'DC' ? rest[0] : first, 'value') };
}

const words = 'R, C, L, K, V, I, D, S and X, a comment with *, or .end';

type Key = (id: string, what: string, initial?: number) => number;
type Keys = ReadonlyMap<string, string>;

/** A switch by the clock; by the voltage between two more nodes; or by the current of another element. */
function controlOf(rest: readonly string[], keys: Keys, key: Key): Control {
  const thresholds = { above: key('ABOVE', 'level at which it closes', 0), below: key('BELOW', 'level at which it opens', 0) };
  const of = keys.get('OF');
  if (of !== undefined) return { by: 'current', of, ...thresholds };
  const [p, q] = rest;
  if (p !== undefined && q !== undefined) return { by: 'voltage', nodes: [earth(p), earth(q)], ...thresholds };
  return {
    by: 'time',
    closeAt: key('CLOSE', 'time at which it closes'),
    ...(keys.has('OPEN') ? { openAt: key('OPEN', 'time at which it opens') } : {}),
  };
}

function arcOf(keys: Keys, key: Key): Arc {
  const law = keys.get('LAW')?.toUpperCase() ?? 'FIXED';
  const falling = () => ({ d: key('LEN', 'length of the arc'), Rmin: key('R', 'least resistance of the arc', 0.1) });
  if (law === 'TOEPLER') return { law: 'toepler', k: key('KT', 'constant of Toepler'), ...falling() };
  if (law === 'ROMPE') return { law: 'rompe-weizel', a: key('AR', 'constant of Rompe and Weizel'), ...falling() };
  if (law !== 'FIXED') throw new Bad(`LAW is one of FIXED, TOEPLER, ROMPE; "${law.slice(0, 24)}" is not known`);
  return { law: 'fixed', R: key('R', 'resistance of the arc', 0.1) };
}

/** What has no letter of its own in the old syntax. */
function deviceOf(name: string, nodes: Nodes, word: string | undefined, keys: Keys, key: Key): Element {
  const maybe = (id: string, field: string, what: string) => (keys.has(id) ? { [field]: key(id, what) } : {});
  switch (word?.toUpperCase()) {
    case 'GAP':
      return {
        kind: 'gap',
        name,
        nodes,
        breakdown: key('VB', 'breakdown voltage'),
        L: key('L', 'inductance of the arc', 1e-8),
        arc: arcOf(keys, key),
        ...maybe('SCATTER', 'scatter', 'scatter of the breakdown voltage'),
        ...maybe('RECOVERY', 'recovery', 'time constant of recovery'),
        ...maybe('FIRE', 'fireAt', 'time at which it is fired'),
      };
    case 'SCR':
      return {
        kind: 'thyristor',
        name,
        nodes,
        Vf: key('VF', 'threshold voltage', 0),
        Ron: key('RON', 'resistance', 1e-3),
        gate: { from: key('FROM', 'time at which the gate is driven', 0), until: key('UNTIL', 'time at which it is not', 1e9) },
        latching: key('IL', 'latching current', 0),
        holding: key('IH', 'holding current', 0),
        turnOff: key('TQ', 'turn-off time', 0),
        bothWays: key('BOTH', '1 where it conducts both ways', 0) === 1,
      };
    case 'POWER':
      return {
        kind: 'power-source',
        name,
        nodes,
        P: key('P', 'power'),
        Imax: key('IMAX', 'current limit'),
        ...maybe('VOFF', 'Voff', 'cut-off voltage'),
        ...maybe('VON', 'Von', 'voltage at which it starts again'),
      };
    default:
      throw new Bad(`X is a GAP, an SCR or a POWER; "${(word ?? '').slice(0, 24)}" is not known`);
  }
}

const earth = (node: string): string => (node.toLowerCase() === 'gnd' ? '0' : node);

function elementOf(line: string): Element {
  // Brackets of SIN(…) are blanks to the reader.
  const [head = '', ...all] = line.replace(/[(),]/g, ' ').trim().split(/\s+/);
  const { plain, keys } = keyed(all);
  const [a, b, ...rest] = plain;
  const name = head;
  if (a === undefined || b === undefined) throw new Bad('two nodes are wanted behind the name');
  const nodes = [earth(a), earth(b)] as const;
  const key = (id: string, what: string, initial?: number): number => {
    const text = keys.get(id);
    if (text === undefined && initial !== undefined) return initial;
    return number(text, `${id} (${what})`);
  };
  switch (head[0]?.toUpperCase()) {
    case 'R':
      return { kind: 'resistor', name, nodes, R: number(rest[0], 'resistance') };
    case 'C':
      return { kind: 'capacitor', name, nodes, C: number(rest[0], 'capacitance'), V0: key('IC', 'voltage at first', 0) };
    case 'L':
      return {
        kind: 'inductor',
        name,
        nodes,
        L: number(rest[0], 'inductance'),
        I0: key('IC', 'current at first', 0),
        R: key('R', 'resistance', 0),
      };
    case 'K':
      return { kind: 'coupling', name, inductors: [a, b], k: number(rest[0], 'coupling') };
    case 'V':
      return { kind: 'voltage-source', name, nodes, wave: waveOf(rest), R: key('R', 'resistance', 0) };
    case 'I':
      return { kind: 'current-source', name, nodes, wave: waveOf(rest) };
    case 'D':
      return { kind: 'diode', name, nodes, Vf: key('VF', 'forward drop', 0), Ron: key('RON', 'resistance', 1e-3) };
    case 'S':
      return { kind: 'switch', name, nodes, Ron: key('RON', 'resistance', 1e-3), control: controlOf(rest, keys, key) };
    case 'X':
      return deviceOf(name, nodes, rest[0], keys, key);
    default:
      throw new Bad(`begins with "${head.slice(0, 16)}"; a line is one of ${words}`);
  }
}

/** Reads a circuit. Whatever stands in the text is only read, never run or fetched; it never throws. */
export function readNetlist(text: string): ReadNetlist {
  if (text.length > netlistLimit)
    return {
      ok: false,
      issues: [{ line: 1, reason: `the file has ${text.length} characters; at most ${netlistLimit} are read` }],
    };
  const issues: LineIssue[] = [];
  const elements: Element[] = [];
  const lines: { text: string; line: number }[] = [];
  let title = 'circuit';
  for (const [i, raw] of text
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .entries()) {
    const line = raw.replace(/;.*$/, '').trim();
    if (i === 0 && line.startsWith('*')) title = line.slice(1).trim().slice(0, 80) || title;
    if (line === '' || line.startsWith('*')) continue;
    if (/^\.end$/i.test(line)) break;
    const last = lines.at(-1);
    if (line.startsWith('+') && last) last.text += ` ${line.slice(1)}`;
    else lines.push({ text: line, line: i + 1 });
  }
  for (const { text: line, line: at } of lines) {
    try {
      elements.push(elementOf(line));
    } catch (error) {
      if (!(error instanceof Bad)) throw error;
      issues.push({ line: at, reason: error.message });
    }
  }
  return issues.length > 0 ? { ok: false, issues } : { ok: true, netlist: { title, elements } };
}

const waveWords = (wave: Wave): string => {
  switch (wave.kind) {
    case 'dc':
      return `DC ${wave.value}`;
    case 'sine':
      return `SIN(${wave.offset} ${wave.amplitude} ${wave.frequency}${wave.phase ? ` 0 0 ${(wave.phase * 180) / Math.PI}` : ''})`;
    case 'pulse':
      return `PULSE(${[wave.low, wave.high, wave.delay, wave.rise, wave.fall, wave.width, ...(wave.period === undefined ? [] : [wave.period])].join(' ')})`;
    case 'piecewise':
      return `PWL(${wave.points.flat().join(' ')})`;
    default:
      return wave satisfies never;
  }
};

const maybe = (key: string, value: number | undefined): string => (value === undefined ? '' : ` ${key}=${value}`);

function controlWords(control: Control): string {
  switch (control.by) {
    case 'time':
      return `CLOSE=${control.closeAt}${maybe('OPEN', control.openAt)}`;
    case 'voltage':
      return `${control.nodes.join(' ')} ABOVE=${control.above} BELOW=${control.below}`;
    case 'current':
      return `OF=${control.of} ABOVE=${control.above} BELOW=${control.below}`;
    default:
      return control satisfies never;
  }
}

function arcWords(arc: Arc): string {
  switch (arc.law) {
    case 'fixed':
      return `R=${arc.R}`;
    case 'toepler':
      return `LAW=TOEPLER KT=${arc.k} LEN=${arc.d} R=${arc.Rmin}`;
    case 'rompe-weizel':
      return `LAW=ROMPE AR=${arc.a} LEN=${arc.d} R=${arc.Rmin}`;
    default:
      return arc satisfies never;
  }
}

function lineOf(e: Element): string {
  switch (e.kind) {
    case 'resistor':
      return `${e.name} ${e.nodes.join(' ')} ${e.R}`;
    case 'capacitor':
      return `${e.name} ${e.nodes.join(' ')} ${e.C}${e.V0 ? ` IC=${e.V0}` : ''}`;
    case 'inductor':
      return `${e.name} ${e.nodes.join(' ')} ${e.L}${e.R ? ` R=${e.R}` : ''}${e.I0 ? ` IC=${e.I0}` : ''}`;
    case 'coupling':
      return `${e.name} ${e.inductors.join(' ')} ${e.k}`;
    case 'voltage-source':
      return `${e.name} ${e.nodes.join(' ')} ${waveWords(e.wave)}${e.R ? ` R=${e.R}` : ''}`;
    case 'current-source':
      return `${e.name} ${e.nodes.join(' ')} ${waveWords(e.wave)}`;
    case 'diode':
      return `${e.name} ${e.nodes.join(' ')} VF=${e.Vf} RON=${e.Ron}`;
    case 'switch':
      return `${e.name} ${e.nodes.join(' ')} ${controlWords(e.control)} RON=${e.Ron}`;
    case 'gap':
      return `${e.name} ${e.nodes.join(' ')} GAP VB=${e.breakdown} L=${e.L} ${arcWords(e.arc)}${maybe('SCATTER', e.scatter)}${maybe('RECOVERY', e.recovery)}${maybe('FIRE', e.fireAt)}`;
    case 'thyristor':
      return `${e.name} ${e.nodes.join(' ')} SCR VF=${e.Vf} RON=${e.Ron} FROM=${e.gate.from} UNTIL=${e.gate.until} IL=${e.latching} IH=${e.holding} TQ=${e.turnOff} BOTH=${e.bothWays ? 1 : 0}`;
    case 'power-source':
      return `${e.name} ${e.nodes.join(' ')} POWER P=${e.P} IMAX=${e.Imax}${maybe('VOFF', e.Voff)}${maybe('VON', e.Von)}`;
    default:
      throw new Error(`${e.name}: a ${e.kind} has no line of its own`);
  }
}

/**
 * A circuit as text, with a comment above each element where `comment` has one.
 *
 * @throws Error where an element has no line in this syntax: a coil with something moving in it
 */
export function netlistText({ title, elements }: Netlist, comment: (element: Element) => string | null = () => null): string {
  const plain = (text: string) => text.replace(/[\r\n]+/g, ' ');
  const lines = elements.map((element) => {
    const says = comment(element);
    return `${says === null ? '' : `* ${plain(says)}\n`}${lineOf(element)}`;
  });
  return `* ${plain(title)}\n${lines.join('\n')}\n.end\n`;
}
