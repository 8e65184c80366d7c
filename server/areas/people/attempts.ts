import { Refusal } from '@larder/core/refusal';
import type { Context } from 'koa';
import type pg from 'pg';
import { RateLimiterPostgres, type RateLimiterRes } from 'rate-limiter-flexible';

const quarter = 900;
/** How many wrong tries there may be in a quarter of an hour. */
const limits = {
  /** At one person from one address, and at one person from a browser they have used before. */
  pair: { points: 10, duration: quarter },
  device: { points: 10, duration: quarter },
  /** From one address at anybody, and at one person from anywhere. */
  address: { points: 60, duration: quarter },
  person: { points: 100, duration: quarter },
};

/**
 * Slows guessing down. Only what was wrong counts in the end: a try is counted before it is checked, so that many at once cannot slip
 * through, and what was right is given back. A browser the person has used before counts by itself: the wrong tries of others do not keep them out.
 */
export function attempts(pool: pg.Pool) {
  const limiter = (name: keyof typeof limits) =>
    new RateLimiterPostgres({
      storeClient: pool,
      tableName: 'sign_in_attempt',
      tableCreated: true,
      keyPrefix: `sign_in_${name}`,
      clearExpiredByTimeout: false,
      ...limits[name],
    });
  const by = { pair: limiter('pair'), device: limiter('device'), address: limiter('address'), person: limiter('person') };

  /** Counts a try and refuses it when there were too many; gives what takes it back. */
  return async (ctx: Context, email: string, device: string | null): Promise<() => Promise<void>> => {
    const counted: [RateLimiterPostgres, string][] =
      device === null
        ? [
            [by.address, ctx.ip],
            [by.pair, `${email}|${ctx.ip}`],
            [by.person, email],
          ]
        : [[by.device, `${email}|${device}`]];
    for (const [limit, key] of counted)
      await limit.consume(key).catch((refused: unknown) => {
        if (refused instanceof Error) throw refused;
        const seconds = Math.ceil((refused as RateLimiterRes).msBeforeNext / 1000);
        ctx.set('Retry-After', String(seconds));
        throw new Refusal(429, 'too-many-attempts', `Too many attempts. Try again in ${Math.ceil(seconds / 60)} minutes.`);
      });
    return async () => void (await Promise.all(counted.map(([limit, key]) => limit.reward(key))));
  };
}
