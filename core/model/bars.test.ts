import { describe, expect, test } from 'vitest';
import { barsForce, barsInductance } from './index.ts';

const mu0 = 4e-7 * Math.PI;

describe('two flat bars face to face', () => {
  test('wide and close they are plates: μ₀·(s + 2t/3)/w', () => {
    for (const [w, t, s] of [
      [1, 1e-3, 1e-3],
      [1, 2e-3, 5e-3],
    ] as const)
      expect(barsInductance(w, t, s) / ((mu0 * (s + (2 * t) / 3)) / w)).toBeCloseTo(1, 1);
  });

  test('far apart they are wires of Grover’s mean radius 0.2235·(w + t)', () => {
    const [w, t, s] = [0.02, 0.005, 1];
    const far = (mu0 / Math.PI) * Math.log((s + t) / (0.2235 * (w + t)));
    // Grover, Inductance Calculations, chapter 3: within half a per cent; from memory.
    expect(barsInductance(w, t, s) / far).toBeCloseTo(1, 2);
  });

  test('square ones are wires of 0.447 of their side', () => {
    // Grover: the mean distance of a square from itself is 0.44705 of its side; from memory.
    const far = (mu0 / Math.PI) * Math.log(0.51 / (0.44705 * 0.01));
    expect(barsInductance(0.01, 0.01, 0.5) / far).toBeCloseTo(1, 3);
  });

  test('the force is that of wires far apart, and of plates close together', () => {
    expect(barsForce(0.01, 0.01, 0.5) / (mu0 / (2 * Math.PI * 0.51))).toBeCloseTo(1, 2);
    expect(barsForce(1, 1e-3, 2e-3) / (mu0 / 2)).toBeCloseTo(1, 1);
  });
});
