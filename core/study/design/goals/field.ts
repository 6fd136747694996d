import { quantity, within } from '../../../field/index.ts';
import { surroundings } from '../../../kind/index.ts';
import { awgDiameter } from '../../../quantity/index.ts';
import { choiceOf, labelOf, type Kept } from '../../../part/index.ts';
import { blockIn, withBlock, type Rig } from '../../../rig/index.ts';
import { banksOf, familiesOf, withShelfBank, withStockBank } from '../banks.ts';
import type { AtHand, DesignGoal, Draft, DraftBank } from '../goal.ts';
import { capacitorClass, capacitorClasses } from '../stock.ts';
import { figureMeasure, figureOf, made, pulseWidth, switchSettings, upTo3, voltageFor, withVoltage } from '../rigs.ts';

/** A winding that is tried. SI. */
interface Winding {
  readonly d: number;
  readonly l: number;
  readonly layers: number;
  readonly N: number;
}

/** m of insulation on each side of a wire. */
const build = (d: number): number => Number((d * 0.05).toPrecision(2));
const gauges = [4, 6, 8, 10, 12, 14, 16, 18];
/** V, of a diode that is sold. */
const diodeBears = 4000;
/** Pa, about. */
const copperYields = 70e6;
/** Drafts that are made of a bank: those with the least energy by a rough sum come first. */
const ofEach = 16;
const most = 240;

/** Wires that are tried: gauges that are sold, and what lies on the shelf, of which there is only so much. */
const wiresOf = (shelf: readonly Kept[]): { d: number; length: number; id: string }[] => [
  ...gauges.map((n) => ({ d: awgDiameter(n), length: Infinity, id: '' })),
  ...shelf.flatMap(({ id, part }) => {
    const [d, length] = [labelOf(part, 'd'), labelOf(part, 'length')];
    const isWound = part.kind === 'wire' && part.condition === 'good' && d !== null && length !== null && d < 6e-3;
    return isWound ? [{ d, length, id }] : [];
  }),
];

/** H, T per A and m of wire by plain sums (Wheeler for a short coil of layers), to sort drafts by and for nothing else. */
function roughly({ d, l, layers, N }: Winding, D: number): { L: number; perAmp: number; wire: number; R: number } {
  const depth = layers * (d + 2 * build(d));
  const mean = D + depth;
  const mu = 4e-7 * Math.PI;
  const L = (mu * N ** 2 * Math.PI * (mean / 2) ** 2) / (l + 0.45 * mean + 0.64 * depth) + 0.8e-6;
  const wire = Math.PI * mean * N;
  return { L, perAmp: (mu * N) / Math.hypot(l, mean), wire, R: (1.9e-8 * wire) / ((Math.PI * d ** 2) / 4) + 0.01 };
}

function windings(D: number, shelf: readonly Kept[]): (Winding & { id: string })[] {
  return wiresOf(shelf).flatMap(({ d, length, id }) =>
    [1, 1.6, 2.4].flatMap((ratio) =>
      [1, 2, 3, 4].flatMap((layers) => {
        const l = Number((ratio * D).toPrecision(2));
        const perLayer = Math.floor(l / (d + 2 * build(d)));
        const winding = { d, l, layers, N: perLayer * layers };
        return perLayer < 4 || roughly(winding, D).wire > length ? [] : [{ ...winding, id }];
      }),
    ),
  );
}

/** What a winding and a bank would take, by plain sums: F, V and J; null where the bank cannot give it. */
function estimate(winding: Winding, bank: DraftBank, D: number, B: number, t: number) {
  const { L, perAmp, R } = roughly(winding, D);
  const I = B / perAmp;
  // Hoop stress of a winding that bears itself, against what copper yields at: what is far beyond is not tried.
  const stress = (B ** 2 / (8e-7 * Math.PI)) * (D / 2 / (winding.layers * winding.d));
  if (stress > 1.1 * copperYields) return null;
  // Above half of its peak for two thirds of half a period.
  const least = (1.5 * t) ** 2 / Math.PI ** 2 / L;
  const C = bank.from === 'shelf' ? bank.C : least;
  if (C < least * 0.7) return null;
  const loss = Math.exp((Math.PI / 4) * R * Math.sqrt(C / L));
  const V = I * Math.sqrt(L / C) * Math.min(loss, 50);
  const Vmax = bank.from === 'shelf' ? bank.V : Math.min(25e3, capacitorClass(bank.class).Vmax * 12);
  return V > Vmax || V < 15 ? null : { C, V, E: 0.5 * C * V ** 2 };
}

const settingsOf = (V: number, C: number, winding: Winding, D: number, B: number, switched: string, isClamped: boolean) => ({
  ...surroundings({ V, C }),
  ...switchSettings(switched, V),
  ...(isClamped ? { crowbar: { kind: 'diode', fields: { nd: Math.ceil((V * 1.5) / diodeBears) } } } : {}),
  load: {
    kind: 'coil',
    fields: { Df: D, l: winding.l, d: winding.d, build: build(winding.d), N: winding.N, Bs: B },
  },
});

const windingIn = ({ more }: Draft): Winding => ({
  d: Number(more['d']),
  l: Number(more['l']),
  layers: Number(more['layers']),
  N: Number(more['N']),
});

