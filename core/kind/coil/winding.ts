import { coilFormulas, coilLossFormulas, ruled, work, type Worked } from '../../formula/index.ts';
import { layersInductance, stripRadius, type Layer } from '../../model/index.ts';
import { wireMetalById, wireMetals, type WireMetal } from '../../material/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type Own } from '../../block/context.ts';
import type { windingFields } from './winding-fields.ts';
import type { FieldId } from '../../block/names.ts';

/** A winding as it lies on its former: what follows from wire and former before any current flows. */
export interface Winding {
  /** Whole turns. */
  readonly turns: number;
  readonly perLayer: number;
  /** Layers that are begun, the last perhaps not full. */
  readonly layers: readonly Layer[];
  /** m: of the section that the wire fills. */
  readonly inner: number;
  readonly outer: number;
  readonly length: number;
  /** Wire length, m, without leads. */
  readonly wire: number;
  /** m: turn to turn along the coil, and layer to layer. */
  readonly pitch: number;
  readonly rise: number;
  /** m²: section of the conductor, and the diameter of a round one that has it. */
  readonly section: number;
  readonly round: number;
  /** m: radius of a round wire that has the self-inductance of this one. */
  readonly selfRadius: number;
  /** Share of the window that is metal. */
  readonly packing: number;
}

/** More turns than this are no coil that anybody winds by hand, and take long to sum. */
export const mostTurns = 20_000;

/** The metal that a choice names. */
export const metalIn = <K extends string>(own: { readonly choice: (field: K) => string }, field: K): WireMetal => {
  const metal = wireMetalById(own.choice(field)) ?? wireMetals[0];
  if (!metal) throw new Error('no metal is listed');
  return metal;
};

export const metalOf = (own: { readonly choice: (field: 'metal') => string }): WireMetal => metalIn(own, 'metal');

const refuse = (field: FieldId<'load'>, reason: string) => new Unavailable('load', reason, field);

/** The wire of a winding and how it lies on its former. */
export interface WoundWire {
  /** m that it takes along the coil and across it, with its insulation. */
  readonly along: number;
  readonly across: number;
  /** m² of metal. */
  readonly section: number;
  /** m: radius of a round wire that has the self-inductance of this one. */
  readonly selfRadius: number;
  /** m layer to layer. */
  readonly rise: number;
  /** m: diameter of the former. */
  readonly former: number;
}

/** The wire of a block that has the fields of a winding. */
export function wireOf(own: Own<typeof windingFields>): WoundWire {
  const build = own.optional('build')?.value ?? 0;
  const former = own.quantity('Df').value;
  if (own.is('section', 'strip')) {
    const [w, t] = [own.quantity('w').value, own.quantity('t').value];
    const across = t + 2 * build;
    const selfRadius = stripRadius(w, t);
    return { along: w + 2 * build, across, section: w * t, selfRadius, rise: across, former };
  }
  const d = own.quantity('d').value;
  const across = d + 2 * build;
  // In the grooves of the layer below a round wire rises by √3/2 of itself.
  const rise = across * (own.is('lay', 'grooves') ? Math.sqrt(3) / 2 : 1);
  return { along: across, across, section: (Math.PI / 4) * d * d, selfRadius: d / 2, rise, former };
}

/** Radius to the middle of the wire in a layer, m. */
const radiusIn = (wire: WoundWire, layer: number): number => wire.former / 2 + wire.across / 2 + layer * wire.rise;

/** Turns that a length of wire makes, layer upon layer. */
function turnsOfLength(wire: WoundWire, onHand: number, perLayer: number): number {
  let [left, turns] = [onHand, 0];
  for (let layer = 0; turns < mostTurns; layer++) {
    const round = 2 * Math.PI * radiusIn(wire, layer);
    const fit = Math.min(perLayer, Math.floor(left / round + 1e-9));
    turns += fit;
    left -= fit * round;
    if (fit < perLayer) break;
  }
  return turns;
}

/** So many turns of a wire on its former, over a length that takes at least one of them, layer upon layer. */
export function wound(wire: WoundWire, turns: number, length: number): Winding {
  const perLayer = Math.floor(length / wire.along + 1e-9);
  const count = Math.ceil(turns / perLayer);
  // A single layer that does not fill its length is spread over it; so are all layers where the wire leaves room.
  const pitch = count === 1 ? length / turns : length / perLayer;
  const layers = Array.from({ length: count }, (_, i): Layer => ({
    radius: radiusIn(wire, i),
    turns: Math.min(perLayer, turns - i * perLayer),
    first: -length / 2 + pitch / 2,
    pitch,
  }));
  const depth = wire.across + (count - 1) * wire.rise;
  return {
    turns,
    perLayer,
    layers,
    inner: wire.former,
    outer: wire.former + 2 * depth,
    length,
    wire: layers.reduce((sum, { radius: r, turns: n }) => sum + 2 * Math.PI * r * n, 0),
    pitch,
    rise: wire.rise,
    section: wire.section,
    round: Math.sqrt((4 * wire.section) / Math.PI),
    selfRadius: wire.selfRadius,
    packing: (turns * wire.section) / (length * depth),
  };
}

