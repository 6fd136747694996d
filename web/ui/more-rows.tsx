import { Button } from './button.tsx';

/** Below a page of a long list: how much of it is shown, and the way to the next page. */
export function MoreRows({
  shown,
  total,
  noun,
  isLoading,
  onMore,
}: {
  shown: number;
  total: number;
  /** In the plural. */
  noun: string;
  isLoading: boolean;
  onMore: (() => void) | null;
}) {
  if (onMore === null) return null;
  return (
    <p className="mt-3 flex items-center gap-3">
      <Button disabled={isLoading} onClick={onMore}>
        {isLoading ? 'Fetching …' : 'Show more'}
      </Button>
      <span className="text-dim">
        <span className="figure">{shown}</span> of <span className="figure">{total}</span> {noun}
      </span>
    </p>
  );
}
