// @vitest-environment jsdom
import { act, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { readFileSync } from 'node:fs';
import { afterEach, expect, test } from 'vitest';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { readRigFile } from '@vast-surge/core/format';
import { givens } from '@vast-surge/core/formula';
import { printQuantity } from '@vast-surge/core/quantity';
import { numberTouched } from '../../app/editor.ts';
import { clear, page } from '../../test/render.tsx';
import { WorkingBar } from './working.tsx';

afterEach(clear);

const read = readRigFile(readFileSync('demo/anvil.json', 'utf8'));
if (!read.ok) throw new Error('the demo cannot be read');
const { document } = read;
const evaluation = evaluateRig(document.rig);

test('every figure and every limit of a rig opens its working: its number, what it was worked out from, and its button closes it', async () => {
  const { store, drawn } = page(document);
  drawn(<WorkingBar evaluation={evaluation} />);
  const hand = userEvent.setup({ delay: null });
  const all = [
    ...evaluation.figures.flatMap((f) => (f.ok ? [{ focus: `figure:${f.id}`, title: f.title, worked: f.worked }] : [])),
    ...evaluation.ladder.limits.map((l) => ({ focus: `limit:${l.id}`, title: l.title, worked: l.stress })),
  ];
  expect(all.length).toBeGreaterThan(40);
  for (const { focus, title, worked } of all) {
    act(() => void store.dispatch(numberTouched(focus)));
    const region = screen.getByRole('region', { name: 'Working' });
    expect(region.querySelector('h2')?.textContent, focus).toContain(title);
    // Every number that somebody gave stands in it by its name.
    for (const given of givens(worked).values())
      if (given.origin.from !== 'rule')
        expect(region.textContent?.toLowerCase(), `${focus} from ${given.title}`).toContain(given.title.toLowerCase());
  }
  await hand.click(screen.getByRole('button', { name: 'Close (Esc)' }));
  expect(screen.queryByRole('region', { name: 'Working' })).toBeNull();
  // Closed, the number last touched stands in one line.
  act(() => void store.dispatch(numberTouched('figure:stored-energy')));
  await hand.click(screen.getByRole('button', { name: 'Close (Esc)' }));
  const energy = evaluation.figures.find(({ id }) => id === 'stored-energy');
  expect(globalThis.document.body.textContent).toContain(
    energy?.ok ? printQuantity(energy.worked.value, 'J', { digits: 4 }) : 'none',
  );
});
