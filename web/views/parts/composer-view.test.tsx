// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { StoredPart } from '@vast-surge/contract';
import { readQuantityText } from '@vast-surge/core/field';
import { newPart, partKind } from '@vast-surge/core/part';
import { newDocument } from '@vast-surge/core/rig';
import { clear, page } from '../../test/render.tsx';
import type { calculations as Calculations } from '../../workers/bench.calculations.ts';
import { ComposerView } from './composer-view.tsx';

let shelf: readonly StoredPart[] = [];
vi.mock('../../app/bench.ts', async (original) => ({
  ...(await original<object>()),
  useShelf: () => ({
    parts: shelf,
    lots: [],
    bench: { parts: new Map(shelf.map((part) => [part.id, part])), lots: new Map(), unreadable: [] },
    loaded: true,
    error: undefined,
    refetch: () => undefined,
  }),
}));
// The same calculation, without a thread of its own.
vi.mock('../../workers/bench.ts', async () => {
  const { calculations } = await import('../../workers/bench.calculations.ts');
  return { benchWorker: { call: (run: (remote: typeof Calculations) => unknown) => Promise.resolve(calculations).then(run) } };
});

const field = (symbol: string, text: string) => {
  const spec = partKind('capacitor').fields[symbol];
  const read = spec?.type === 'quantity' ? readQuantityText(spec, text) : null;
  if (!read?.ok) throw new Error(symbol);
  return read.value;
};

/** A capacitor of 100 µF and 500 V by its label, as it was measured. */
function capacitor(number: number, measured: number | null, name = 'Bench film'): StoredPart {
  const bare = newPart('capacitor', name, `C-10${number}`);
  const reading = { measure: 'capacitance', element: 1, at: '2026-03-01T08:00:00.000Z', instrument: '', under: null, by: '' };
  return {
    id: `00000000-0000-4000-8000-00000000000${number}`,
    version: 1,
    createdAt: '2026-03-01T08:00:00.000Z',
    updatedAt: '2026-03-01T08:00:00.000Z',
    removedAt: null,
    change: number,
    hasPhoto: false,
    part: {
      ...bare,
      condition: 'good',
      fields: { ...bare.fields, C: field('C', '100 µF ±5 %'), Vdc: field('Vdc', '500 V') },
      readings: measured === null ? [] : [{ ...reading, value: measured }],
    },
  } as unknown as StoredPart;
}

const drawn = () => {
  const hand = userEvent.setup({ delay: null });
  page(newDocument('Nothing open')).drawn(<ComposerView />);
  return hand;
};
const type = async (hand: ReturnType<typeof userEvent.setup>, label: string, text: string) => {
  const input = screen.getByLabelText(label);
  await hand.clear(input);
  await hand.type(input, text);
};

beforeEach(() => {
  shelf = [101e-6, 99e-6, 100e-6, 98e-6].map((C, i) => capacitor(i + 1, C));
});
afterEach(clear);

describe('the composer', () => {
  test('makes groups of what was measured that take what is wanted, and says which parts are in which', async () => {
    const hand = drawn();
    await type(hand, 'Voltage', '800 V');
    await type(hand, 'Energy', '20 J');
    const offers = await screen.findByRole('list', { name: 'Arrangements' });
    await waitFor(() => expect(within(offers).getByRole('button', { pressed: true }).textContent).toContain('2s × 2p'));
    // 101 with 98 and 100 with 99: both groups have 199 µF, so that they share evenly.
    const rows = screen.getAllByRole('row').map((row) => row.textContent ?? '');
    expect(rows.find((text) => text.includes('C-101'))).toContain('C-104');
    expect(rows.find((text) => text.includes('C-102'))).toContain('C-103');
    expect(screen.getByRole('button', { name: 'Make a rig of it' })).toBeDefined();
  });

  test('says which wish cannot be read, by its name, and keeps what was typed', async () => {
    const hand = drawn();
    await type(hand, 'Voltage', '800 psi');
    expect(screen.getByRole('alert').textContent).toMatch(/^Voltage: .*pressure/);
    expect((screen.getByLabelText('Voltage') as HTMLInputElement).value).toBe('800 psi');
    await type(hand, 'Voltage', '800 V');
    await type(hand, 'Margin on it', '5 % ±1 %');
    expect(screen.getByRole('alert').textContent).toContain('Margin takes no tolerance');
    await type(hand, 'Margin on it', '5 %');
    expect(screen.queryByRole('alert')).toBeNull();
  });

  test('warns where one in series would take nearly all of the voltage, and names what counts by its label alone', async () => {
    shelf = [...shelf, capacitor(5, null), capacitor(6, 20e-6)];
    drawn();
    expect(await screen.findByText(/times the capacitance of the smallest/)).toBeDefined();
    expect(screen.getByText(/1 of them not measured/)).toBeDefined();
    expect(screen.getByText('6 pieces')).toBeDefined();
  });

  test('an empty shelf has nothing to compose, and says where parts are chosen', () => {
    shelf = [];
    drawn();
    expect(screen.getByText('0 pieces')).toBeDefined();
    expect(screen.getByRole('link', { name: 'on the shelf' }).getAttribute('href')).toBe('/parts');
    expect(screen.queryByRole('button', { name: 'Make a rig of it' })).toBeNull();
  });
});
