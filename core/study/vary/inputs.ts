import { ProgramError, type FigureId } from '../../block/index.ts';
import { givens, type Given, type Worked } from '../../formula/index.ts';
import { ifKnown, RigReading, shotLeaf, type Scattered, type ShotDrawn } from '../../figure/index.ts';
import { limitSpecs } from '../../limit/index.ts';
import { channelOf, endsAt, fieldName, inChannel, type Rig } from '../../rig/index.ts';
import { tightestLimit } from './outputs.ts';

/** A field that is known to a tolerance. */
export interface Uncertain {
  readonly path: string;
  readonly title: string;
  /** SI, with its ends. */
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

/** How a reading gives what is asked: a number by its tree, or several of which the greatest counts. */
export interface Asked {
  readonly id: string;
  of(reading: RigReading): readonly Worked[];
  /** What its trees come to. */
  join(values: readonly number[]): number;
}

/** Limits that each channel of a rig may have, by the names that the ladder of the whole rig has for them. */
const namedLimits = (rig: Rig) => {
  const front = channelOf(rig);
  return rig.channels.map((_, k) =>
    limitSpecs(inChannel(rig, k)).map((spec) => ({ name: `limit:${spec.id}${k === front ? '' : `-of-${k + 1}`}`, spec })),
  );
};

/** Names of all limits that a rig of these kinds may have, whatever stands in its fields. */
export const limitNames = (rig: Rig): string[] => namedLimits(rig).flatMap((named) => named.map(({ name }) => name));

/** @throws ProgramError where no kind of the rig declares a limit that was judged */
export function limitPlace(names: readonly string[], id: string): number {
  const place = names.indexOf(id);
  if (place < 0) throw new ProgramError(`a sweep has the limit ${id}, and no kind of the rig declares it`);
  return place;
}

const ofLimit = (rig: Rig, wanted: string): Asked => {
  const specs = namedLimits(rig).map((named) =>
    named.flatMap(({ name, spec }) => (wanted === tightestLimit || name === wanted ? [spec] : [])),
  );
  const pairs = (reading: RigReading) =>
    reading.channels().flatMap((channel, k) =>
      (specs[k] ?? []).flatMap((spec) => {
        const pair = ifKnown(() => {
          const rating = spec.rating(channel);
          return rating && rating.value > 0 ? ([spec.stress(channel), rating] as const) : null;
        });
        return pair ? [...pair] : [];
      }),
    );
  return {
    id: wanted,
    of: pairs,
    join: (values) => {
      let most = NaN;
      for (let i = 0; i + 1 < values.length; i += 2) {
        const use = (values[i] ?? NaN) / (values[i + 1] ?? NaN);
        if (!(use <= most)) most = use;
      }
      return most;
    },
  };
};

/**
 * What is asked of every sample.
 *
 * @throws RangeError for what the solver says: a sample of that takes seconds
 */
export function askedOf(rig: Rig, id: string): Asked {
  if (id.startsWith('solver:')) throw new RangeError(`${id} is solved, and a study of samples asks closed forms`);
  if (id.startsWith('limit:')) return ofLimit(rig, id);
  return {
    id,
    of: (reading) => {
      const worked = ifKnown(() => reading.figure(id as FigureId));
      return worked ? [worked] : [];
    },
    join: ([value]) => value ?? NaN,
  };
}

const ofField = (given: Given): string | null => (given.origin.from === 'rule' ? null : given.origin.path);

/** What a sample draws. */
export interface Drawn {
  /** Fields with a tolerance that what is asked depends on, each once. */
  readonly inputs: readonly Uncertain[];
  /** What lies elsewhere in every shot, of all that what is asked depends on, each once; empty where no shots are drawn. */
  readonly scattered: readonly Scattered[];
}

export function drawnFor(rig: Rig, asked: readonly Asked[], withShots: boolean): Drawn {
  const scattered = new Map<string, Scattered>();
  // A shot at the mean of everything: where it breaks down before its time it depends on the gap as well.
  const atMean: ShotDrawn = (one) => {
    scattered.set(one.id, one);
    return 0;
  };
  const reading = new RigReading(rig, undefined, null, withShots ? atMean : null);
  const leaves = new Map<string, Given>();
  const ruled = new Set<string>();
  for (const { of } of asked)
    for (const worked of of(reading))
      for (const given of givens(worked).values()) {
        const path = ofField(given);
        if (path === null) ruled.add(given.title);
        else if (given.tolerance) leaves.set(path, given);
      }
  const inputs = [...leaves.keys()].flatMap((path) => {
    const ends = endsAt(rig, path);
    return ends ? [{ path, title: fieldName(rig, path), ...ends }] : [];
  });
  return { inputs, scattered: [...scattered.values()].filter(({ title }) => ruled.has(shotLeaf(title))) };
}
