import {
  bleedGoal,
  bleedThrough,
  highestVoltage,
  goalBeside,
  slots,
  Unavailable,
  type RigContext,
  type ToolPart,
  type FigureId,
} from '../../block/index.ts';
import { blockDefinition } from '../../kind/index.ts';
import { Corners, ifKnown, type RigReading } from '../../figure/index.ts';
import { bleedFormulas, isTypical, ruled, work, type Worked } from '../../formula/index.ts';
import { dischargeRulesFor, type DischargeRule } from '../../hazard/index.ts';
import { absorptions } from '../../material/index.ts';
import type { UnitId } from '../../quantity/index.ts';
import { blockIn, type Rig } from '../../rig/index.ts';
import { bleedTraces, oneOpenOf, type Trace } from '../../simulate/index.ts';

/** One way in which the store loses its charge, and how long it takes. */
export interface BleedWay {
  readonly id: 'bleeder' | 'one-open' | 'open' | 'dump' | 'tool';
  readonly title: string;
  readonly worked: Worked;
  /** s to the voltage that is aimed at, nominal and at the worst corner. */
  readonly nominal: number;
  readonly worst: number;
}

/** Charge that the terminals do not show. */
export interface HeldThere {
  readonly title: string;
  /** V across it at most, and at the worst corner. */
  readonly V: Worked;
  readonly worst: number;
  /** V that it goes below before it is strapped. */
  readonly goal: number;
  readonly through: string;
  /** s to its goal by what takes it down by itself, nominal and at the worst corner; null where nothing known does. */
  readonly time: { readonly worked: Worked; readonly worst: number } | null;
  readonly then: string;
}

/** A published rule beside what this rig does. */
export interface RuleAnswer {
  readonly rule: DischargeRule;
  /** s through the bleeder, nominal and at the worst corner; null where there is none. */
  readonly nominal: number | null;
  readonly worst: number | null;
  readonly isMet: boolean;
}

export interface BleedStudy {
  /** V: what it is charged to, and the most that can stand there. */
  readonly charged: number;
  readonly highest: number;
  /** V and words of what is aimed at. */
  readonly goal: { readonly voltage: number; readonly text: string };
  readonly ways: readonly BleedWay[];
  readonly rules: readonly RuleAnswer[];
  readonly traces: readonly Trace[];
  readonly held: readonly HeldThere[];
  /** The dielectric of this store, where it is known. */
  readonly dielectric: string | null;
  /** V that may come back after a discharge, by dielectric. */
  readonly rebounds: readonly { readonly id: string; readonly title: string; readonly low: number; readonly high: number }[];
  /** What the tool is made of and what is written on it, line by line. */
  readonly card: readonly string[];
  /** Its parts as they are wired, from the tip to the lead on the earthed side. */
  readonly tool: readonly ToolPart[];
}

/** A number of the rig at its nominal and its worst corner; null where it cannot be had. */
function spanOf(corners: Corners, of: (reading: RigReading) => Worked) {
  return ifKnown(() => {
    const worked = of(corners.nominal());
    return { worked, nominal: worked.value, worst: corners.bandOf(of).high };
  });
}

/** Time to a voltage through the bleeder; nothing in a corner where it is not charged above that. */
const toVoltage = (V: number) => (reading: RigContext) => {
  const charged = reading.offer('chargedTo');
  const target = V < charged.value ? ruled('voltage of the rule', V, 'V', 'as published') : charged;
  return bleedThrough(reading, reading.offer('bleedResistance'), target, 'time of the rule');
};

/** With one resistor of the bleeder open. @throws Unavailable where that leaves no way */
function throughOneOpen(reading: RigReading, rig: Rig, goal: Worked): Worked {
  const left = oneOpenOf(reading, rig);
  if (!left) throw new Unavailable('bleeder', 'one string open leaves none');
  const { title, R, V0 } = left;
  if (reading.offers('store').ladder) return bleedThrough(reading, R, goal, title);
  return work(bleedFormulas.rcBleedTime, { R, C: reading.offer('capacitance'), V0, V: goal.value < V0.value ? goal : V0 }, title);
}

/** What holds charge beside the store, block by block. */
function heldOf(rig: Rig, corners: Corners): HeldThere[] {
  const nominal = corners.nominal();
  return slots.flatMap((slot) => {
    const { held } = blockDefinition(slot, blockIn(rig, slot).kind);
    if (!held) return [];
    const all = (reading: RigReading) => held(reading.ownOf(slot), reading);
    return (ifKnown(() => all(nominal)) ?? []).map(({ title, V, E1, through, R, then }, i): HeldThere => {
      const at = (reading: RigReading) => all(reading)[i];
      const there = (reading: RigReading) => at(reading)?.V ?? V;
      const time = (reading: RigReading): Worked => {
        const one = at(reading);
        if (!one?.R || !one.C) throw new Unavailable(slot, 'nothing known discharges it');
        return work(bleedFormulas.rcBleedTime, { R: one.R, C: one.C, V0: one.V, V: goalBeside(one.V, one.E1) }, title);
      };
      const span = R ? spanOf(corners, time) : null;
      return {
        title,
        V,
        worst: corners.bandOf(there).high,
        goal: goalBeside(V, E1).value,
        through,
        time: span && { worked: span.worked, worst: span.worst },
        then,
      };
    });
  });
}

type Print = (value: number, unit: UnitId) => string;

