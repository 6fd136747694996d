import { isDeepStrictEqual } from 'node:util';
import { documentName, keptData, type RigRecord, type Workshop } from '@vast-surge/core/format';
import { differences, differenceWords } from '@vast-surge/core/rig';
import type { PreviewBench, PreviewEntry } from '@vast-surge/contract';

function standing(theirs: RigRecord, ours: RigRecord | undefined): Pick<PreviewEntry, 'standing' | 'says'> {
  if (!theirs.document.ok) return { standing: 'unreadable', says: `This program cannot read it: ${theirs.document.reason}` };
  if (!ours) return { standing: 'new', says: 'There is no such rig here yet.' };
  if (!ours.document.ok) return { standing: 'different', says: 'What is kept here cannot be read by this program.' };
  const changes = differences(ours.document.document, theirs.document.document);
  return changes.length === 0
    ? { standing: 'same', says: 'The same as what is kept here.' }
    : { standing: 'different', says: `Here → in the archive: ${differenceWords(changes)}` };
}

type BenchRecords = Pick<Workshop, 'parts' | 'lots'>;
type Standing = PreviewEntry['standing'];

/** How each part and lot of an archive stands against the bench that is kept. Times and versions are not compared. */
export function benchStanding(archive: BenchRecords, kept: BenchRecords): { of: (id: string) => Standing | undefined } {
  const content = (bench: BenchRecords) =>
    new Map<string, unknown>([
      ...bench.parts.map((p) => [p.id, [keptData(p.part), p.photo, p.removedAt === null]] as const),
      ...bench.lots.map((l) => [l.id, [keptData(l.lot)]] as const),
    ]);
  const [ours, theirs] = [content(kept), content(archive)];
  const unreadable = new Set(
    [...archive.parts.filter((p) => !p.part.ok), ...archive.lots.filter((l) => !l.lot.ok)].map((r) => r.id),
  );
  const of = (id: string): Standing | undefined => {
    if (!theirs.has(id)) return undefined;
    if (unreadable.has(id)) return 'unreadable';
    if (!ours.has(id)) return 'new';
    return isDeepStrictEqual(JSON.parse(JSON.stringify(ours.get(id))), JSON.parse(JSON.stringify(theirs.get(id))))
      ? 'same'
      : 'different';
  };
  return { of };
}

/** What an archive would bring to the parts bench; null where it has none. */
export function benchPreview(archive: BenchRecords, kept: BenchRecords): PreviewBench | null {
  const ids = [...archive.parts, ...archive.lots].map((r) => r.id);
  if (ids.length === 0) return null;
  const standing = benchStanding(archive, kept);
  const count = (which: Standing) => ids.filter((id) => standing.of(id) === which).length;
  return {
    parts: archive.parts.length,
    lots: archive.lots.length,
    new: count('new'),
    same: count('same'),
    different: count('different'),
    unreadable: count('unreadable'),
  };
}

/** What an archive would bring to the workshop that is kept here. */
export function previewOf(archive: Workshop, kept: Workshop): PreviewEntry[] {
  const byId = new Map(kept.rigs.map((rig) => [rig.id, rig]));
  return archive.rigs.map((rig) => {
    const ours = byId.get(rig.id);
    const known = new Set(ours?.revisions.map((r) => r.id));
    return {
      id: rig.id,
      name: documentName(rig.document),
      revisions: rig.revisions.length,
      newRevisions: rig.revisions.filter((r) => !known.has(r.id)).length,
      ...standing(rig, ours),
    };
  });
}
