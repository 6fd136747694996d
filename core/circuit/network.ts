import { arcRate, arcResistance } from './arc.ts';
import { CircuitError, checkNetlist, isIdealSource, isTwoPole } from './check.ts';
import { groupsOf, inverse, type CoupledGroup } from './coupled.ts';
import { waveAt, type Coil, type Gap, type Netlist, type TwoPole, type VoltageSource } from './element.ts';
import { idealResistance, normals, stages } from './method.ts';
import type { RunOptions } from './run.ts';
import { factorise, patternOf, solve, type Pattern } from './sparse.ts';

/** A factorised matrix for one step and one set of switches. */
interface Slot {
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

/** A netlist as flat arrays, and the solution of its network at one stage of a step: companion models of every branch in the nodes. */
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
  protected readonly v: Float64Array;
  protected readonly x: Float64Array;
  /** First state of a branch, or -1. */
  protected readonly stateOf: Int32Array;
  protected readonly ns: number;
  protected readonly y: Float64Array;
  protected readonly Y: Float64Array;
  protected readonly hat: Float64Array;
  protected readonly K: Float64Array;
  protected readonly largest: Float64Array;
  /** 0: a voltage, 1: a current, 2: of its own kind. */
  protected readonly family: Int8Array;
  protected readonly branchOf: ReadonlyMap<string, number>;
  protected readonly groups: readonly CoupledGroup[];
  protected readonly grouped: Int32Array;
  protected readonly groupOff: readonly Int32Array[];
  protected readonly knownBranches: Int32Array;
  protected readonly knownWaves: readonly {
    readonly at: number;
    readonly element: VoltageSource | null;
    readonly sign: number;
  }[];
  protected readonly slots: Slot[] = [];
  /** Devices that open and close, and their state. */
  protected readonly devices: Int32Array;
  protected readonly on: Uint8Array;
  protected readonly direction: Int8Array;
  protected readonly latched: Uint8Array;
  protected readonly reversed: Uint8Array;
  protected readonly offAtTime: Float64Array;
  protected readonly holdOff: Float64Array;
  protected readonly marks: Int32Array;
  protected key = 0;
  protected nonlinear: number[] = [];
  protected readonly readingOf = new Map<number, { L: number; dLdt: number }>();
  protected readonly scratch = new Map<number, { x: Float64Array; dx: Float64Array }>();
  protected readonly energyStep: Float64Array;
  protected readonly energy: Float64Array;
  protected suppliedStep = 0;
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
    this.poles = poles.filter((e) => !fixed(e));
    const free = [...new Set(poles.flatMap((e) => e.nodes))].filter((node) => !known.includes(node));
    const raw = new Map(free.map((node, i) => [node, i]));
    const nb = this.poles.length;
    this.n = free.length;
    this.branchOf = new Map(this.poles.map((e, k) => [e.name, k]));
    this.groups = groupsOf(netlist.elements, this.branchOf);
    const pairs: [number, number][] = [];
    const pair = (p: string, q: string) => {
      const [i, j] = [raw.get(p), raw.get(q)];
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
    this.v = new Float64Array(this.n + known.length);
    this.x = new Float64Array(this.n);
    this.a = Int32Array.from(this.poles.map((e) => this.nodeOf.get(e.nodes[0]) ?? 0));
    this.b = Int32Array.from(this.poles.map((e) => this.nodeOf.get(e.nodes[1]) ?? 0));
    this.offAt = Int32Array.from(this.poles.map((_, k) => this.placeOf(this.a[k] ?? 0, this.b[k] ?? 0)));
    this.j = new Float64Array(nb);
    this.current = new Float64Array(nb);
    this.energy = new Float64Array(nb);
    this.energyStep = new Float64Array(nb);
    this.stateOf = new Int32Array(nb).fill(-1);
    const states: number[] = [];
    const family: number[] = [];
    const add = (value: number, kind: number) => {
      states.push(value);
      family.push(kind);
    };
    this.poles.forEach((e, k) => {
      if (e.kind === 'capacitor' || e.kind === 'inductor' || e.kind === 'gap' || e.kind === 'coil')
        this.stateOf[k] = states.length;
      if (e.kind === 'capacitor') add(e.V0 ?? 0, 0);
      if (e.kind === 'inductor') add(e.I0 ?? 0, 1);
      if (e.kind === 'gap') {
        add(0, 1);
        if (e.arc.law !== 'fixed') add(0, 2);
      }
      if (e.kind === 'coil') {
        add(e.I0 ?? 0, 1);
        for (const value of e.states) add(value, 2);
        this.readingOf.set(k, { L: 0, dLdt: 0 });
        this.scratch.set(k, { x: Float64Array.from(e.states), dx: new Float64Array(e.states.length) });
      }
    });
    this.ns = states.length;
    this.y = Float64Array.from(states);
    this.Y = Float64Array.from(states);
    this.hat = new Float64Array(this.ns);
    this.K = new Float64Array(this.ns * stages);
    this.largest = new Float64Array(this.ns);
    this.family = Int8Array.from(family);
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
    this.on = new Uint8Array(nb);
    this.direction = new Int8Array(nb).fill(1);
    this.latched = new Uint8Array(nb);
    this.reversed = new Uint8Array(nb);
    this.offAtTime = new Float64Array(nb).fill(-Infinity);
    const normal = normals(options.seed ?? 1);
    this.holdOff = Float64Array.from(
      this.poles.map((e) => (e.kind === 'gap' ? e.breakdown * Math.max(0.05, 1 + (e.scatter ?? 0) * normal()) : 0)),
    );
    this.marks = Int32Array.from(this.poles.map((_, k) => Math.imul(k + 1, 0x9e3779b1)));
    this.poles.forEach((e, k) => {
      if (e.kind === 'power-source') this.toggle(k);
    });
    this.findNonlinear();
  }

