import { holdOffs } from '../solver/scatter.ts';
import type { Element, LineEnd, Netlist, Nodes } from '../element.ts';
import { followTime, ownCircuits, ownWords } from './own.ts';
import { waveWords } from './wave.ts';

export interface DeckOptions {
  /** s that are run: it goes into `.tran`. */
  readonly until?: number;
  /** Of the scatter of gaps, which is written out: nothing in a deck is left to chance. */
  readonly seed?: number;
  /** A comment above each element. */
  readonly comment?: (element: Element) => string | null;
}

/** Steps that a run is cut into at the least and at the most, and over a period of the fastest that can ring. */
const steps = { least: 4000, most: 100_000, period: 100 };

/** The longest step that shows what rings, s: of every inductance with the least capacitance that it meets at a node. */
function longestStep(elements: readonly Element[], until: number): number {
  const least = new Map<string, number>();
  for (const e of elements)
    if (e.kind === 'capacitor')
      for (const node of e.nodes) if (node !== '0') least.set(node, Math.min(least.get(node) ?? Infinity, e.C));
  const periods = elements.flatMap((e) =>
    e.kind === 'inductor' || e.kind === 'gap'
      ? e.nodes.flatMap((node) => (least.has(node) ? [2 * Math.PI * Math.sqrt(e.L * (least.get(node) ?? 0))] : []))
      : [],
  );
  const shortest = Math.min(until / steps.least, ...periods.map((T) => T / steps.period));
  return Math.max(shortest, until / steps.most);
}

/** Without a time that is run, what is followed is followed within this. */
const someTime = 1e-3;

interface Written {
  readonly lines: string[];
  readonly circuits: readonly string[];
}

/**
 * A circuit as a deck that other simulators of the family run as it is: series resistances are elements, what has no letter of its own
 * is a sub-circuit whose text stands in the deck. Nodes keep their names. {@link readNetlist} reads the same circuit back.
 *
 * @throws Error where an element cannot be written: a coil with something moving in it that was not recorded
 */
export function netlistText({ title, elements }: Netlist, { until, seed, comment = () => null }: DeckOptions = {}): string {
  const plain = (text: string) => text.replace(/[\r\n]+/g, ' ');
  const poles = elements.filter((e) => e.kind !== 'coupling');
  const holds = new Map([...holdOffs(poles, seed)].map((V, i) => [poles[i]?.name ?? '', V]));
  const sensed = new Set(elements.flatMap((e) => (e.kind === 'switch' && e.control.by === 'current' ? [e.control.of] : [])));
  const time = until ?? someTime;
  // The second of two ends is written with the first.
  const later = new Map(
    elements.flatMap((e, i) =>
      e.kind === 'line-end' && elements.findIndex(({ name }) => name === e.far) < i ? [[e.name, e.nodes] as const] : [],
    ),
  );
  const made = elements.map((element) => {
    const says = comment(element);
    const { lines, circuits } = written(element, {
      ends: later,
      time,
      holds: holds.get(element.name) ?? 0,
      sensed: sensed.has(element.name),
    });
    return { circuits, text: lines.length === 0 ? '' : `${says === null ? '' : `* ${plain(says)}\n`}${lines.join('\n')}` };
  });
  const wanted = [...new Set(made.flatMap(({ circuits }) => circuits))];
  const step = until === undefined ? 0 : longestStep(elements, until);
  const run = until === undefined ? [] : [`.tran ${step} ${until} 0 ${step} uic`, '.options reltol=1e-5 trtol=1 itl4=200'];
  const parts = [
    ...made.flatMap(({ text }) => (text === '' ? [] : [text])),
    ...wanted.map((of) => ownCircuits[of] ?? ''),
    ...run,
  ];
  return `* ${plain(title)}\n${parts.join('\n')}\n.end\n`;
}

interface Around {
  /** Of the other end of a line: its nodes, where the line is to be written here. */
  readonly ends: ReadonlyMap<string, Nodes>;
  readonly time: number;
  readonly holds: number;
  /** A switch goes by its current: a source of no voltage stands in series to tell it. */
  readonly sensed: boolean;
}

