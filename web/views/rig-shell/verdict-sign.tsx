import type { Verdict } from '@vast-surge/core/runsheet';

/** Each verdict has a sign of its own, so that none is told by colour alone. */
export const VerdictSign = ({ word }: { word: Verdict['word'] }) => (
  <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden className={`shrink-0 ${word === 'go at most' ? '' : 'text-over'}`}>
    <rect
      x="1.5"
      y="1.5"
      width="11"
      height="11"
      fill={word === 'go at most' ? 'currentColor' : 'none'}
      stroke="currentColor"
      strokeWidth="2"
    />
    {word === 'not now' && <rect x="1.5" y="1.5" width="5.5" height="11" fill="currentColor" />}
  </svg>
);
