import type { BlockDefinition } from '../block/define.ts';
import { ProgramError } from '../formula/index.ts';
import { slots, type Desk, type DeskRoute, type Slot } from '../block/names.ts';
import { airOfTheDay } from './air/day.ts';
import { standard } from './air/standard.ts';
import { acTransformer } from './supply/ac-transformer.ts';
import { chokeAndResistor } from './tesla-coil/choke-resistor.ts';
import { rotaryGap } from './tesla-coil/rotary-gap.ts';
import { staticGap } from './tesla-coil/static-gap.ts';
import { tankCapacitor } from './tesla-coil/tank-capacitor.ts';
import { tankSecondary } from './tesla-coil/tank-secondary.ts';
import { batteryConverter } from './supply/battery-converter.ts';
import { benchSupply } from './supply/bench-supply.ts';
import { chargingChain, chargingChoke, holdOffChoke } from './charging/choke.ts';
import { chargingDiode } from './charging/diode.ts';
import { chargingResistor } from './charging/resistor.ts';
import { currentLoop } from './meter/current-loop.ts';
import { lineStore } from './pulse-line/line.ts';
import { pulseNetwork } from './pulse-line/network.ts';
import { contact } from './solid-state/contact.ts';
import { movingContact } from './solid-state/moving-contact.ts';
import { transistor } from './solid-state/transistor.ts';
import { tube } from './solid-state/tube.ts';
import { capacitorBank } from './bank/capacitor-bank.ts';
import { dcSource } from './supply/dc-source.ts';
import { directCharging } from './charging/direct.ts';
import { noDump } from './bleed/no-dump.ts';
import { relayDump } from './bleed/relay-dump.ts';
import { switchedBleeder } from './bleed/switched-bleeder.ts';
import { elementBleeders } from './bleed/element-bleeders.ts';
import { dischargeTool } from './bleed/discharge-tool.ts';
import { lampTool } from './bleed/lamp-tool.ts';
import { driver } from './supply/driver.ts';
import { guarded } from './guard/guarded.ts';
import { noGuard } from './guard/no-guard.ts';
import { marx } from './marx/marx.ts';
import { mainsTransformer } from './supply/mains-transformer.ts';
import { multiplier } from './supply/multiplier.ts';
import { diodeCrowbar } from './crowbar/diode.ts';
import { gapCrowbar } from './crowbar/gap.ts';
import { noCrowbar } from './crowbar/no-crowbar.ts';
import { busBars } from './leads/bus-bars.ts';
import { cable } from './leads/cable.ts';
import { noLeads } from './leads/no-leads.ts';
import { divider } from './meter/divider.ts';
import { movementMeter } from './meter/movement.ts';
import { noMonitor } from './meter/no-monitor.ts';
import { rogowski } from './meter/rogowski.ts';
import { shunt } from './meter/shunt.ts';
import { noBleeder } from './bleed/no-bleeder.ts';
import { permanentBleeder } from './bleed/permanent-bleeder.ts';
import { resistorInductor } from './load/resistor-inductor.ts';
import { coil } from './coil/coil.ts';
import { coilgunStage } from './coil/coilgun-stage.ts';
import { canCrusher } from './coil/can-crusher.ts';
import { dummyResistor } from './load/dummy-resistor.ts';
import { explodingWire } from './load/exploding-wire.ts';
import { openTerminal } from './load/open-terminal.ts';
import { gasChannel } from './load/gas-channel.ts';
import { pulseTransformer } from './load/pulse-transformer.ts';
import { secondCapacitor } from './load/second-capacitor.ts';
import { waterResistor } from './load/water-resistor.ts';
import { sparkToEarth } from './load/spark-to-earth.ts';
import { sparkGap } from './gap/spark-gap.ts';
import { thyristor } from './solid-state/thyristor.ts';
import { handRod } from './gap/hand-rod.ts';
import { gateDrive } from './solid-state/gate-drive.ts';
import { noTrigger } from './gap/no-trigger.ts';
import { triggerGenerator } from './gap/trigger-generator.ts';
import { voltmeter } from './meter/voltmeter.ts';

