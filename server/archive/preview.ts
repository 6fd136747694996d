import { documentName, type RigRecord, type Workshop } from '@vast-surge/core/format';
import { differences, differenceWords } from '@vast-surge/core/rig';
import type { PreviewEntry } from '@vast-surge/contract';

function standing(theirs: RigRecord, ours: RigRecord | undefined): Pick<PreviewEntry, 'standing' | 'says'> {
  if (!theirs.document.ok) return { standing: 'unreadable', says: `This program cannot read it: ${theirs.document.reason}` };
  if (!ours) return { standing: 'new', says: 'There is no such rig here yet.' };
  if (!ours.document.ok) return { standing: 'different', says: 'What is kept here cannot be read by this program.' };
  const changes = differences(ours.document.document, theirs.document.document);
  return changes.length === 0
    ? { standing: 'same', says: 'The same as what is kept here.' }
    : { standing: 'different', says: `Here → in the archive: ${differenceWords(changes)}` };
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