  protected placeOf(p: number, q: number): number {
    return p < this.n && q < this.n && p !== q ? this.pattern.place(p, q) : -1;
  }

  protected findNonlinear(): void {
    this.nonlinear = this.poles.flatMap((e, k) =>
      e.kind === 'coil' || (e.kind === 'power-source' && this.on[k]) || (e.kind === 'gap' && e.arc.law !== 'fixed' && this.on[k])
        ? [k]
        : [],
    );
  }

  protected toggle(k: number): void {
    this.on[k] = this.on[k] ? 0 : 1;
    this.key ^= this.marks[k] ?? 0;
  }

  // ---- one step ------------------------------------------------------------------------------------------------------

  /** Resistance and inductance of a branch that is inductive, at a guess of its state. */
  protected inductiveOf(k: number, hg: number, t: number): { R: number; L: number } {
    const e = this.poles[k] as Gap | Coil | Extract<TwoPole, { kind: 'inductor' }>;
    const s = this.stateOf[k] as number;
    if (e.kind === 'inductor') return { R: e.R ?? 0, L: e.L };
    const i = this.Y[s] as number;
    if (e.kind === 'gap') {
      const { arc } = e;
      if (arc.law === 'fixed') return { R: arc.R, L: e.L };
      const q = (this.hat[s + 1] as number) + hg * arcRate(arc, i);
      this.Y[s + 1] = q;
      return { R: arcResistance(arc, q), L: e.L };
    }
    const reading = this.readingOf.get(k) as { L: number; dLdt: number };
    const { x, dx } = this.scratch.get(k) as { x: Float64Array; dx: Float64Array };
    for (let m = 0; m < x.length; m++) x[m] = this.Y[s + 1 + m] as number;
    e.slopes(t, i, x, dx);
    for (let m = 0; m < x.length; m++) {
      x[m] = (this.hat[s + 1 + m] as number) + hg * (dx[m] as number);
      this.Y[s + 1 + m] = x[m] as number;
    }
    e.read(t, i, x, reading);
    return { R: e.R + reading.dLdt, L: reading.L };
  }

