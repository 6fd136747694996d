/**
 * A smooth rising curve through rising points, without overshoot between them: cubic pieces with limited slopes.
 * Source: Fritsch and Carlson, Monotone piecewise cubic interpolation, SIAM J. Numer. Anal. 17 (1980); from memory.
 */
export function monotoneCubic(points: readonly (readonly [number, number])[]): {
  value(x: number): number;
  slope(x: number): number;
} {
  const x = points.map(([at]) => at);
  const y = points.map(([, value]) => value);
  const last = points.length - 1;
  const secant = Array.from({ length: last }, (_, i) => ((y[i + 1] ?? 0) - (y[i] ?? 0)) / ((x[i + 1] ?? 0) - (x[i] ?? 0)));
  const m = points.map((_, i) => {
    if (i === 0) return secant[0] ?? 0;
    if (i === last) return secant[last - 1] ?? 0;
    const [a, b] = [secant[i - 1] ?? 0, secant[i] ?? 0];
    return a * b <= 0 ? 0 : (2 * a * b) / (a + b);
  });
  const piece = (at: number) => {
    let i = 0;
    while (i < last - 1 && at > (x[i + 1] ?? 0)) i += 1;
    const h = (x[i + 1] ?? 0) - (x[i] ?? 0);
    return { i, h, s: (at - (x[i] ?? 0)) / h };
  };
  return {
    value: (at) => {
      if (last < 1) return y[0] ?? 0;
      const { i, h, s } = piece(at);
      if (s > 1) return (y[last] ?? 0) + (m[last] ?? 0) * (at - (x[last] ?? 0));
      const [y0, y1, m0, m1] = [y[i] ?? 0, y[i + 1] ?? 0, (m[i] ?? 0) * h, (m[i + 1] ?? 0) * h];
      return y0 + s * (m0 + s * (3 * (y1 - y0) - 2 * m0 - m1 + s * (2 * (y0 - y1) + m0 + m1)));
    },
    slope: (at) => {
      if (last < 1) return 0;
      const { i, h, s } = piece(at);
      if (s > 1) return m[last] ?? 0;
      const [y0, y1, m0, m1] = [y[i] ?? 0, y[i + 1] ?? 0, (m[i] ?? 0) * h, (m[i + 1] ?? 0) * h];
      return (m0 + s * (2 * (3 * (y1 - y0) - 2 * m0 - m1) + s * 3 * (2 * (y0 - y1) + m0 + m1))) / h;
    },
  };
}
