import type { Control, Element, Netlist, Nodes } from '../element.ts';
import { isOldDevice, oldDevice } from './old.ts';
import { ownCircuits, ownDevice, recordedCoil } from './own.ts';
import { BadWord, deckValue, shown, type Parameters } from './number.ts';
import { wordsOf, Words, type DeckLine } from './line.ts';
import { waveOf } from './wave.ts';

/** Far above any deck that is read here, in characters. */
export const netlistLimit = 1024 * 1024;

export interface LineIssue {
  /** From 1. */
  readonly line: number;
  readonly reason: string;
}
export type ReadNetlist =
  | { readonly ok: true; readonly netlist: Netlist; /** s, of its `.tran`. */ readonly until?: number }
  | { readonly ok: false; readonly issues: readonly LineIssue[] };

/** Elements that sub-circuits in sub-circuits may come to. */
const mostElements = 50_000;
const deepest = 12;

interface Model {
  readonly type: string;
  readonly words: readonly string[];
}
interface Circuit {
  readonly ports: readonly string[];
  readonly defaults: readonly string[];
  readonly lines: DeckLine[];
}

/** What holds within a sub-circuit, or the deck itself. */
interface Scope {
  readonly parameters: Parameters;
  /** In front of the names of elements and inner nodes. */
  readonly prefix: string;
  readonly ports: ReadonlyMap<string, string>;
  readonly depth: number;
}

const earth = (node: string): string => (/^(gnd|0)$/i.test(node) ? '0' : node);

/** Commands that change nothing of what is run: what is shown, kept or how closely it is worked out elsewhere. */
const idle = new Set([
  '.options',
  '.option',
  '.save',
  '.print',
  '.plot',
  '.probe',
  '.meas',
  '.measure',
  '.four',
  '.op',
  '.backanno',
  '.width',
  '.temp',
]);

class Reader {
  readonly issues: LineIssue[] = [];
  readonly elements: Element[] = [];
  private readonly models = new Map<string, Model>();
  private readonly circuits = new Map<string, Circuit>();
  private readonly initial: { line: number; node: string; V: number }[] = [];
  /** Recorded coils wait for the source that gives their inductance. */
  private readonly coils: { line: number; name: string; nodes: Nodes; level: string }[] = [];
  private until: number | undefined;
  private top: Parameters = new Map();

  read(lines: readonly DeckLine[], title: string): ReadNetlist {
    const rest = this.declarations(lines);
    const scope: Scope = { parameters: this.top, prefix: '', ports: new Map(), depth: 0 };
    for (const line of rest) this.guarded(line, () => this.element(line, scope));
    this.guarded(lines.at(-1), () => this.settleCoils());
    this.settleInitial();
    if (this.issues.length === 0 && this.elements.length === 0) this.issues.push({ line: 1, reason: 'the deck has no element' });
    if (this.issues.length > 0) return { ok: false, issues: this.issues.sort((a, b) => a.line - b.line) };
    return { ok: true, netlist: { title, elements: this.elements }, ...(this.until === undefined ? {} : { until: this.until }) };
  }

  private guarded(line: DeckLine | undefined, act: () => void): void {
    try {
      act();
    } catch (error) {
      if (!(error instanceof BadWord)) throw error;
      this.issues.push({ line: line?.line ?? 1, reason: error.message });
    }
  }

  /** Takes models, sub-circuits, parameters and commands out of the lines. */
  private declarations(lines: readonly DeckLine[]): DeckLine[] {
    const rest: DeckLine[] = [];
    const parameters = new Map<string, number>();
    this.top = parameters;
    let open: { name: string; circuit: Circuit } | null = null;
    let control = false;
    for (const line of lines) {
      const head = line.words[0]?.toLowerCase() ?? '';
      this.guarded(line, () => {
        if (control || head === '.control') {
          control = head !== '.endc';
          return;
        }
        if (head === '.subckt') {
          if (open) throw new BadWord('".subckt" within another is not read');
          const [name, ...more] = line.words.slice(1);
          if (name === undefined) throw new BadWord('the name of the sub-circuit is missing');
          const words = more.filter((w) => !/^params:?$/i.test(w));
          const circuit: Circuit = {
            ports: words.filter((w) => !w.includes('=')),
            defaults: words.filter((w) => w.includes('=')),
            lines: [],
          };
          open = { name: name.toLowerCase(), circuit };
        } else if (head === '.ends') {
          if (!open) throw new BadWord('".ends" without a .subckt before it');
          this.circuits.set(open.name, open.circuit);
          open = null;
        } else if (open && head !== '.model') open.circuit.lines.push(line);
        else if (head.startsWith('.')) this.command(head, line, parameters);
        else rest.push(line);
      });
    }
    if (open)
      this.guarded(lines.at(-1), () => {
        throw new BadWord(`".subckt ${(open as { name: string } | null)?.name ?? ''}" has no .ends`);
      });
    return rest;
  }

