import { checkNetlist, isIdealSource, isTwoPole } from '../check.ts';
import { groupsOf, type CoupledGroup } from './coupled.ts';
import type { Netlist, TwoPole, VoltageSource } from '../element.ts';
import { holdOffs } from './scatter.ts';
import { Lines } from './lines.ts';
import { stages } from './method.ts';
import type { RunOptions } from '../run.ts';
import { rankOf, valueOf } from './branch.ts';
import { patternOf, type Pattern } from './sparse.ts';

/** A factorised matrix for one step and one set of switches. */
export interface Slot {
  h: number;
  key: number;
  used: number;
  readonly g: Float64Array;
  readonly diagonal: Float64Array;
  readonly off: Float64Array;
  /** Of each coupled group: admittance, and what carries its currents on. */
  readonly Y: readonly Float64Array[];
  readonly W: readonly Float64Array[];
}

/** A netlist as flat arrays: its branches in the nodes, in an order in which a stage goes through them. */
export abstract class Network {
  protected readonly poles: readonly TwoPole[];
  protected readonly n: number;
  protected readonly nodeOf = new Map<string, number>();
  protected readonly pattern: Pattern;
  /** Nodes of each branch; from `n` on their voltage is known. */
  protected readonly a: Int32Array;
  protected readonly b: Int32Array;
  protected readonly offAt: Int32Array;
  protected readonly j: Float64Array;
  protected readonly current: Float64Array;
  /**
   * Voltages of the nodes at the start of the step and at each of its stages. In a stage they are first its right-hand side,
   * and solved in place; what known nodes hold by then is that of nobody.
   */
  protected readonly rows: Float64Array[];
  /** The row that is worked in. */
  protected v: Float64Array;
  /** Voltages of the known nodes, nought at the others. */
  protected readonly given: Float64Array;
  /**
   * Branches stand in this order, so that a loop over them needs no list: capacitors up to `nc`, inductors up to `ni`, those
   * that are coupled, gaps, coils up to `nd`, and what keeps no energy. The first state of a branch has its number.
   */
  protected readonly nc: number;
  protected readonly ni: number;
  protected readonly nd: number;
  /** Where the states of a branch beside its current begin; past all states where it has none. */
  protected readonly moreAt: Int32Array;
  protected readonly ns: number;
  protected readonly y: Float64Array;
  protected readonly Y: Float64Array;
  protected hat: Float64Array;
  protected readonly gathered: Float64Array;
  protected readonly K: readonly Float64Array[];
  protected readonly branchOf: ReadonlyMap<string, number>;
  protected readonly groups: readonly CoupledGroup[];
  protected readonly grouped: Int32Array;
  protected readonly groupOff: readonly Int32Array[];
  /** Branches that touch a node whose voltage is known and not nought. */
  protected readonly knownBranches: Int32Array;
  /** Of an ungrouped branch: conductance of a resistor or a device that is on, capacitance, or inductance; and what is in series with L. */
  protected readonly value: Float64Array;
  protected readonly series: Float64Array;
  /** Branches by what is done with them in a stage: those that never change, and those that devices move between lists. */
  protected readonly waves: Int32Array;
  /** Ends of delay lines: a conductance with a source behind it. */
  protected readonly lines: Lines;
  protected readonly steady: Int32Array;
  protected readonly grouping: Int32Array;
  /** Inductors in which heat arises. */
  protected readonly lossy: Int32Array;
  /** Gaps with an arc of fixed resistance that conduct. */
  protected arcs = new Int32Array(0);
  /** Diodes and thyristors that conduct: they carry a current of their own beside that of their voltage. */
  protected biased = new Int32Array(0);
  protected readonly knownWaves: readonly {
    readonly at: number;
    readonly element: VoltageSource | null;
    readonly sign: number;
  }[];
  protected readonly slots: Slot[] = [];
  /** Devices that open and close, and their state. */
  protected readonly devices: Int32Array;
  private readonly sorted: Int32Array;
  protected readonly on: Uint8Array;
  protected readonly direction: Int8Array;
  /** Whether the gate of a thyristor is driven: by the clock, so that no step has it both ways. */
  protected readonly gated: Uint8Array;
  protected readonly latched: Uint8Array;
  protected readonly reversed: Uint8Array;
  protected readonly offAtTime: Float64Array;
  protected readonly holdOff: Float64Array;
  protected readonly marks: Int32Array;
  protected key = 0;
  protected nonlinear = new Int32Array(0);
  /** Gaps that wait for their voltage, and the other devices that can act by themselves as they are. */
  protected waiting = new Int32Array(0);
  protected awake = new Int32Array(0);
  protected readonly guesses: Float64Array;
  protected readonly readingOf = new Map<number, { L: number; dLdt: number }>();
  protected readonly scratch = new Map<number, { x: Float64Array; dx: Float64Array }>();
  /** W that each branch takes, and what the sources give, at each stage of the last attempt. */
  protected readonly power: readonly Float64Array[];
  protected readonly powerIn = new Float64Array(stages);
  protected readonly energy: Float64Array;
  protected t = 0;
  protected clock = 0;
  factorisations = 0;
  protected readonly Goff: number;
  protected readonly tolerance: number;
  protected readonly netlist: Netlist;
  protected readonly options: RunOptions;

