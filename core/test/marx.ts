import { type Slot } from '../block/index.ts';
import { blockDefinition, newBlock } from '../kind/index.ts';
import { evaluateRig, figureIn } from '../evaluation/index.ts';
import { newRig, withBlock, type Rig } from '../rig/index.ts';
import { solveRigScene, type Solved } from '../simulate/index.ts';
import { rigWith } from './rigs.ts';
import type { FigureId } from '../block/index.ts';

/** A Marx with its first gap as the switch, and nothing that the closed forms leave out unless it is typed. */
export const marxRig = (
  typed: Readonly<Record<string, string>> = {},
  kinds: Readonly<Partial<Record<Slot, string>>> = {},
): Rig => {
  const all: Partial<Record<Slot, string>> = { store: 'marx', switch: 'spark-gap', ...kinds };
  const bare = (Object.entries(all) as [Slot, string][]).reduce(
    (rig, [slot, kind]) => withBlock(rig, slot, newBlock(blockDefinition(slot, kind))),
    newRig(),
  );
  const usual = {
    'supply.V': '14 kV',
    'charging.R': '5 MΩ',
    'bleeder.R': '1 TΩ',
    'meter.R': '999 TΩ',
    'store.Ri': '999 TΩ',
    'store.Cs': '',
    'load.R': '300 Ω',
    'load.L': '2 µH',
  };
  const fits = Object.entries(usual).filter(([path]) => {
    const [slot, field = ''] = path.split('.') as [Slot, string];
    return all[slot] === undefined || field in blockDefinition(slot, all[slot]).fields;
  });
  return rigWith({ ...Object.fromEntries(fits), ...typed }, bare);
};

/** A scene of it through the solver, with reasons for what is apart. */
export const solved = (rig: Rig, of: 'charge' | 'discharge' | 'bleed', without?: string): Solved => {
  const answer = solveRigScene(rig, 'Marx', of, { explain: true, ...(without === undefined ? {} : { without }) });
  if (!answer.ok) throw new Error(answer.reason);
  return answer.value;
};

/** A figure of a rig, nominal; NaN where it has none. */
export const figureOf = (rig: Rig, id: FigureId): number => figureIn(evaluateRig(rig), id)?.worked.value ?? NaN;

/** All that a rig says is wrong with it. */
export const problemsOf = (rig: Rig): string =>
  evaluateRig(rig)
    .problems.map((p) => p.text)
    .join('\n');
