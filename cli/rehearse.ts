import { evaluateRig } from '@vast-surge/core/evaluation';
import { clashOf, faultIds, play, playedWords, type FaultId } from '@vast-surge/core/rehearsal';
import type { RigDocument } from '@vast-surge/core/rig';
import { planOf } from '@vast-surge/core/run';
import type { Desk } from './desks.ts';
import { UsageError } from './usage.ts';

export interface RehearseOptions {
  readonly pace?: string;
  readonly fault: readonly string[];
  readonly seed: string;
}

/** @throws UsageError for a pace that is none */
function paceOf(text: string | undefined): number | null {
  if (text === undefined) return null;
  const pace = text.trim() === '' ? NaN : Number(text);
  if (pace >= 2 && pace <= 60) return pace;
  throw new UsageError(`--pace is "${text.slice(0, 40)}"; it must be a number of seconds from 2 to 60.`);
}

const isFault = (name: string): name is FaultId => (faultIds as readonly string[]).includes(name);

/** @throws UsageError for a fault that is none, and for two that exclude each other */
function faultsFrom(names: readonly string[]): FaultId[] {
  const faults = [...new Set(names)].map((name) => {
    if (isFault(name)) return name;
    throw new UsageError(`--fault is "${name.slice(0, 40)}"; it must be one of ${faultIds.join(', ')}.`);
  });
  const clash = clashOf(faults);
  if (clash) throw new UsageError(`--fault ${clash[0]} and --fault ${clash[1]} cannot be in one rehearsal.`);
  return faults;
}

function seedOf(text: string): number {
  const seed = Number(text);
  if (Number.isInteger(seed) && seed >= 1 && seed <= 999_999) return seed;
  throw new UsageError(`--seed is "${text.slice(0, 40)}"; it must be a whole number from 1 to 999999.`);
}

/** @throws UsageError where an option is wrong */
export function rehearse(document: RigDocument, options: RehearseOptions): Desk {
  const playing = { pace: paceOf(options.pace), faults: faultsFrom(options.fault), seed: seedOf(options.seed) };
  const made = planOf(document.name, evaluateRig(document.rig), document.sheet);
  if (!made.ok) {
    const data = {
      executable: false,
      unexecutable: [{ step: 'sheet', reason: made.reason }],
      fired: false,
      voltageAtShot: null,
      band: null,
      inBand: false,
      worstHandEnergy: 0,
      contacts: [],
      seconds: 0,
    };
    return { data, text: `No run sheet can be made of this rig. ${made.reason}` };
  }
  const played = play(made.plan, playing);
  return { data: played, text: playedWords(played) };
}
