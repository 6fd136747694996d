import { printDuration } from '@vast-surge/core/quantity';
import type { Progress } from '../../workers/rig-study.ts';

/** How far a study is, and what ended it where something did. */
export function StudyProgress({ progress, what }: { progress: Progress | null; what: string }) {
  if (progress?.trouble)
    return (
      <p role="alert" className="mt-2 border-l-4 border-over bg-plate p-2">
        The study stopped: {progress.trouble}.
      </p>
    );
  const isDone = progress !== null && progress.done >= progress.total;
  return (
    <div className="mt-2 h-6">
      {!isDone && (
        <p role="status" className="flex items-center gap-3 text-14">
          <progress className="w-48" max={progress?.total ?? 1} value={progress?.done ?? 0} aria-label="Progress" />
          {progress
            ? `${progress.done.toLocaleString('en')} of ${progress.total.toLocaleString('en')} ${what}${progress.left !== null && progress.left >= 2 ? `, about ${printDuration(progress.left)} left` : ''}`
            : 'Starting …'}
        </p>
      )}
    </div>
  );
}
