import type { Shot } from '../shot/index.ts';
import type { CampaignSetting } from './campaign.ts';

/** A shot with the id under which it is kept. */
export interface KeptShot {
  readonly id: string;
  readonly shot: Shot;
}

/** A place in the order of a campaign. */
export interface Place {
  readonly place: number;
  /** That of the shot which counts, else the one it is to be fired at. */
  readonly setting: CampaignSetting;
  /** What was fired for it, the first first: a misfire is fired again. */
  readonly shots: readonly KeptShot[];
  readonly standing: 'done' | 'dropped' | 'open';
}