/** Every kind of block; the first of each slot is what a new rig starts with. A new kind is one line here. */
export const blockDefinitions: readonly BlockDefinition[] = [
  dcSource,
  benchSupply,
  batteryConverter,
  mainsTransformer,
  acTransformer,
  driver,
  multiplier,
  chargingResistor,
  chargingDiode,
  directCharging,
  chargingChoke,
  holdOffChoke,
  chargingChain,
  chokeAndResistor,
  capacitorBank,
  pulseNetwork,
  lineStore,
  marx,
  tankCapacitor,
  contact,
  sparkGap,
  thyristor,
  transistor,
  tube,
  movingContact,
  staticGap,
  rotaryGap,
  noLeads,
  busBars,
  cable,
  noCrowbar,
  diodeCrowbar,
  gapCrowbar,
  noDump,
  relayDump,
  noTrigger,
  triggerGenerator,
  gateDrive,
  handRod,
  resistorInductor,
  coil,
  coilgunStage,
  canCrusher,
  explodingWire,
  dummyResistor,
  waterResistor,
  secondCapacitor,
  gasChannel,
  pulseTransformer,
  sparkToEarth,
  openTerminal,
  tankSecondary,
  permanentBleeder,
  switchedBleeder,
  elementBleeders,
  noBleeder,
  dischargeTool,
  lampTool,
  voltmeter,
  movementMeter,
  divider,
  noMonitor,
  shunt,
  currentLoop,
  rogowski,
  noGuard,
  guarded,
  standard,
  airOfTheDay,
];

export const kindsOf = (slot: Slot): readonly BlockDefinition[] => blockDefinitions.filter((d) => d.slot === slot);

const declaredPaths = new Set(blockDefinitions.flatMap((d) => Object.keys(d.fields).map((id) => `${d.slot}.${id}`)));

/** @throws ProgramError where no kind of block has the field that a path such as `store.C` names */
export function checkPath(path: string): void {
  if (!declaredPaths.has(path)) throw new ProgramError(`no kind of block declares a field ${path}`);
}

const byPlace = new Map(
  blockDefinitions.map(({ slot }) => [
    slot,
    new Map(blockDefinitions.flatMap((d) => (d.slot === slot ? [[d.kind, d] as const] : []))),
  ]),
);

/** @throws Error where no such kind is registered; the file schema lets none through */
export function blockDefinition(slot: Slot, kind: string): BlockDefinition {
  const found = byPlace.get(slot)?.get(kind);
  if (!found) throw new Error(`no ${slot} of kind ${kind}`);
  return found;
}

export const slotTitles: { readonly [K in Slot]: string } = {
  supply: 'Supply',
  charging: 'Charging',
  store: 'Store',
  switch: 'Switch',
  trigger: 'Trigger',
  crowbar: 'Crowbar',
  leads: 'Leads',
  load: 'Load',
  bleeder: 'Bleeder',
  dump: 'Dump',
  tool: 'Discharge stick',
  meter: 'Meter',
  monitor: 'Current monitor',
  guard: 'Guard',
  air: 'Air',
};

/** Every desk that some kind brings with it, once, in the order of the line. */
export const allDesks: readonly Desk[] = [...new Set(slots.flatMap((slot) => kindsOf(slot).flatMap(({ desks }) => desks ?? [])))];

/** @throws ProgramError where no kind brings it */
export function deskOf(route: DeskRoute): Desk & { readonly kinds: readonly BlockDefinition[] } {
  const kinds = blockDefinitions.filter(({ desks }) => desks?.some((desk) => desk.route === route));
  const desk = allDesks.find((one) => one.route === route);
  if (!desk) throw new ProgramError(`no kind of block brings a desk ${route}`);
  return { ...desk, kinds };
}

/** The kind of store that composed groups of parts make up: the one that stands there if it can be, else the first that can. */
export function groupedStore(standing: string): BlockDefinition {
  const all = kindsOf('store').filter(({ isOfGroups }) => isOfGroups);
  const found = all.find(({ kind }) => kind === standing) ?? all[0];
  if (!found) throw new ProgramError('no kind of store is made up of groups');
  return found;
}
