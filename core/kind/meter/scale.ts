/** What a meter scale shows. */
export interface ScaleAsked {
  /** V at full scale */
  readonly fullScale: number;
  /** F, for the joules of this bank */
  readonly capacitance: number;
  /** V the bank is to be charged to */
  readonly planned: number;
  /** V it must not exceed; null where no rating is known */
  readonly limit: number | null;
}

/** A mark on a scale: where it stands as a share of full deflection, and what is written beside it. */
export interface ScaleMark {
  readonly share: number;
  readonly value: number;
  readonly labelled: boolean;
}

export interface Scale {
  readonly volts: readonly ScaleMark[];
  /** In joules of this bank; closer and closer together downwards, since energy goes as the square. */
  readonly joules: readonly ScaleMark[];
  readonly planned: number | null;
  readonly limit: number | null;
}

/** A step of 1, 2 or 5 times a power of ten that divides a span into at most `most`. */
function stepFor(span: number, most: number): number {
  const rough = span / most;
  const decade = 10 ** Math.floor(Math.log10(rough));
  return ([1, 2, 5, 10].find((m) => m * decade >= rough * (1 - 1e-9)) ?? 10) * decade;
}

const onScale = (share: number): boolean => share >= 0 && share <= 1 + 1e-9;

/**
 * The marks of a moving-coil meter: its deflection is proportional to its current, and so to the voltage.
 *
 * @returns shares of full deflection from 0 to 1; a planned voltage or a limit off the scale is null
 */
export function meterScale({ fullScale, capacitance, planned, limit }: ScaleAsked): Scale {
  const major = stepFor(fullScale, 6);
  const count = Math.floor((fullScale / major) * 5 + 1e-9);
  const volts = Array.from({ length: count + 1 }, (_, i) => {
    const value = (i * major) / 5;
    return { share: value / fullScale, value, labelled: i % 5 === 0 };
  });
  const full = 0.5 * capacitance * fullScale * fullScale;
  const step = stepFor(full, 5);
  const fine = step / 5;
  const joules = Array.from({ length: Math.floor(full / fine + 1e-9) }, (_, i) => {
    const value = (i + 1) * fine;
    return { share: Math.sqrt(value / full), value, labelled: (i + 1) % 5 === 0 };
  });
  const shareOf = (V: number | null) => (V !== null && onScale(V / fullScale) ? V / fullScale : null);
  return { volts, joules: [{ share: 0, value: 0, labelled: true }, ...joules], planned: shareOf(planned), limit: shareOf(limit) };
}