/** Whether a bank is kept from ringing by a diode across the coil: electrolytics bear no reversal, films for DC links hardly any. */
function bearsNoReversal(bank: DraftBank, shelf: readonly Kept[]): boolean {
  if (bank.from === 'stock') return capacitorClass(bank.class).reversal < 0.5;
  const part = shelf.find(({ id }) => id === bank.ids[0])?.part;
  return part === undefined || ['electrolytic', 'film'].includes(choiceOf(part, 'dielectric'));
}

/** The coil wound of a reel of the shelf. */
function withReel(rig: Rig, id: string, shelf: readonly Kept[]): Rig {
  const reel = shelf.find((kept) => kept.id === id);
  return reel ? withBlock(rig, 'load', { ...blockIn(rig, 'load'), parts: [{ id, tag: reel.part.tag }] }) : rig;
}

function bankInto(bank: DraftBank, C: number, V: number, { shelf, margin }: AtHand): (rig: Rig) => Rig | null {
  return (rig) => {
    const at = withVoltage(rig, V);
    return bank.from === 'shelf'
      ? (withShelfBank(at, 'store', bank, shelf)?.rig ?? null)
      : withStockBank(at, 'store', bank.class, C, V, margin);
  };
}

/** A field in a bore for a time. */
export const fieldGoal: DesignGoal = {
  id: 'field',
  title: 'A field in a bore',
  says: 'A coil and a bank that give a field at its centre, above half of it for a time.',
  asks: {
    B: quantity('Field at the centre', 'T', within(0.05, 20), '4 T'),
    t: quantity('Above half of it for', 's', within(5e-6, 20e-3), '100 µs'),
    D: quantity('Bore', 'm', within(4e-3, 0.2), '36 mm'),
  },
  drafts: (wishes, { shelf }) => {
    const [B, t, D] = [Number(wishes['B']), Number(wishes['t']), Number(wishes['D'])];
    const all = windings(D, shelf);
    const ofShelf = familiesOf(shelf).flatMap((family) =>
      Array.from({ length: Math.min(family.pieces.length, 12) }, (_, k) => k + 1).flatMap((ns) => banksOf(family, ns)),
    );
    // Of picofarads nobody builds a bank.
    const classes = capacitorClasses.filter(({ Cmax }) => Cmax > 1e-6);
    const banks: DraftBank[] = [...ofShelf, ...classes.map(({ id }) => ({ from: 'stock', class: id }) as const)];
    const found = banks.flatMap((bank) =>
      all
        .flatMap((winding) => {
          const about = estimate(winding, bank, D, B, t);
          return about ? [{ bank, winding, ...about }] : [];
        })
        .sort((a, b) => a.E - b.E)
        .slice(0, ofEach),
    );
    return found
      .sort((a, b) => a.E - b.E)
      .slice(0, most)
      .map(({ bank, winding: { id, ...winding }, V, C }): Draft => {
        const isClamped = bearsNoReversal(bank, shelf);
        const switched = V > 3000 ? 'spark-gap' : isClamped ? 'thyristor' : 'thyristor-pair';
        return { bank, more: { ...winding, reel: id, V, C, switch: switched, clamp: isClamped ? 'diode' : 'none' } };
      });
  },
  make: (wishes, draft, at) => {
    const [B, t, D] = [Number(wishes['B']), Number(wishes['t']), Number(wishes['D'])];
    const { bank, more } = draft;
    const winding = windingIn(draft);
    const switched = String(more['switch']);
    const reel = String(more['reel']);
    const isClamped = more['clamp'] === 'diode';
    let C = Number(more['C']);
    let V = Number(more['V']);
    const rigAt = (volts: number, by: string) =>
      made(settingsOf(volts, C, winding, D, B, by, isClamped), bankInto(bank, C, volts, at), at.margin);
    // The voltage follows from the capacitance, and the time for which the field stands from both. A gap would fire before a voltage that is tried.
    const silent = isClamped ? 'thyristor' : 'thyristor-pair';
    for (let round = 0; round < 5; round++) {
      const tried = rigAt(V, silent);
      if (!tried.ok) return tried;
      V = voltageFor(tried.rig, (one) => figureOf(one, 'coil-field'), B, V / 8, V * 8);
      if (!(V > 10 && V < 40e3)) return { ok: false, reason: 'no voltage of this bank gives the field in this coil' };
      if (bank.from === 'shelf') break;
      const lasts = pulseWidth(withVoltage(tried.rig, V));
      if (!Number.isFinite(lasts)) return { ok: false, reason: 'the field does not come down again while it is looked at' };
      // With a diode it dies slowly: a smaller bank at a higher voltage is no gain.
      if (lasts >= t && (isClamped || lasts < t * 1.06)) break;
      C *= Math.min(2.5, Math.max(0.4, ((t * 1.02) / lasts) ** 1.5));
    }
    let finished = rigAt(upTo3(V), switched);
    // What the switch that it gets takes off.
    for (let round = 0; round < 2 && finished.ok; round++) {
      const B1 = figureOf(finished.rig, 'coil-field');
      if (!(B1 > 0) || B1 >= B) break;
      V *= (B / B1) * 1.002;
      finished = rigAt(upTo3(V), switched);
    }
    return finished.ok ? { ok: true, rig: withReel(finished.rig, reel, at.shelf) } : finished;
  },
  measures: (wishes) => [
    figureMeasure('coil-field', { title: 'Field at the centre', unit: 'T', wish: 'B', least: Number(wishes['B']) }),
    { title: 'Above half of it for', unit: 's', wish: 't', least: Number(wishes['t']), of: pulseWidth },
  ],
};