  private command(head: string, line: DeckLine, parameters: Map<string, number>): void {
    if (idle.has(head)) return;
    switch (head) {
      case '.title':
        return;
      case '.param':
      case '.params':
        for (const word of line.words.slice(1)) {
          const at = word.indexOf('=');
          if (at < 1) throw new BadWord(`"${shown(word)}" is no NAME=value`);
          parameters.set(word.slice(0, at).toLowerCase(), deckValue(word.slice(at + 1), parameters));
        }
        return;
      case '.model': {
        const [name, type, ...words] = line.words.slice(1);
        if (name === undefined || type === undefined) throw new BadWord('.model takes a name, a type and its values');
        this.models.set(name.toLowerCase(), { type: type.toLowerCase(), words });
        return;
      }
      case '.ic':
        // V(node)=value has lost its brackets: V node=value.
        for (let words = line.words.slice(1); words.length > 0; words = words.slice(2)) {
          const [v = '', pair = ''] = words;
          const at = pair.indexOf('=');
          if (v.toLowerCase() !== 'v' || at < 1) throw new BadWord(`"${shown(`${v} ${pair}`)}" is no V(node)=value`);
          this.initial.push({ line: line.line, node: earth(pair.slice(0, at)), V: deckValue(pair.slice(at + 1), parameters) });
        }
        return;
      case '.tran': {
        const words = line.words.slice(1).filter((w) => w.toLowerCase() !== 'uic');
        if (words.length < 1 || words.length > 4) throw new BadWord('.tran takes a step, a time to run, and at most two more');
        const numbers = words.map((w) => deckValue(w, parameters));
        this.until = numbers.length === 1 ? numbers[0] : numbers[1];
        return;
      }
      default:
        throw new BadWord(`"${shown(line.words[0] ?? '')}" is not read here: .param, .model, .subckt, .ic, .tran and .end are`);
    }
  }

  private node(node: string, scope: Scope): string {
    const at = earth(node);
    if (at === '0') return '0';
    return scope.ports.get(at) ?? `${scope.prefix}${at}`;
  }

  private put(element: Element): void {
    if (this.elements.length >= mostElements) throw new BadWord(`it has more than ${mostElements} elements`);
    this.elements.push(element);
  }

  private model(name: string, type: RegExp, scope: Scope): Words {
    const model = this.models.get(name.toLowerCase());
    if (!model) throw new BadWord(`"${shown(name)}" is no .model of this deck`);
    if (!type.test(model.type))
      throw new BadWord(`"${shown(name)}" is a model of type ${shown(model.type)}, which does not fit here`);
    return new Words(model.words, scope.parameters);
  }

  private element(line: DeckLine, scope: Scope): void {
    const [head = '', ...all] = line.words;
    const name = `${scope.prefix}${head}`;
    const words = new Words(all, scope.parameters);
    const letter = head[0]?.toUpperCase() ?? '';
    if (letter === 'X') return this.instance(line, name, words, all, scope);
    if (letter === 'T') return this.line(name, words, scope);
    if (!'RCLKVIDSW'.includes(letter) || letter === '')
      throw new BadWord(
        `"${shown(head)}": a line begins with R, C, L, K, V, I, D, S, T, W or X, with * for a comment, or with a command such as .param`,
      );
    if (letter === 'K') return this.coupling(name, words, scope);
    const nodes = [this.node(words.next('the first node'), scope), this.node(words.next('the second node'), scope)] as const;
    this.put(this.twoPole(letter, name, nodes, words, scope));
  }

  /** A line without loss: both of its ends. */
  private line(name: string, words: Words, scope: Scope): void {
    const ends = ['first', 'second', 'third', 'fourth'].map((which) => this.node(words.next(`the ${which} node`), scope));
    const Z0 = words.has('z0') ? words.key('z0', 'wave impedance') : words.key('zo', 'wave impedance');
    const delay = words.key('td', 'delay');
    // Voltage and current at either end: a line at rest has one voltage and no current.
    const V0 = words.key('ic', 'voltage at first', 0);
    const more = words.rest().map((word) => words.number(word, 'voltage or current at first'));
    words.end('four nodes, Z0, TD and IC');
    if (more.length > 0 && !(more.length === 3 && more[0] === 0 && more[1] === V0 && more[2] === 0))
      throw new BadWord('IC of a line takes V,0,V,0: it begins at rest, with one voltage all along it');
    const [a = '0', b = '0', c = '0', d = '0'] = ends;
    const own = { kind: 'line-end', Z0, delay, ...(V0 === 0 ? {} : { V0 }) } as const;
    this.put({ ...own, name, nodes: [a, b], far: `${name}_far` });
    this.put({ ...own, name: `${name}_far`, nodes: [c, d], far: name });
  }

