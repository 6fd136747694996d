/** A step of 1, 2 or 5 times a power of ten that divides `span` into about four. */
export function niceStep(span: number): number {
  const rough = span / 4;
  const decade = 10 ** Math.floor(Math.log10(rough));
  return ([1, 2, 5, 10].find((m) => m * decade >= rough * 0.999) ?? 10) * decade || 1;
}

/** Round values from one end of an axis to the other, about four of them. */
export function roundTicks(from: number, to: number): number[] {
  const step = niceStep(to - from);
  const first = Math.ceil(from / step - 1e-9);
  const count = Math.floor(to / step + 1e-9) - first + 1;
  return Array.from({ length: Math.max(0, count) }, (_, k) => Number(((first + k) * step).toPrecision(12)));
}