  /** Conductance of a branch at a step; what depends on a guess is taken at it. */
  protected conductance(k: number, hg: number, t: number): number {
    const e = this.poles[k] as TwoPole;
    switch (e.kind) {
      case 'resistor':
        return 1 / e.R;
      case 'capacitor':
        return e.C / hg;
      case 'inductor':
        return hg / (e.L + hg * (e.R ?? 0));
      case 'voltage-source':
        return 1 / (e.R && e.R > 0 ? e.R : idealResistance);
      case 'current-source':
        return 0;
      case 'power-source': {
        if (!this.on[k]) return 0;
        const v = (this.v[this.a[k] as number] as number) - (this.v[this.b[k] as number] as number);
        return v > e.P / e.Imax ? e.P / (v * v) : 0;
      }
      case 'switch':
      case 'diode':
      case 'thyristor':
        return this.on[k] ? 1 / e.Ron : this.Goff;
      case 'gap':
      case 'coil': {
        if (e.kind === 'gap' && !this.on[k]) return 0;
        const { R, L } = this.inductiveOf(k, hg, t);
        return hg / (L + hg * R);
      }
      default:
        return e satisfies never;
    }
  }

  /** What a branch carries at no voltage, given the hats of its states. */
  protected offset(k: number, hg: number, g: number, t: number): number {
    const e = this.poles[k] as TwoPole;
    switch (e.kind) {
      case 'resistor':
      case 'switch':
        return 0;
      case 'capacitor':
        return -g * (this.hat[this.stateOf[k] as number] as number);
      case 'inductor':
        return (this.hat[this.stateOf[k] as number] as number) * (1 - g * (e.R ?? 0));
      case 'voltage-source':
        return -g * waveAt(e.wave, t);
      case 'current-source':
        return waveAt(e.wave, t);
      case 'power-source': {
        if (!this.on[k]) return 0;
        const v = (this.v[this.a[k] as number] as number) - (this.v[this.b[k] as number] as number);
        return v > e.P / e.Imax ? (-2 * e.P) / v : -e.Imax;
      }
      case 'diode':
        return this.on[k] ? -g * e.Vf : 0;
      case 'thyristor':
        return this.on[k] ? -g * e.Vf * (this.direction[k] as number) : 0;
      case 'gap':
      case 'coil': {
        if (e.kind === 'gap' && !this.on[k]) return 0;
        const hat = this.hat[this.stateOf[k] as number] as number;
        if (e.kind === 'gap' && e.arc.law === 'fixed') return hat * (1 - g * e.arc.R);
        // g = hg/(L + hg·R): what is left of the current is L/(L + hg·R) of it.
        const { L } = this.inductiveOf(k, hg, t);
        return hat * ((g * L) / hg);
      }
      default:
        return e satisfies never;
    }
  }

  protected stamp(slot: Slot, hg: number, t: number): void {
    const { diagonal, off, g } = slot;
    const n = this.n;
    diagonal.fill(0);
    off.fill(0);
    for (let k = 0; k < this.poles.length; k++) {
      if ((this.grouped[k] as number) >= 0) continue;
      const value = this.conductance(k, hg, t);
      g[k] = value;
      const [p, q, at] = [this.a[k] as number, this.b[k] as number, this.offAt[k] as number];
      if (p === q) continue;
      if (p < n) diagonal[p] = (diagonal[p] as number) + value;
      if (q < n) diagonal[q] = (diagonal[q] as number) + value;
      if (at >= 0) off[at] = (off[at] as number) - value;
    }
    this.groups.forEach((group, i) => this.stampGroup(slot, group, i, hg));
    this.factorisations += 1;
    const singular = factorise(this.pattern, diagonal, off);
    if (singular >= 0) {
      const node = [...this.nodeOf].find(([, at]) => at === singular)?.[0] ?? '?';
      const parts = this.poles.filter((e) => e.nodes.includes(node)).map((e) => e.name);
      throw new CircuitError({ code: 'singular', parts, reason: `the voltage of node ${node} is not determined` });
    }
  }