/** A line is written once, at the first of its ends; nothing at the other. */
function lineWords({ name, nodes, Z0, delay, V0 = 0 }: LineEnd, far: Nodes): string {
  const own = /^t/i.test(name) ? name : `T${name}`;
  return `${own} ${nodes.join(' ')} ${far.join(' ')} Z0=${Z0} TD=${delay}${V0 === 0 ? '' : ` IC=${V0},0,${V0},0`}`;
}

function written(element: Element, around: Around): Written {
  if (element.kind === 'line-end') {
    const far = around.ends.get(element.far);
    return { lines: far === undefined ? [] : [lineWords(element, far)], circuits: [] };
  }
  if (element.kind === 'coupling')
    return { lines: [`${element.name} ${element.inductors.join(' ')} ${element.k}`], circuits: [] };
  const [a, b] = element.nodes;
  const inner = `${element.name}_s`;
  const { lines, circuits } = pole(around.sensed ? { ...element, nodes: [inner, b] } : element, around);
  return { lines: around.sensed ? [`V${inner} ${a} ${inner} 0`, ...lines] : lines, circuits };
}

function pole(e: Exclude<Element, { kind: 'coupling' | 'line-end' }>, { time, holds }: Around): Written {
  const own = ownWords(e, followTime(time), holds);
  if (own) return { lines: [own.line], circuits: [own.of] };
  const [a, b] = e.nodes;
  /** The element up to an inner node, and its series resistance behind it. */
  const behind = (R: number | undefined, line: (to: string) => string): string[] =>
    R ? [line(`${e.name}_r`), `R${e.name} ${e.name}_r ${b} ${R}`] : [line(b)];
  const shortest = time * 1e-9;
  const lines = ((): string[] => {
    switch (e.kind) {
      case 'resistor':
        return [`${e.name} ${a} ${b} ${e.R}`];
      case 'capacitor':
        return [`${e.name} ${a} ${b} ${e.C} IC=${e.V0 ?? 0}`];
      case 'inductor':
        return behind(e.R, (to) => `${e.name} ${a} ${to} ${e.L} IC=${e.I0 ?? 0}`);
      case 'voltage-source':
        return behind(e.R, (to) => `${e.name} ${a} ${to} ${waveWords(e.wave, shortest)}`);
      case 'current-source':
        return [`${e.name} ${a} ${b} ${waveWords(e.wave, shortest)}`];
      case 'switch': {
        const { control: by } = e;
        if (by.by === 'time') throw new Error(`${e.name}: a switch by the clock is a sub-circuit`);
        const [middle, half] = [(by.above + by.below) / 2, (by.above - by.below) / 2];
        const model = `${e.name}_model`;
        const name =
          by.by === 'voltage' ? (/^s/i.test(e.name) ? e.name : `S${e.name}`) : /^w/i.test(e.name) ? e.name : `W${e.name}`;
        return by.by === 'voltage'
          ? [
              `${name} ${a} ${b} ${by.nodes.join(' ')} ${model}`,
              `.model ${model} SW(VT=${middle} VH=${half} RON=${e.Ron} ROFF=1e12)`,
            ]
          : [`${name} ${a} ${b} V${by.of}_s ${model}`, `.model ${model} CSW(IT=${middle} IH=${half} RON=${e.Ron} ROFF=1e12)`];
      }
      case 'coil': {
        if (!e.record) throw new Error(`${e.name}: a coil with something moving in it has a line only where it was recorded`);
        // Its inductance in µH is the voltage of a node.
        const level = `${e.name}_l`;
        const points = waveWords({ kind: 'piecewise', points: e.record.map(([t, L]) => [t, L * 1e6] as const) }, shortest);
        return [...behind(e.R, (to) => `X${e.name} ${a} ${to} ${level} vs_coil`), `V${level} ${level} 0 ${folded(points)}`];
      }
      case 'diode':
      case 'thyristor':
      case 'gap':
      case 'power-source':
        throw new Error(`${e.name}: a ${e.kind} is a sub-circuit`);
      default:
        return e satisfies never;
    }
  })();
  return { lines, circuits: e.kind === 'coil' ? ['vs_coil'] : [] };
}

/** A long line, gone on with on the next. */
const folded = (text: string): string => {
  const words = text.split(' ');
  const lines: string[] = [];
  for (let i = 0; i < words.length; i += 12) lines.push(words.slice(i, i + 12).join(' '));
  return lines.join('\n+ ');
};