/**
 * The winding of a block that has its fields.
 *
 * @param turnsInstead turns, in place of those entered
 * @throws Unavailable where it cannot be wound, by the field that is in the way
 */
export function windingOf(own: Own<typeof windingFields>, turnsInstead: number | null = null): Winding {
  const wire = wireOf(own);
  const length = own.quantity('l').value;
  const perLayer = Math.floor(length / wire.along + 1e-9);
  if (perLayer < 1)
    throw refuse(
      own.is('section', 'strip') ? 'w' : 'd',
      `the wire is thicker than the window: it takes ${printQuantity(wire.along, 'm')} with its insulation, the winding is ${printQuantity(length, 'm')} long`,
    );
  const by = own.choice('by');
  const entered = (): number => {
    if (by === 'layers') return perLayer * own.quantity('m').value;
    return by === 'wire' ? turnsOfLength(wire, own.quantity('lw').value, perLayer) : own.quantity('N').value;
  };
  const turns = turnsInstead ?? entered();
  if (turns < 1)
    throw refuse('lw', `the wire available is too short for one turn of ${printQuantity(2 * Math.PI * radiusIn(wire, 0), 'm')}`);
  if (turns > mostTurns)
    throw refuse(
      by === 'layers' ? 'm' : by === 'wire' ? 'lw' : 'N',
      `it has ${turns} turns; at most ${mostTurns} are worked out`,
    );
  return wound(wire, turns, length);
}

/** Numbers of a winding for formulas. */
export const worked = (w: Winding) => ({
  N: ruled('turns', w.turns, '1', `${w.perLayer} to a layer, ${w.layers.length} ${w.layers.length === 1 ? 'layer' : 'layers'}`),
  D1: ruled('inner diameter of the winding', w.inner, 'm', 'diameter of the former'),
  D2: ruled('outer diameter of the winding', w.outer, 'm', `${w.layers.length} layers on the former`),
  l: ruled('winding length', w.length, 'm', 'as entered'),
  D: ruled('mean diameter', (w.inner + w.outer) / 2, 'm', 'to the middle of the winding'),
  m: ruled('layers', w.layers.length, '1', 'begun'),
  wire: ruled('wire', w.wire, 'm', 'every turn at its own diameter'),
  d: ruled('diameter of the conductor', w.round, 'm', 'of a round one of its section'),
  pitch: ruled('between turns', w.pitch, 'm', 'along the coil'),
});

/** Work that summing every pair of turns may be: beyond it a winding of so many turns is as good as filled evenly. */
const mostPairs = 60_000;

/** What was summed last, by all that it depends on: every corner of a rig asks for the same windings. */
const summed = new Map<string, number>();

function turnByTurn(w: Winding): number {
  const key = JSON.stringify([w.layers, w.selfRadius]);
  let L = summed.get(key);
  if (L === undefined) {
    L = layersInductance(w.layers, w.selfRadius);
    if (summed.size >= 200) summed.clear();
    summed.set(key, L);
  }
  return L;
}

/** Whether its inductance is summed turn by turn. */
export const isSummed = (w: Winding): boolean => w.layers.length ** 2 * w.perLayer <= mostPairs;

/** Inductance of a winding, H: of a single layer as a sheet, of more turn by turn, of very many as an evenly filled section. */
export function inductanceOf(w: Winding): Worked {
  const { N, D1, D2, D, l } = worked(w);
  if (w.layers.length === 1) return work(coilFormulas.solenoidInductance, { N, D, l }, 'inductance of the coil');
  if (!isSummed(w)) return work(coilFormulas.multilayerInductance, { N, D1, D2, l }, 'inductance of the coil');
  return ruled(
    'inductance of the coil',
    turnByTurn(w),
    'H',
    `every pair of its ${w.turns} turns as two coaxial loops, each turn as a loop of wire: Maxwell, A Treatise on Electricity and Magnetism, art. 701`,
  );
}

/**
 * Resistance of a winding of round wire in a pulse over that for DC, as the figure of a coil has it.
 *
 * @param f Hz that stands for the pulse
 */
export function pulseRatio(w: Winding, metal: WireMetal, f: number): number {
  const delta = coilLossFormulas.skinDepth.compute({ f, rho: metal.resistivity });
  const [d, p] = [w.round, Math.max(w.pitch, w.round)];
  return w.layers.length === 1
    ? coilLossFormulas.singleLayerRatio.compute({ d, delta, p, l: w.length, D: (w.inner + w.outer) / 2 })
    : coilLossFormulas.layerRatio.compute({ d, delta, p, m: w.layers.length });
}

/** Resistance of a winding at its temperature, Ω, for direct current. */
export function resistanceOf(w: Winding, metal: WireMetal, T: Worked): Worked {
  const { wire, d } = worked(w);
  return work(
    coilFormulas.wireResistance,
    {
      l: wire,
      d,
      rho: ruled(`resistivity of ${metal.title}`, metal.resistivity, 'Ω·m', metal.source),
      T,
      alpha: ruled('temperature coefficient', metal.temperatureCoefficient, 'K⁻¹', metal.source),
    },
    'resistance of the coil',
  );
}
