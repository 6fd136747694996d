import { channelsFromLines } from './coil-lines.ts';

/**
 * Steps that turn a rig file of one version into the next, by the version they start from. Each takes and gives plain
 * parsed JSON and throws nothing; what is wrong with the data is found by the schema afterwards. A kept sample of every
 * version lies in `core/test/fixtures/rig-file-<version>/` and must go on being read.
 */
const steps: Readonly<Record<number, (data: Record<string, unknown>) => Record<string, unknown>>> = {
  // Version 2 may say which rig it holds. A file of version 1 could not, so an `id` there was a key that no file had.
  1: ({ id, ...data }) => ({ ...data, ...(id === undefined ? {} : { 'id of version 1': id }), version: 2 }),
  // Version 3 says whether the rig is built, what parts its blocks stand on, and which values were measured: keys that
  // no file of version 2 has, so nothing is turned.
  2: (data) => ({ ...data, version: 3 }),
  // Version 4 has a current monitor and more kinds of supply, charging and meter; a file without a monitor has none.
  3: (data) => ({ ...data, version: 4 }),
  // Version 5 has a trigger, two towers and more kinds of load; a file without a trigger has none.
  4: (data) => ({ ...data, version: 5 }),
  // Version 6 keeps what a person made of the run sheet; a file without it has the sheet as it follows from the rig.
  5: (data) => ({ ...data, version: 6 }),
  // Version 7 has a dump, a dielectric, a bleeder that is switched, and the pace of the people: none of it in a file of version 6.
  6: (data) => ({ ...data, version: 7 }),
  // Up to version 7 the stages of a launcher behind the first were lines of text in its load; each is a channel now.
  7: (data) => ({ ...data, ...channelsFromLines(data), version: 8 }),
};

/** The data as the newest version has it. `version` is a version this program knows. */
export function upgraded(data: unknown, version: number): unknown {
  let current = data as Record<string, unknown>;
  for (let step = steps[version]; step; step = steps[Number(current['version'])]) current = step(current);
  return current;
}
