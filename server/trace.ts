import type { TraceContent } from '@vast-surge/contract';

/** Numbers out of base64; null where they are no whole number of 64-bit ones, or not all of them finite. */
function numbers(base64: string): Float64Array | null {
  const bytes = Buffer.from(base64, 'base64');
  if (bytes.length % 8 !== 0) return null;
  const values = new Float64Array(bytes.length / 8);
  for (let i = 0; i < values.length; i++) values[i] = bytes.readDoubleLE(8 * i);
  return values.every(Number.isFinite) ? values : null;
}

/** What stands against keeping a trace: of each channel times and values have one length, all are finite, and time does not go back. */
export function traceIssue({
  channels,
}: Pick<TraceContent, 'channels'>): { readonly path: string; readonly reason: string } | null {
  for (const [i, channel] of channels.entries()) {
    for (const [time, value] of [
      ['t', 'y'],
      ['meanT', 'meanY'],
    ] as const) {
      const [t, y] = [numbers(channel[time]), numbers(channel[value])];
      const path = `content.channels[${i}]`;
      if (!t) return { path: `${path}.${time}`, reason: 'must be finite 64-bit numbers' };
      if (!y) return { path: `${path}.${value}`, reason: 'must be finite 64-bit numbers' };
      if (t.length !== y.length)
        return { path: `${path}.${value}`, reason: `has ${y.length} values, and ${time} has ${t.length}: they must be as many` };
      if (t.length < 2) return { path: `${path}.${time}`, reason: 'must have at least two values' };
      if (t.some((at, k) => k > 0 && at < (t[k - 1] ?? 0)))
        return { path: `${path}.${time}`, reason: 'must not go back in time' };
    }
  }
  return null;
}