  constructor(netlist: Netlist, options: RunOptions) {
    checkNetlist(netlist);
    this.netlist = netlist;
    this.options = options;
    this.Goff = options.Goff ?? 1e-12;
    this.tolerance = options.tolerance ?? 1e-4;
    const poles = netlist.elements.filter(isTwoPole);
    const fixed = (e: TwoPole) => isIdealSource(e) && e.nodes.includes('0');
    const known = ['0', ...poles.filter(fixed).map((e) => e.nodes.find((node) => node !== '0') ?? '0')];
    // Branches are what carries an unknown current; a source that fixes a node is none.
    const coupled = new Set(netlist.elements.flatMap((e): readonly string[] => (e.kind === 'coupling' ? e.inductors : [])));
    const ranked: TwoPole[][] = [[], [], [], [], [], []];
    for (const e of poles) if (!fixed(e)) ranked[rankOf(e, coupled)]?.push(e);
    this.poles = ranked.flat();
    const upTo = (rank: number) => ranked.slice(0, rank).reduce((sum, { length }) => sum + length, 0);
    [this.nc, this.ni, this.nd] = [upTo(1), upTo(2), upTo(5)];
    const free = [...new Set(poles.flatMap((e) => e.nodes))].filter((node) => !known.includes(node));
    const raw = new Map(free.map((node, i) => [node, i]));
    const nb = this.poles.length;
    this.n = free.length;
    this.branchOf = new Map(this.poles.map((e, k) => [e.name, k]));
    this.groups = groupsOf(netlist.elements, this.branchOf);
    const pairs: [number, number][] = [];
    const pair = (p: string, q: string) => {
      const i = raw.get(p);
      const j = raw.get(q);
      if (i !== undefined && j !== undefined) pairs.push([i, j]);
    };
    for (const e of this.poles) pair(...e.nodes);
    for (const group of this.groups) {
      const nodes = group.branches.flatMap((k) => this.poles[k]?.nodes ?? []);
      for (const p of nodes) for (const q of nodes) pair(p, q);
    }
    this.pattern = patternOf(this.n, pairs);
    for (const [node, i] of raw) this.nodeOf.set(node, this.pattern.order[i] ?? 0);
    known.forEach((node, i) => this.nodeOf.set(node, this.n + i));
    this.knownWaves = known.map((node, i) => {
      const element = poles.find((e) => fixed(e) && e.nodes.includes(node) && node !== '0');
      return {
        at: this.n + i,
        element: element?.kind === 'voltage-source' ? element : null,
        sign: element?.nodes[0] === node ? 1 : -1,
      };
    });
    const nodes = this.n + known.length;
    const v = new Float64Array(nodes);
    this.v = v;
    this.rows = [v, ...rowsOf(stages, nodes)];
    this.given = new Float64Array(nodes);
    // What lies between a node and itself has no voltage: it stands between earth and earth.
    const end = (e: TwoPole, i: 0 | 1) => (e.nodes[0] === e.nodes[1] ? this.n : (this.nodeOf.get(e.nodes[i]) ?? 0));
    this.a = Int32Array.from(this.poles.map((e) => end(e, 0)));
    this.b = Int32Array.from(this.poles.map((e) => end(e, 1)));
    // Known nodes write into places that nobody reads, so that no loop has to ask.
    this.offAt = Int32Array.from(
      this.poles.map((_, k) => {
        const at = this.placeOf(this.a[k] ?? 0, this.b[k] ?? 0);
        return at < 0 ? this.pattern.size : at;
      }),
    );
    this.j = new Float64Array(nb);
    this.current = new Float64Array(nb);
    this.energy = new Float64Array(nb);
    this.power = rowsOf(stages, nb);
    this.moreAt = new Int32Array(nb);
    const states: number[] = [];
    for (let k = 0; k < this.nd; k++) {
      const e = this.poles[k] as TwoPole;
      states.push(e.kind === 'capacitor' ? (e.V0 ?? 0) : e.kind === 'inductor' || e.kind === 'coil' ? (e.I0 ?? 0) : 0);
    }
    this.poles.forEach((e, k) => {
      this.moreAt[k] = states.length;
      if (e.kind === 'gap' && e.arc.law !== 'fixed') states.push(0);
      if (e.kind === 'coil') {
        states.push(...e.states);
        this.readingOf.set(k, { L: 0, dLdt: 0 });
        this.scratch.set(k, { x: Float64Array.from(e.states), dx: new Float64Array(e.states.length) });
      }
    });
    this.ns = states.length;
    this.y = Float64Array.from(states);
    this.Y = Float64Array.from(states);
    this.gathered = new Float64Array(this.ns);
    this.hat = this.gathered;
    this.K = rowsOf(stages, this.ns);
    this.grouped = new Int32Array(nb).fill(-1);
    this.groups.forEach((group, i) => group.branches.forEach((k) => (this.grouped[k] = i)));
    this.groupOff = this.groups.map((group) => {
      const places: number[] = [];
      for (const p of group.branches)
        for (const q of group.branches)
          for (const s of [this.a, this.b]) for (const r of [this.a, this.b]) places.push(this.placeOf(s[p] ?? 0, r[q] ?? 0));
      return Int32Array.from(places);
    });
    this.knownBranches = Int32Array.from(
      this.poles.flatMap((_, k) => ((this.a[k] ?? 0) > this.n || (this.b[k] ?? 0) > this.n ? [k] : [])),
    );
    this.devices = Int32Array.from(
      this.poles.flatMap((e, k) => (['switch', 'diode', 'thyristor', 'gap', 'power-source'].includes(e.kind) ? [k] : [])),
    );
    this.sorted = Int32Array.from(this.poles.flatMap((e, k) => (e.kind === 'coil' ? [k] : [])).concat([...this.devices]));
    // A resistor is a switch that stays closed.
    this.on = Uint8Array.from(this.poles.map((e) => (e.kind === 'resistor' ? 1 : 0)));
    this.direction = new Int8Array(nb).fill(1);
    this.gated = new Uint8Array(nb);
    this.latched = new Uint8Array(nb);
    this.reversed = new Uint8Array(nb);
    this.offAtTime = new Float64Array(nb).fill(-Infinity);
    this.holdOff = holdOffs(this.poles, options.seed);
    this.guesses = new Float64Array(nb);
    this.value = Float64Array.from(this.poles.map(valueOf));
    this.series = Float64Array.from(
      this.poles.map((e) => (e.kind === 'inductor' ? (e.R ?? 0) : e.kind === 'gap' && e.arc.law === 'fixed' ? e.arc.R : 0)),
    );
    const listOf = (test: (e: TwoPole, k: number) => boolean) =>
      Int32Array.from(this.poles.flatMap((e, k) => (test(e, k) ? [k] : [])));
    this.waves = listOf((e) => e.kind === 'voltage-source' || e.kind === 'current-source');
    this.lines = new Lines(this.poles, this.a, this.b, options.until);
    this.steady = listOf((e) => ['resistor', 'switch', 'diode', 'thyristor'].includes(e.kind));
    this.grouping = Int32Array.from(this.groups.flatMap((group) => group.branches));
    this.lossy = listOf((e) => e.kind === 'inductor' && (e.R ?? 0) > 0);
    this.marks = Int32Array.from(this.poles.map((_, k) => Math.imul(k + 1, 0x9e3779b1)));
    this.poles.forEach((e, k) => {
      if (e.kind === 'power-source') this.toggle(k);
    });
    this.sort();
  }

