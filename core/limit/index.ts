export {
  joinedLadder,
  ladderOf,
  limitSpecs,
  limitState,
  nearShare,
  tightest,
  type BlindLimit,
  type Ladder,
  type Limit,
  type LimitState,
} from './limits.ts';
export { type Relief } from './relief.ts';
