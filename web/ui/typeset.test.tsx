// @vitest-environment jsdom
import { render, screen, waitFor } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { formulaById, type Formula } from '@vast-surge/core/formula';
import { clear } from '../test/render.tsx';
import { formulaTex, numbersTex, Typeset } from './typeset.tsx';

afterEach(clear);

const formula = (id: string): Formula => {
  const found = formulaById.get(id);
  if (!found) throw new Error(id);
  return found;
};

test('a formula is set, and stands as it is written until it is, or where it cannot be', async () => {
  const { rerender } = render(<Typeset tex={formulaTex(formula('stored-energy'))} text="E = ½·C·V²" />);
  expect(screen.getByText('E = ½·C·V²')).toBeDefined();
  await waitFor(() => expect(document.querySelector('math')).not.toBeNull());
  expect(screen.queryByText('E = ½·C·V²')).toBeNull();
  rerender(<Typeset tex={null} text="the greater of the two" />);
  expect(screen.getByText('the greater of the two')).toBeDefined();
});

test('of a formula with cases the one in force stands there', () => {
  const values = { R: 0.01, L: 1e-6, C: 1e-4, V: 100 };
  const peak = formula('rlc-peak-current');
  const [ringing, damped] = [numbersTex(peak, values, 900), numbersTex(peak, { ...values, R: 10 }, 10)];
  expect(ringing).toContain('acos');
  expect(ringing).not.toContain('acosh');
  expect(damped).toContain('acosh');
  expect(numbersTex(formula('rlc-voltage-reversal'), { ...values, R: 10 }, 0)).toMatch(/^k = 0 ,/);
});