  protected placeOf(p: number, q: number): number {
    return p < this.n && q < this.n && p !== q ? this.pattern.place(p, q) : -1;
  }

  /** Puts the branches into the lists that the state of the devices decides. */
  protected sort(): void {
    const { on, poles } = this;
    const arcs: number[] = [];
    const biased: number[] = [];
    const nonlinear: number[] = [];
    const waiting: number[] = [];
    const awake: number[] = [];
    for (let m = 0; m < this.sorted.length; m++) {
      const k = this.sorted[m] as number;
      const e = poles[k] as TwoPole;
      switch (e.kind) {
        case 'gap':
          if (on[k]) (e.arc.law === 'fixed' ? arcs : nonlinear).push(k);
          if (e.recovery !== undefined) awake.push(k);
          else if (!on[k]) waiting.push(k);
          break;
        case 'diode':
        case 'thyristor':
          if (on[k] && e.Vf > 0) biased.push(k);
          awake.push(k);
          break;
        case 'switch':
          if (e.control.by !== 'time') awake.push(k);
          break;
        case 'power-source':
          if (on[k]) nonlinear.push(k);
          if (e.Voff !== undefined) awake.push(k);
          break;
        case 'coil':
          nonlinear.push(k);
          break;
        default:
          break;
      }
    }
    this.arcs = Int32Array.from(arcs);
    this.biased = Int32Array.from(biased);
    this.nonlinear = Int32Array.from(nonlinear);
    this.waiting = Int32Array.from(waiting);
    this.awake = Int32Array.from(awake);
  }

  protected toggle(k: number): void {
    this.on[k] = this.on[k] ? 0 : 1;
    for (let s = 0; s < stages; s++) (this.power[s] as Float64Array)[k] = 0;
    this.key ^= this.marks[k] ?? 0;
  }
}

const rowsOf = (rows: number, length: number): Float64Array[] => Array.from({ length: rows }, () => new Float64Array(length));