  protected stampGroup(slot: Slot, group: CoupledGroup, index: number, hg: number): void {
    const m = group.branches.length;
    const sum = new Float64Array(m * m);
    for (let i = 0; i < m * m; i++) sum[i] = (group.L[i] as number) / hg;
    for (let i = 0; i < m; i++) sum[i * m + i] = (sum[i * m + i] as number) + (group.R[i] as number);
    const Y = inverse(m, sum);
    if (!Y)
      throw new CircuitError({
        code: 'singular',
        parts: group.branches.map((k) => this.poles[k]?.name ?? ''),
        reason: 'these inductors are coupled too tightly',
      });
    slot.Y[index]?.set(Y);
    const W = slot.W[index] as Float64Array;
    for (let i = 0; i < m; i++)
      for (let c = 0; c < m; c++) {
        let value = 0;
        for (let r = 0; r < m; r++) value += ((Y[i * m + r] as number) * (group.L[r * m + c] as number)) / hg;
        W[i * m + c] = value;
      }
    let at = 0;
    const places = this.groupOff[index] as Int32Array;
    for (let p = 0; p < m; p++)
      for (let q = 0; q < m; q++) {
        const value = Y[p * m + q] as number;
        for (let s = 0; s < 2; s++)
          for (let r = 0; r < 2; r++) {
            const place = places[at++] as number;
            const [row, column] = [
              (s === 0 ? this.a : this.b)[group.branches[p] as number] as number,
              (r === 0 ? this.a : this.b)[group.branches[q] as number] as number,
            ];
            const signed = s === r ? value : -value;
            if (row === column && row < this.n) slot.diagonal[row] = (slot.diagonal[row] as number) + signed;
            // Each pair of rows comes twice, once from either side.
            else if (place >= 0) slot.off[place] = (slot.off[place] as number) + signed / 2;
          }
      }
  }

  /** The factorised matrix of a step with the switches as they are. */
  protected slotFor(h: number, hg: number, t: number): Slot {
    this.clock += 1;
    for (const slot of this.slots)
      if (slot.h === h && slot.key === this.key) {
        slot.used = this.clock;
        return slot;
      }
    let slot = this.slots.length < 4 ? undefined : this.slots.reduce((old, s) => (s.used < old.used ? s : old));
    if (!slot) {
      slot = {
        h: 0,
        key: 0,
        used: 0,
        g: new Float64Array(this.poles.length),
        diagonal: new Float64Array(this.n),
        off: new Float64Array(this.pattern.size),
        Y: this.groups.map((group) => new Float64Array(group.branches.length ** 2)),
        W: this.groups.map((group) => new Float64Array(group.branches.length ** 2)),
      };
      this.slots.push(slot);
    }
    slot.h = NaN;
    this.stamp(slot, hg, t);
    slot.h = h;
    slot.key = this.key;
    slot.used = this.clock;
    return slot;
  }

