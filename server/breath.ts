import { setImmediate as breath } from 'node:timers/promises';

/** Items dealt with between two breaths: a few milliseconds of work. */
const itemsPerBreath = 50;

/** Goes through a long list with other requests let through now and then. */
export async function* unhurried<T>(items: Iterable<T>, perBreath = itemsPerBreath): AsyncGenerator<T> {
  let i = 0;
  for (const item of items) {
    yield item;
    if (++i % perBreath === 0) await breath();
  }
}