  private coupling(name: string, words: Words, scope: Scope): void {
    const all = words.rest();
    const k = all.pop();
    if (k === undefined || all.length < 2) throw new BadWord('a coupling takes two coils or more and a number');
    const factor = words.number(k, 'coupling');
    words.end('two coils or more and a coupling');
    const coils = all.map((coil) => `${scope.prefix}${coil}`);
    for (let i = 0; i < coils.length; i++)
      for (let j = i + 1; j < coils.length; j++)
        this.put({
          kind: 'coupling',
          name: coils.length === 2 ? name : `${name}_${i + 1}${j + 1}`,
          inductors: [coils[i] ?? '', coils[j] ?? ''],
          k: factor,
        });
  }

  private twoPole(letter: string, name: string, nodes: Nodes, words: Words, scope: Scope): Element {
    switch (letter) {
      case 'R': {
        const R = words.has('r') ? words.key('r', 'resistance') : words.value('resistance');
        words.end('two nodes and a resistance');
        return { kind: 'resistor', name, nodes, R };
      }
      case 'C': {
        const C = words.has('c') ? words.key('c', 'capacitance') : words.value('capacitance');
        const V0 = words.has('ic') ? { V0: words.key('ic', 'voltage at first') } : {};
        words.end('two nodes, a capacitance and IC');
        return { kind: 'capacitor', name, nodes, C, ...V0 };
      }
      case 'L': {
        const L = words.has('l') ? words.key('l', 'inductance') : words.value('inductance');
        const I0 = words.key('ic', 'current at first', 0);
        const R = words.has('rser') ? words.key('rser', 'resistance') : words.key('r', 'resistance', 0);
        words.end('two nodes, an inductance, IC and R');
        return { kind: 'inductor', name, nodes, L, I0, R };
      }
      case 'V':
      case 'I': {
        const wave = waveOf(words);
        const R = letter === 'V' ? words.key('r', 'resistance', 0) : 0;
        words.end('two nodes, a value or one of SIN, PULSE, PWL and EXP, and of a voltage R');
        return letter === 'V' ? { kind: 'voltage-source', name, nodes, wave, R } : { kind: 'current-source', name, nodes, wave };
      }
      case 'D':
        return this.diode(name, nodes, words, scope);
      default:
        return this.switch(letter, name, nodes, words, scope);
    }
  }

  private diode(name: string, nodes: Nodes, words: Words, scope: Scope): Element {
    if (words.has('vf') || words.has('ron') || words.peek() === undefined) {
      const made = {
        kind: 'diode' as const,
        name,
        nodes,
        Vf: words.key('vf', 'forward drop', 0),
        Ron: words.key('ron', 'resistance', 1e-3),
      };
      words.end('two nodes, VF and RON, or a .model');
      return made;
    }
    const model = this.model(words.next('model'), /^d$/, scope);
    words.end('two nodes and a .model');
    // A straight line that carries 1 A where the exponential does: N·Vt·ln(1 A/IS) at 27 °C.
    const Vf = model.key('n', 'emission coefficient', 1) * 0.02585 * Math.log(1 / model.key('is', 'saturation current', 1e-14));
    const Ron = Math.max(1e-6, model.key('rs', 'series resistance', 1e-3));
    model.end('IS, N and RS of a diode model here; what else there is of it is not worked out');
    return { kind: 'diode', name, nodes, Vf: Math.max(0, Vf), Ron };
  }

  private switch(letter: string, name: string, nodes: Nodes, words: Words, scope: Scope): Element {
    const old = ['close', 'above', 'of'].some((key) => words.has(key));
    if (old) return oldSwitch(name, nodes, words, scope.prefix, (node) => this.node(node, scope));
    if (letter === 'W') {
      const of = `${scope.prefix}${words.next('source whose current it goes by')}`;
      const model = this.model(words.next('model'), /^csw$/, scope);
      words.end('two nodes, a voltage source and a .model');
      return this.modelled(name, nodes, model, 'i', (above, below) => ({ by: 'current', of, above, below }));
    }
    const control: Nodes = [
      this.node(words.next('first node of its control'), scope),
      this.node(words.next('second node of its control'), scope),
    ];
    const model = this.model(words.next('model'), /^sw$/, scope);
    words.end('four nodes and a .model');
    return this.modelled(name, nodes, model, 'v', (above, below) => ({ by: 'voltage', nodes: control, above, below }));
  }

