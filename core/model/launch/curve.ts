/** A curve through points that lie evenly from nought, even about it, with its slope; nought beyond. */
export class EvenCurve {
  private readonly y: Float64Array;
  private readonly bend: Float64Array;
  private readonly step: number;
  readonly reach: number;

  constructor(values: Float64Array, reach: number) {
    const n = values.length;
    this.y = values;
    this.reach = reach;
    this.step = reach / (n - 1);
    // Natural at the far end, level at zero: the second derivatives of a cubic spline.
    this.bend = new Float64Array(n);
    const [diagonal, right] = [new Float64Array(n), new Float64Array(n)];
    diagonal[0] = 2;
    right[0] = (6 * ((values[1] as number) - (values[0] as number))) / this.step ** 2;
    for (let i = 1; i < n - 1; i++) {
      const f = 1 / (i === 1 ? (diagonal[0] as number) : (diagonal[i - 1] as number));
      diagonal[i] = 4 - f;
      const curve = (6 * ((values[i + 1] as number) - 2 * (values[i] as number) + (values[i - 1] as number))) / this.step ** 2;
      right[i] = curve - f * (right[i - 1] as number);
    }
    for (let i = n - 2; i >= 0; i--)
      this.bend[i] = ((right[i] as number) - (this.bend[i + 1] as number)) / (diagonal[i] as number);
  }

  /** Value and slope at x. */
  at(x: number, out: { y: number; slope: number }): void {
    const d = Math.abs(x);
    if (d >= this.reach) {
      out.y = 0;
      out.slope = 0;
      return;
    }
    const i = Math.min(this.y.length - 2, Math.floor(d / this.step));
    const [b, a] = [d / this.step - i, 1 - (d / this.step - i)];
    const [y0, y1, m0, m1] = [this.y[i], this.y[i + 1], this.bend[i], this.bend[i + 1]] as [number, number, number, number];
    const s = this.step;
    out.y = a * y0 + b * y1 + (((a * a * a - a) * m0 + (b * b * b - b) * m1) * s * s) / 6;
    const slope = (y1 - y0) / s + (((1 - 3 * a * a) * m0 + (3 * b * b - 1) * m1) * s) / 6;
    out.slope = x < 0 ? -slope : slope;
  }
}
