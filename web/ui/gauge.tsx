import { limitState, wordUse, type Limit } from '@vast-surge/core/limit';

/** Where the rating stands on a bar: 80 % of its length, so that what is over has room to be seen. */
export const ratingShare = 0.8;

const share = (utilisation: number) => Math.min(utilisation * ratingShare, 1) * 100;

/** A bar for the nominal stress, a whisker to the worst corner, one stroke for the rating. The words beside it say the same. */
export function Bar({ limit, className = 'h-[7px]' }: { limit: Pick<Limit, 'utilisation' | 'worst'>; className?: string }) {
  const over = limitState(limit) === 'over';
  const nominal = share(limit.utilisation ?? 0);
  const worst = share(limit.worst ?? 0);
  return (
    <div aria-hidden className={`relative w-full ${className}`}>
      <div className="absolute top-1/2 h-px w-full bg-rule" />
      <div className={`absolute h-full ${over ? 'bg-over' : 'bg-ink'}`} style={{ width: `${nominal}%` }} />
      {worst > nominal && (
        <div
          className={`absolute top-1/2 h-px ${over ? 'bg-over' : 'bg-ink'}`}
          style={{ left: `${nominal}%`, width: `${worst - nominal}%` }}
        />
      )}
      <div className={`absolute -top-px h-[9px] w-px ${over ? 'bg-over' : 'bg-ink'}`} style={{ left: `${worst}%` }} />
      <div className="absolute -top-[3px] h-[13px] w-[2px] bg-over" style={{ left: `${ratingShare * 100}%` }} />
    </div>
  );
}

/** How a limit stands, in words: colour alone says nothing. */
export function limitWords(limit: Pick<Limit, 'worst'>): string {
  if (limit.worst === null) return 'no rating given';
  if (!Number.isFinite(limit.worst)) return wordUse(limit.worst);
  const text = `${wordUse(limit.worst)} of rating`;
  return limit.worst > 1 ? `over: ${text}` : text;
}