const toolOf = (rig: Rig, reading: RigReading) =>
  blockDefinition('tool', blockIn(rig, 'tool').kind).wired?.(reading.ownOf('tool')) ?? [];

function cardOf(rig: Rig, corners: Corners, highest: number, print: Print): string[] {
  const reading = corners.nominal();
  const worst = (id: FigureId) => corners.bandOf((at) => at.figure(id)).high;
  const own = reading.own('tool');
  const [R, n] = [own.quantity('R').value, own.quantity('n').value];
  const [V, E] = [own.optional('V'), own.optional('E')];
  const lamps = toolOf(rig, reading).some((part) => part.kind === 'lamp');
  return [
    `${n} × ${print(R, 'Ω')} in series: ${print(reading.offer('toolResistance').value, 'Ω')} in all`,
    `each ${V ? `for ${print(V.value, 'V')}` : 'of a working voltage that is not given'}, it sees ${print(highest / n, 'V')}; ${E ? `takes ${print(E.value, 'J')} a pulse` : 'its pulse energy is not given'}, gets, worst case, ${print(worst('tool-energy'), 'J')}`,
    `at first touch, worst case ${print(worst('tool-peak-power'), 'W')} in all of them`,
    // Field along a dry clean body: common practice, no source.
    `in a tube of insulation: from tip to handle at least ${print(Math.max(0.3, highest / 50e3), 'm')}, from end to end of the resistors at least ${print(highest / 300e3, 'm')}`,
    ...(lamps
      ? [
          own.is('wiring', 'branch')
            ? `beside them ${print(own.quantity('Rb').value, 'Ω')} to a clamp of ${print(own.quantity('Vz').value, 'V')}, across it ${print(own.quantity('Rl').value, 'Ω')} and two lamps in inverse parallel`
            : `in their row ${print(own.quantity('Rp').value, 'Ω')} under a clamp of ${print(own.quantity('Vz').value, 'V')}, across it ${print(own.quantity('Rl').value, 'Ω')} and two lamps in inverse parallel`,
          `at first touch an LED has, worst case, ${print(worst('lamp-current'), 'A')}, the clamp ${print(worst('clamp-power'), 'W')}, and ${print(worst('clamp-energy'), 'J')} over the discharge`,
          `the LED goes out while, worst case, ${print(worst('lamp-out'), 'V')} are left, plus or minus: that is not empty`,
        ]
      : []),
    `label: DISCHARGE STICK ${print(reading.offer('toolResistance').value, 'Ω')} · NOT ABOVE ${print(n * (V?.value ?? highest / n), 'V')} · VERIFY WITH A METER, THEN STRAP`,
  ];
}

/**
 * All that takes the charge off the store of a rig: how long each way takes, what published rules say to it, the recovery voltage, and
 * the tool as it is built.
 *
 * @param print how a number is written
 * @throws Unavailable, FormulaError where the rig has no store to discharge
 */
export function bleedStudy(rig: Rig, print: Print): BleedStudy {
  const corners = new Corners(rig);
  const nominal = corners.nominal();
  const goal = bleedGoal(nominal);
  const charged = nominal.offer('chargedTo').value;
  const highest = highestVoltage(nominal);
  const rated = nominal.offers('store').ratedVoltage?.value ?? charged;
  const wayFigures = { bleeder: 'bleed-time', open: 'bleed-time-open', dump: 'dump-time', tool: 'tool-time' } as const;
  const figured = (id: keyof typeof wayFigures) => (reading: RigReading) => reading.figure(wayFigures[id]);
  const wayOf = (id: BleedWay['id'], title: string, of: (reading: RigReading) => Worked): BleedWay[] => {
    const span = spanOf(corners, of);
    return span ? [{ id, title, ...span }] : [];
  };
  const oneOpen = oneOpenOf(nominal, rig);
  const ways = [
    ...wayOf('bleeder', 'Bleeder', figured('bleeder')),
    ...(oneOpen ? wayOf('one-open', oneOpen.title, (reading) => throughOneOpen(reading, rig, goal.voltage)) : []),
    ...wayOf(
      'open',
      `Bleeder open, by leakage alone${isTypical(nominal.offer('insulation')) ? ', not measured' : ''}`,
      figured('open'),
    ),
    ...(nominal.offers('dump').dumpResistance ? wayOf('dump', 'Dump, bleeder open', figured('dump')) : []),
    ...wayOf('tool', 'Discharge stick, bleeder open', figured('tool')),
  ];
  return {
    charged,
    highest,
    goal: { voltage: goal.voltage.value, text: goal.text },
    ways,
    rules: dischargeRulesFor(rated).map((rule): RuleAnswer => {
      // Where it can never stand above the voltage of the rule, there is nothing to wait for.
      const span = highest <= rule.voltage ? { nominal: 0, worst: 0 } : spanOf(corners, toVoltage(rule.voltage));
      return {
        rule,
        nominal: span?.nominal ?? null,
        worst: span?.worst ?? null,
        isMet: span !== null && span.worst <= rule.within,
      };
    }),
    traces: bleedTraces(rig).traces,
    held: heldOf(rig, corners),
    dielectric: nominal.offers('store').absorption?.id ?? null,
    rebounds: absorptions.map(({ id, title, low, high }) => ({ id, title, low: low * highest, high: high * highest })),
    card: cardOf(rig, corners, highest, print),
    tool: toolOf(rig, nominal),
  };
}
