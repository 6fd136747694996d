export { joinedLadder, ladderOf, limitSpecs, tightest, type BlindLimit, type Ladder, type Limit } from './limits.ts';
export { type Relief } from './relief.ts';
export { limitState, nearShare, wordUse, type LimitState } from './state.ts';
