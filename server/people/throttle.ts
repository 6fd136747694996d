import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type { Pool } from '../db/pool.ts';
import { HttpFault } from '../http/fault.ts';

/** Wrong sign-ins within a quarter of an hour: of one name, from one address, and of one device that was signed in to that name before. */
const mostWrong = { name: 10, address: 40, device: 20 } as const;
const quarter = 900;

/** How a person tries to get in. */
export interface Attempt {
  readonly name: string;
  readonly address: string;
  /** A device on which this person was signed in before: what others do with the name does not lock it out. */
  readonly known: string | null;
}

/** Slows guessing down, by counts that every server on the database shares. */
export class Throttle {
  private readonly limiters;

  constructor(pool: Pool) {
    const limiter = (keyPrefix: string, points: number) =>
      new RateLimiterPostgres({
        storeClient: pool,
        storeType: 'pool',
        tableName: 'sign_in_limits',
        tableCreated: true,
        clearExpiredByTimeout: false,
        keyPrefix,
        points,
        duration: quarter,
      });
    this.limiters = {
      name: limiter('name', mostWrong.name),
      address: limiter('address', mostWrong.address),
      device: limiter('device', mostWrong.device),
    };
  }

  private counted({ name, address, known }: Attempt): [RateLimiterPostgres, string][] {
    return known === null
      ? [
          [this.limiters.name, name.toLowerCase()],
          [this.limiters.address, address],
        ]
      : [[this.limiters.device, known]];
  }

  /** Counts an attempt before it is looked at: of many at once none gets more looks. @throws HttpFault with the seconds to wait */
  async begin(attempt: Attempt): Promise<void> {
    for (const [limiter, key] of this.counted(attempt))
      await limiter.consume(key).catch((error: unknown) => {
        if (!(error instanceof RateLimiterRes)) throw error;
        const seconds = Math.ceil(error.msBeforeNext / 1000);
        throw new HttpFault(
          'too_many',
          [],
          `Too many wrong sign-ins: wait ${seconds > 90 ? `${Math.ceil(seconds / 60)} min` : `${seconds} s`} and try again. Devices that are signed in go on.`,
        );
      });
  }

  /** It was right: what was counted for it is given back. */
  async succeed(attempt: Attempt): Promise<void> {
    for (const [limiter, key] of this.counted(attempt)) await limiter.reward(key, 1);
  }
}
