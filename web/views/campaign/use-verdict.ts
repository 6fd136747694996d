import { useEffect, useMemo, useState } from 'react';
import type { RunHead, StoredShot } from '@vast-surge/contract';
import {
  lastReading,
  shotVerdict,
  type Check,
  type Evidence,
  type Kept,
  type Place,
  type ShotVerdict,
} from '@vast-surge/core/campaign';
import { blockIn, type RigDocument } from '@vast-surge/core/rig';
import { lifeUsed } from '@vast-surge/core/shot';
import { useListChecksQuery } from '../../app/api.ts';
import { useStanding } from '../../workers/studies.ts';
import { moments } from './moments.ts';

/** The time, every few seconds: a rest that ends shows by itself. */
function useClock(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 2000);
    return () => clearInterval(timer);
  }, []);
  return now;
}

/** What the run sheet says of the rig at the setting of the next shot; "not now" while that is being calculated. */
function useSheetAt(document: RigDocument, place: Place | null): Evidence['sheet'] {
  const standing = useStanding(document, place?.setting.values ?? null);
  if (standing?.ok) return { word: standing.value.word, says: standing.value.says, because: standing.value.act };
  return {
    word: 'not now',
    says: standing ? 'it cannot be calculated' : 'being calculated',
    because: standing?.reason ?? 'Wait for it',
  };
}

/** What the next shot is judged by besides its plan. */
export interface Known {
  readonly document: RigDocument;
  /** Every shot of the rig, and its runs and rehearsals. */
  readonly all: readonly StoredShot[];
  readonly runs: readonly RunHead[];
  /** What the shots teach is still being calculated. */
  readonly isLearning: boolean;
}

/** Whether the next shot of a campaign may be fired, from everything that is known now; the checks of the workshop with it. */
export function useVerdict(
  kept: Kept,
  { document, all, runs, isLearning }: Known,
  [acts, reads]: readonly [string, string],
): { verdict: ShotVerdict; sheet: Evidence['sheet']; checks: readonly Check[] | undefined } {
  const now = useClock();
  const sheet = useSheetAt(document, kept.progress.next);
  const { data: checks } = useListChecksQuery(undefined, { refetchOnMountOrArgChange: true });
  const life = useMemo(
    () =>
      lifeUsed(
        document.rig,
        all.map(({ shot }) => shot),
      ),
    [document.rig, all],
  );
  const evidence: Evidence = {
    now,
    sheet,
    checks: checks ?? [],
    rehearsed: runs.filter(({ rehearsal }) => rehearsal !== null).map(({ points }) => points),
    hasGuard: blockIn(document.rig, 'guard').kind !== 'none',
    acts,
    reads,
    reading: isLearning ? 'pending' : lastReading(kept),
    lifeUsed: life?.used ?? null,
  };
  return { verdict: shotVerdict(kept.campaign, kept.progress, evidence, moments), sheet, checks };
}