  /** Solves the network at one stage, the hats of the states being set. */
  protected network(slot: Slot, hg: number, t: number): void {
    const { n, x, v, j, a, b } = this;
    const { g } = slot;
    for (const { at, element, sign } of this.knownWaves) v[at] = element ? sign * waveAt(element.wave, t) : 0;
    x.fill(0);
    for (let k = 0; k < j.length; k++) {
      if ((this.grouped[k] as number) >= 0) continue;
      const gk = g[k] as number;
      const own = this.offset(k, hg, gk, t);
      j[k] = own;
      const [p, q] = [a[k] as number, b[k] as number];
      const outer = own + gk * ((p >= n ? (v[p] as number) : 0) - (q >= n ? (v[q] as number) : 0));
      if (p < n) x[p] = (x[p] as number) - outer;
      if (q < n) x[q] = (x[q] as number) + outer;
    }
    for (let i = 0; i < this.groups.length; i++) {
      const { branches } = this.groups[i] as CoupledGroup;
      const m = branches.length;
      const [Y, W] = [slot.Y[i] as Float64Array, slot.W[i] as Float64Array];
      for (let p = 0; p < m; p++) {
        const k = branches[p] as number;
        let own = 0;
        let outer = 0;
        for (let q = 0; q < m; q++) {
          const other = branches[q] as number;
          own += (W[p * m + q] as number) * (this.hat[this.stateOf[other] as number] as number);
          const [r, s] = [a[other] as number, b[other] as number];
          outer += (Y[p * m + q] as number) * ((r >= n ? (v[r] as number) : 0) - (s >= n ? (v[s] as number) : 0));
        }
        j[k] = own;
        const [r, s] = [a[k] as number, b[k] as number];
        if (r < n) x[r] = (x[r] as number) - own - outer;
        if (s < n) x[s] = (x[s] as number) + own + outer;
      }
    }
    solve(this.pattern, slot.diagonal, slot.off, x);
    for (let i = 0; i < n; i++) v[i] = x[i] as number;
    for (let k = 0; k < j.length; k++) {
      if ((this.grouped[k] as number) >= 0) continue;
      this.current[k] = (g[k] as number) * ((v[a[k] as number] as number) - (v[b[k] as number] as number)) + (j[k] as number);
    }
    for (let i = 0; i < this.groups.length; i++) {
      const { branches } = this.groups[i] as CoupledGroup;
      const m = branches.length;
      const Y = slot.Y[i] as Float64Array;
      for (let p = 0; p < m; p++) {
        let value = j[branches[p] as number] as number;
        for (let q = 0; q < m; q++) {
          const other = branches[q] as number;
          value += (Y[p * m + q] as number) * ((v[a[other] as number] as number) - (v[b[other] as number] as number));
        }
        this.current[branches[p] as number] = value;
      }
    }
  }

  /** States at a stage out of the solved network. */
  protected takeStates(): void {
    for (let k = 0; k < this.poles.length; k++) {
      const s = this.stateOf[k] as number;
      if (s < 0) continue;
      const e = this.poles[k] as TwoPole;
      if (e.kind === 'capacitor') this.Y[s] = (this.v[this.a[k] as number] as number) - (this.v[this.b[k] as number] as number);
      else if (e.kind === 'gap' && !this.on[k]) {
        this.Y[s] = 0;
        if (e.arc.law !== 'fixed') this.Y[s + 1] = this.hat[s + 1] as number;
      } else this.Y[s] = this.current[k] as number;
    }
  }

  /** One stage: with nonlinear branches the guess is bettered until it stands. @returns whether it did */
  protected stage(h: number, hg: number, t: number): boolean {
    if (this.nonlinear.length === 0) {
      this.network(this.slotFor(h, hg, t), hg, t);
      this.takeStates();
      return true;
    }
    for (let round = 0; round < 40; round++) {
      const slot = this.slotFor(NaN, hg, t);
      let change = 0;
      const before = this.nonlinear.map((k) => this.guessOf(k));
      this.network(slot, hg, t);
      this.takeStates();
      this.nonlinear.forEach((k, i) => {
        const [was, is] = [before[i] ?? 0, this.guessOf(k)];
        change = Math.max(change, Math.abs(is - was) / Math.max(Math.abs(is), Math.abs(was), 1e-9));
      });
      if (change < Math.min(1e-6, this.tolerance * 1e-3)) return true;
    }
    return false;
  }

  protected guessOf(k: number): number {
    const s = this.stateOf[k] as number;
    return s >= 0 ? (this.Y[s] as number) : (this.v[this.a[k] as number] as number) - (this.v[this.b[k] as number] as number);
  }
}
