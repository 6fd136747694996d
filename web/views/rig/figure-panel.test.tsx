// @vitest-environment jsdom
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, test } from 'vitest';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { newDocument, newRig } from '@vast-surge/core/rig';
import { togglePin } from '../../app/pins.ts';
import { clear, page } from '../../test/render.tsx';
import { printBand } from '@vast-surge/core/figure';
import { FigurePanel } from './figure-panel.tsx';

afterEach(clear);

describe('the figures of a rig', () => {
  test('stand in four groups, three of each in view; one press shows the rest, f all of them; a pinned one stands first, once', async () => {
    const rig = newRig();
    const { drawn } = page(newDocument('Bench', rig));
    const touched: string[] = [];
    drawn(<FigurePanel evaluation={evaluateRig(rig)} onTouch={(id) => void touched.push(id)} />);
    const seen = (title: string) =>
      within(screen.getByRole('region', { name: title }))
        .getAllByRole('button')
        .filter((button) => button.hasAttribute('data-figure'));
    for (const title of ['What comes out', 'How it charges', 'What is left']) expect(seen(title), title).toHaveLength(3);
    const hand = userEvent.setup({ delay: null });
    const out = screen.getByRole('region', { name: 'What comes out' });
    await hand.click(within(out).getByRole('button', { name: /^\d+ more$/ }));
    expect(seen('What comes out').length).toBeGreaterThan(6);
    expect(seen('How it charges')).toHaveLength(3);
    await hand.keyboard('f');
    expect(seen('How it charges').length).toBeGreaterThan(6);
    await hand.keyboard('f');
    expect(seen('What comes out')).toHaveLength(3);
    await hand.click(screen.getByRole('button', { name: /^Charge time/ }));
    expect(touched).toEqual(['figure:charge-time']);
  });

  test('a pin is kept on the device and taken off by the same press', () => {
    const rig = newRig();
    togglePin('load-energy');
    const { drawn } = page(newDocument('Bench', rig));
    drawn(<FigurePanel evaluation={evaluateRig(rig)} onTouch={() => undefined} />);
    const [first] = screen.getAllByRole('region');
    expect(first?.getAttribute('aria-label')).toBe('Pinned');
    expect(document.querySelectorAll('[data-figure="load-energy"]')).toHaveLength(1);
    expect(localStorage.getItem('vast-surge.pins')).toBe('["load-energy"]');
    togglePin('load-energy');
    expect(localStorage.getItem('vast-surge.pins')).toBe('[]');
  });
});

test.each([
  ['peak-current', 16200, 18400, 'A', '16.2 to 18.4 kA'],
  ['peak-current', 950, 1100, 'A', '950 A to 1.10 kA'],
  ['bleed-time', 53, 95, 's', '53 to 95 s'],
  ['bleed-time', 95, 620, 's', '95 s to 10 min 20 s'],
  ['repetition-rate', 0.25, 0.5, 'Hz', 'every 2.0 s to 4.0 s'],
] as const)('the band of %s from %d to %d %s is printed as %s', (id, low, high, unit, printed) =>
  expect(printBand(id, low, high, unit)).toBe(printed),
);
