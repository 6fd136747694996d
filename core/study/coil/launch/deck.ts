import { freewheelOf } from '../../../block/index.ts';
import { netlistText, recordedCoil, type Element, type Netlist } from '../../../circuit/index.ts';
import type { Scene } from '../../../block/index.ts';
import { ifKnown, RigReading } from '../../../figure/index.ts';
import { launch, type LaunchRun } from '../../../model/launch/index.ts';
import { inChannel, type Rig } from '../../../rig/index.ts';
import { sceneNetlist } from '../../../simulate/index.ts';
import { firingOf } from './study.ts';
import { launchSetup, longestOf, outOf, specOf, type LaunchSetup } from './setup.ts';

/** A current below this share of its peak has ended: there flux over current says nothing any more. */
const ended = 1e-3;
/** Points of a record. */
const mostPoints = 2000;

/**
 * Inductance of the loop of one coil over time, as the launch made it: what its loop was driven by, integrated since it fired, over its
 * current. All that moves, saturates or is shared with other coils is in it.
 */
function recordOf(setup: LaunchSetup, run: LaunchRun, s: number): [number, number][] {
  const coil = setup.coils[s];
  const i = run.i[s] ?? new Float64Array();
  const V = run.V[s] ?? new Float64Array();
  if (!coil) throw new Error(`no coil ${s + 1}`);
  const of = (what: 'fires' | 'freewheels') => run.events.find((e) => e.stage === s && e.what === what)?.t ?? Infinity;
  const [fires, wheels] = [of('fires'), of('freewheels')];
  const peak = i.reduce((most, x) => Math.max(most, x), 0);
  const { freewheel, Vt } = coil;
  const drive = (k: number): number => {
    const current = i[k] ?? 0;
    if ((run.t[k] ?? 0) < wheels || !freewheel) return (V[k] ?? 0) - coil.R * current - Vt;
    return -(coil.R + freewheel.R) * current - Vt - freewheel.Vf;
  };
  const record: [number, number][] = [];
  let flux = 0;
  for (let k = 1; k < run.t.length; k++) {
    const [t0, t1] = [run.t[k - 1] ?? 0, run.t[k] ?? 0];
    if (t1 <= fires) continue;
    flux += ((t1 - t0) * (drive(k - 1) + drive(k))) / 2;
    const L = flux / (i[k] ?? 0);
    if ((i[k] ?? 0) > 0.02 * peak && L > 0 && Number.isFinite(L)) record.push([t1, L]);
    else if ((i[k] ?? 0) <= ended * peak && record.length > 0) break;
  }
  // Before there is enough current to tell, it is what it is then.
  const [first] = record;
  const whole: [number, number][] = first ? [[0, first[1]], ...record] : [[0, coil.L]];
  const every = Math.ceil(whole.length / mostPoints);
  return whole.filter((_, k) => k % every === 0 || k === whole.length - 1);
}

/** The circuit of a launcher with its inductances as they were recorded; null where the rig is no launcher. */
export function launchNetlist(rig: Rig, name: string): { netlist: Netlist; until: number } | null {
  const setup = launchSetup(rig);
  if (!setup) return null;
  const fire = firingOf(setup);
  const run = launch(specOf(setup, fire), { until: longestOf(setup), beyond: outOf(setup), tolerance: 1e-9 });
  const channels = new RigReading(inChannel(rig, 0)).channels();
  let until = 0;
  const elements = setup.coils.flatMap(({ C, V0, R, Vt }, s): Element[] => {
    const wheel = channels[s] && freewheelOf(channels[s]);
    const ESR = Math.max(channels[s]?.offers('store').loopResistance?.value ?? 0, 1e-6);
    const at = (node: string) => (s === 0 ? node : `${node}${s + 1}`);
    const fires = run.events.find((e) => e.stage === s && e.what === 'fires')?.t;
    const store: Element[] = [
      { kind: 'capacitor', name: at('Cst'), nodes: [at('bankc'), '0'], C, V0 },
      { kind: 'resistor', name: at('Rst'), nodes: [at('bankc'), at('bank')], R: ESR },
    ];
    if (fires === undefined) return store;
    const record = recordOf(setup, run, s);
    // A hundredth of the loop stands for the switch: next to none would be stiff for nothing.
    const Ron = Math.max(R / 100, 1e-6);
    until = Math.max(until, (record.at(-1)?.[0] ?? 0) * 1.1);
    return [
      ...store,
      {
        kind: 'thyristor',
        name: at('Xsw'),
        nodes: [at('bank'), at('out')],
        Vf: Vt,
        Ron,
        gate: { from: fires, until: 1e9 },
        latching: 0,
        holding: 0,
        turnOff: 0,
      },
      recordedCoil(at('Lld'), [at('out'), at('ldr')], record),
      { kind: 'resistor', name: at('Rld'), nodes: [at('ldr'), '0'], R: Math.max(R - ESR - Ron, 1e-6) },
      ...(wheel
        ? [{ kind: 'diode', name: at('Dld'), nodes: ['0', at('bank')], Vf: wheel.Vf.value, Ron: wheel.R.value } as const]
        : []),
    ];
  });
  return { netlist: { title: `${name}: discharge, inductances as the launch made them`, elements }, until };
}

/** The circuit of a scene of a rig as a deck that runs as it is; of a launcher with what moves in it. Null where a value is missing. */
export function rigDeck(rig: Rig, name: string, of: Scene['of']): string | null {
  const made = of === 'discharge' ? ifKnown(() => launchNetlist(rig, name)) : null;
  return made ? netlistText(made.netlist, { until: made.until }) : sceneNetlist(rig, name, of);
}
