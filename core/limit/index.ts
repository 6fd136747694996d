export {
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
export { withValue, type Relief } from './relief.ts';
