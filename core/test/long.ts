/** `./surge test --long`: all cases of the large sweeps. A change is held by the fewer ones that run each time. */
export const isLong = process.env['VAST_SURGE_LONG'] === '1';

/** How many cases a property is asked, each time and at length. */
export const cases = (each: number, long: number): number => (isLong ? long : each);