  private modelled(
    name: string,
    nodes: Nodes,
    model: Words,
    of: 'v' | 'i',
    control: (above: number, below: number) => Control,
  ): Element {
    const [middle, half] = [model.key(`${of}t`, 'threshold', 0), model.key(`${of}h`, 'hysteresis', 0)];
    const Ron = model.key('ron', 'resistance closed', 1);
    const open = model.key('roff', 'resistance open', 1e12);
    model.end(`${of.toUpperCase()}T, ${of.toUpperCase()}H, RON and ROFF`);
    if (open < 1e9) this.put({ kind: 'resistor', name: `${name}_off`, nodes, R: open });
    return { kind: 'switch', name, nodes, Ron, control: control(middle + Math.abs(half), middle - Math.abs(half)) };
  }

  private instance(line: DeckLine, name: string, words: Words, all: readonly string[], scope: Scope): void {
    const plain = all.filter((w) => !w.includes('=') && !/^params:?$/i.test(w));
    const of = plain.at(-1)?.toLowerCase() ?? '';
    const own = name.slice(scope.prefix.length + 1);
    if (isOldDevice(plain[2])) {
      const nodes = [this.node(words.next('node'), scope), this.node(words.next('node'), scope)] as const;
      this.put(oldDevice(name, nodes, words));
      return;
    }
    if (Object.hasOwn(ownCircuits, of)) {
      const nodes = [this.node(words.next('the first node'), scope), this.node(words.next('the second node'), scope)] as const;
      if (of === 'vs_coil') {
        const level = this.node(words.next('node of its inductance'), scope);
        words.next('vs_coil');
        words.end('three nodes and vs_coil');
        this.coils.push({ line: line.line, name: `${scope.prefix}${own}`, nodes, level });
        return;
      }
      if (words.next('sub-circuit').toLowerCase() !== of) throw new BadWord(`"${shown(of)}" takes two nodes`);
      const made = ownDevice(of, `${scope.prefix}${own}`, nodes, words);
      words.end(`two nodes, ${of} and its values`);
      this.put(made);
      return;
    }
    const circuit = this.circuits.get(of);
    if (!circuit)
      throw new BadWord(`"${shown(plain.at(-1) ?? '')}" is no .subckt of this deck; GAP, SCR and POWER are known without one`);
    const outer = plain.slice(0, -1);
    if (outer.length !== circuit.ports.length)
      throw new BadWord(`"${shown(of)}" has ${circuit.ports.length} nodes; ${outer.length} are given`);
    if (scope.depth >= deepest) throw new BadWord(`"${shown(of)}" stands in itself, or too deep`);
    const parameters = new Map(scope.parameters);
    for (const [pairs, from] of [
      [circuit.defaults, this.top],
      [all.filter((w) => w.includes('=')), scope.parameters],
    ] as const)
      for (const pair of pairs) {
        const at = pair.indexOf('=');
        const key = pair.slice(0, at).toLowerCase();
        if (from === scope.parameters && !circuit.defaults.some((d) => d.toLowerCase().startsWith(`${key}=`)))
          throw new BadWord(`"${shown(pair)}" is no parameter of ${shown(of)}`);
        parameters.set(key, deckValue(pair.slice(at + 1), from === this.top ? parameters : from));
      }
    const ports = new Map(circuit.ports.map((port, i) => [earth(port), this.node(outer[i] ?? '0', scope)]));
    const inside: Scope = { parameters, prefix: `${name}.`, ports, depth: scope.depth + 1 };
    const own2 = new Map(parameters);
    for (const inner of circuit.lines)
      this.guarded(inner, () => {
        const head = inner.words[0]?.toLowerCase() ?? '';
        if (head === '.param' || head === '.params') this.command('.param', inner, own2);
        else if (head.startsWith('.')) throw new BadWord(`"${shown(head)}" within a .subckt is not read`);
        else this.element(inner, { ...inside, parameters: own2 });
      });
  }

  private settleCoils(): void {
    for (const { line, name, nodes, level } of this.coils) {
      const at = this.elements.findIndex((e) => e.kind === 'voltage-source' && e.nodes[0] === level && e.nodes[1] === '0');
      const source = this.elements[at];
      if (source?.kind !== 'voltage-source' || source.wave.kind !== 'piecewise') {
        this.issues.push({ line, reason: `"${shown(level)}": no PWL source gives the inductance of ${shown(name)}` });
        continue;
      }
      this.elements.splice(at, 1);
      this.elements.push(
        recordedCoil(
          name,
          nodes,
          source.wave.points.map(([t, L]) => [t, L * 1e-6] as const),
        ),
      );
    }
  }

