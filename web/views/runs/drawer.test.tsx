// @vitest-environment jsdom
import { act, render, screen } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import { clear } from '../../test/render.tsx';
import { Drawer } from './drawer.tsx';

afterEach(() => {
  vi.unstubAllGlobals();
  clear();
});

test('a part beside the step is open in a column, and a line with what is in it on a phone; turning the device changes it', () => {
  let isWide = false;
  const listeners = new Set<() => void>();
  vi.stubGlobal('matchMedia', () => ({
    get matches() {
      return isWide;
    },
    addEventListener: (_: string, changed: () => void) => void listeners.add(changed),
    removeEventListener: (_: string, changed: () => void) => void listeners.delete(changed),
  }));
  render(
    <Drawer title="What comes" says="next: stick">
      <p>seven steps</p>
    </Drawer>,
  );
  const line = screen.getByText('What comes').closest('summary');
  expect(line?.textContent).toContain('next: stick');
  expect(line?.closest('details')?.open).toBe(false);
  isWide = true;
  act(() => listeners.forEach((changed) => changed()));
  expect(screen.getByRole('region', { name: 'What comes' }).textContent).toBe('What comesseven steps');
  expect(document.querySelector('details')).toBeNull();
});