  /** `.ic` says it of nodes: every capacitor that has no IC of its own begins with what stands between its nodes. */
  private settleInitial(): void {
    if (this.initial.length === 0) return;
    const given = new Map(this.initial.map(({ node, V }) => [node, V]));
    const touched = new Set<string>();
    this.elements.forEach((e, i) => {
      if (e.kind !== 'capacitor' || e.V0 !== undefined) return;
      e.nodes.forEach((node) => touched.add(node));
      this.elements[i] = { ...e, V0: (given.get(e.nodes[0]) ?? 0) - (given.get(e.nodes[1]) ?? 0) };
    });
    for (const { line, node } of this.initial)
      if (!touched.has(node))
        this.issues.push({ line, reason: `"V(${shown(node)})": no capacitor without IC of its own stands at that node` });
  }
}

function oldSwitch(name: string, nodes: Nodes, words: Words, prefix: string, node: (of: string) => string): Element {
  const Ron = words.key('ron', 'resistance', 1e-3);
  const levels = () => ({
    above: words.key('above', 'level at which it closes', 0),
    below: words.key('below', 'level at which it opens', 0),
  });
  const of = words.text('of');
  let control: Control;
  if (of !== null) control = { by: 'current', of: `${prefix}${of}`, ...levels() };
  else if (words.peek() !== undefined)
    control = { by: 'voltage', nodes: [node(words.next('node')), node(words.next('second node of its control'))], ...levels() };
  else {
    const open = words.has('open') ? { openAt: words.key('open', 'time at which it opens') } : {};
    control = { by: 'time', closeAt: words.key('close', 'time at which it closes'), ...open };
  }
  words.end('two nodes, CLOSE and OPEN or two more nodes or OF with ABOVE and BELOW, and RON');
  return { kind: 'switch', name, nodes, Ron, control };
}

/** Lines of a deck: comments dropped, those that begin with `+` put behind the one before. */
function linesOf(text: string): { lines: DeckLine[]; first: string | null } {
  const raw: { line: number; text: string }[] = [];
  let first: string | null = null;
  for (const [i, all] of text
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .entries()) {
    const line = all
      .replace(/\s*;.*$/, '')
      .replace(/\s+\$\s.*$/, '')
      .trim();
    if (i === 0 && line !== '') first = line;
    if (line === '' || line.startsWith('*')) continue;
    if (/^\.end$/i.test(line)) break;
    const last = raw.at(-1);
    if (line.startsWith('+') && last) last.text += ` ${line.slice(1)}`;
    else raw.push({ line: i + 1, text: line });
  }
  return { lines: raw.map((one) => ({ ...one, words: wordsOf(one.text) })), first };
}

/** Whether the first line is a title: no command, no name such as R1, no whole element, and nothing that hangs on the rest of the deck. */
function isTitle(first: DeckLine, rest: readonly DeckLine[]): boolean {
  const [head = '', a, b] = first.words;
  // A deck has at least one element: the only line that could be one is.
  if (!rest.some((line) => !line.words[0]?.startsWith('.'))) return false;
  if (head.startsWith('.')) return false;
  if (!/^[RCLKVIDSTWX]/i.test(head) || a === undefined || b === undefined) return true;
  if (/^[RCLKVIDSTWX][a-z_]{0,3}\d\w*$/i.test(head) || new Reader().read([first], '').ok) return false;
  const others = new Set(rest.flatMap((line) => line.words.slice(0, 5).map((w) => w.toLowerCase())));
  return ![a, b].some((node) => others.has(node.toLowerCase()) && !/^(the|of|and|a|to|at|in|on|with)$/i.test(node));
}

/**
 * Reads a circuit: an element to a line, a title, parameters, models, sub-circuits, initial conditions. Every word is taken or refused by
 * line and word. Whatever stands in the text is only read, never run or fetched; it never throws.
 */
export function readNetlist(text: string): ReadNetlist {
  if (text.length > netlistLimit)
    return {
      ok: false,
      issues: [{ line: 1, reason: `the file has ${text.length} characters; at most ${netlistLimit} are read` }],
    };
  const { lines, first } = linesOf(text);
  const [top, ...rest] = lines;
  let title = first?.startsWith('*') ? first.slice(1).trim().slice(0, 80) || 'circuit' : 'circuit';
  const titled = top?.line === 1 && isTitle(top, rest);
  if (titled) title = top.text.slice(0, 80);
  return new Reader().read(titled ? rest : lines, title);
}
