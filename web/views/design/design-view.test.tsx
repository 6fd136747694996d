// @vitest-environment jsdom
import { readFileSync } from 'node:fs';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { readPartFile } from '@vast-surge/core/format';
import { newDocument } from '@vast-surge/core/rig';
import { draftsOf, readDesign, tryDraft, type DesignQuestion, type Outcome } from '@vast-surge/core/study';
import { clear, page } from '../../test/render.tsx';
import { DesignView } from './design-view.tsx';

const file = readPartFile(readFileSync('demo/bench/shelf.json', 'utf8'));
if (!file.ok) throw new Error('the demo shelf cannot be read');
const { parts } = file.file;

let isLoaded = true;
vi.mock('../../app/bench.ts', async (original) => ({
  ...(await original<object>()),
  useShelf: () => ({ parts: isLoaded ? parts : [], lots: [], loaded: isLoaded, error: undefined, refetch: () => undefined }),
}));
let used = new Map<string, readonly { rigId: string; name: string; built: boolean }[]>();
vi.mock('../../app/uses.ts', async (original) => ({ ...(await original<object>()), useUses: () => used }));

let asked: DesignQuestion | null = null;
const known = new WeakMap<DesignQuestion, readonly Outcome[]>();
/** The same calculation, without threads of its own: some of the drafts, for all of them take seconds. */
vi.mock('../../workers/rig-study.ts', async (original) => ({
  ...(await original<object>()),
  useDesign: (question: DesignQuestion | null) => {
    asked = question;
    if (question && !known.has(question)) {
      const read = readDesign(question);
      const drafts = read.ok ? draftsOf(read.question).filter((_, k) => k % 4 === 0) : [];
      known.set(question, read.ok ? drafts.map((draft) => tryDraft(read.question, draft)) : []);
    }
    const outcomes = question && known.get(question);
    return outcomes ? { question, outcomes, done: outcomes.length, total: outcomes.length, left: null, trouble: null } : null;
  },
}));

const drawn = () => {
  const hand = userEvent.setup({ delay: null });
  page(newDocument('Nothing open')).drawn(<DesignView />);
  return hand;
};
const find = () => screen.getByRole('button', { name: 'Find designs' });
const chosen = () => screen.getByRole('region', { name: 'The chosen design' });

beforeEach(() => {
  [isLoaded, used, asked] = [true, new Map(), null];
  // Nothing is laid out here, and nothing scrolls.
  Element.prototype.scrollIntoView = () => undefined;
});
afterEach(clear);

describe('design from a goal', () => {
  test('says by its field what cannot be read, asks nothing meanwhile, and keeps what was typed', async () => {
    const hand = drawn();
    await hand.clear(screen.getByLabelText('Charged to'));
    await hand.type(screen.getByLabelText('Charged to'), '2 A');
    await hand.type(screen.getByLabelText('Budget'), 'plenty');
    await hand.click(find());
    expect(screen.getAllByRole('alert').map(({ textContent }) => textContent)).toEqual([
      expect.stringMatching(/^Charged to/),
      expect.stringMatching(/^Budget must be an amount/),
    ]);
    expect(screen.getByLabelText('Charged to')).toHaveProperty('value', '2 A');
    expect(asked).toBeNull();
    await hand.clear(screen.getByLabelText('Budget'));
    expect(screen.getAllByRole('alert')).toHaveLength(1);
  });

  test('shows the first design with its bill, what is to be confirmed, and the others with what beats them', async () => {
    const hand = drawn();
    await hand.click(find());
    const heading = within(chosen()).getByRole('heading');
    expect(heading.textContent).toMatch(/^1\. \ds × \dp of /);
    const bill = within(chosen()).getByRole('table', { name: 'Bill of materials' });
    expect(within(bill).getAllByText('on the shelf').length).toBeGreaterThan(0);
    expect(within(bill).getByText(/Their label does not say it: confirm rated reversal at least/)).toBeTruthy();
    expect(chosen().textContent).toMatch(/stores up to \S+ J and drives up to \S+ kA, worst case/);
    const others = screen.getByRole('table', { name: 'Designs, those that nothing beats first' });
    expect(within(others).getAllByText(/^No\. \d+ .*, and is worse in nothing\.$/).length).toBeGreaterThan(0);
    const [, second] = within(others).getAllByRole('button');
    if (!second) throw new Error('there is one design alone');
    second.focus();
    await hand.keyboard('{Enter}');
    await waitFor(() => expect(document.activeElement).toBe(within(chosen()).getByRole('heading')));
    expect(within(chosen()).getByRole('heading').textContent).toBe(`2. ${second.textContent}`);
  });

  test('takes no part of a built rig, and none where the shelf is left out', async () => {
    const can = parts.find(({ part }) => part.tag === 'C-001');
    if (!can) throw new Error('the demo shelf has no C-001');
    used = new Map([[can.id, [{ rigId: 'r', name: 'Anvil', built: true }]]]);
    const hand = drawn();
    await hand.click(find());
    expect(asked?.shelf.length).toBeGreaterThan(10);
    expect(asked?.shelf.map(({ id }) => id)).not.toContain(can.id);
    expect(asked?.shelf.every(({ part }) => part.condition === 'good')).toBe(true);
    await hand.click(screen.getByRole('checkbox', { name: /Parts of my shelf first/ }));
    await hand.click(find());
    // As much as the shelf gives is no question without it.
    expect(screen.getByRole('alert').textContent).toMatch(/^Energy is asked for/);
    await hand.type(screen.getByLabelText('Energy, at least'), '40 J');
    await hand.click(find());
    expect(asked?.shelf).toEqual([]);
    expect(within(chosen()).getByRole('table').textContent).not.toMatch(/on the shelf/);
  });

  test('waits for the shelf, but not where it is left out', async () => {
    isLoaded = false;
    const hand = drawn();
    expect(find()).toHaveProperty('disabled', true);
    await hand.click(screen.getByRole('checkbox', { name: /Parts of my shelf first/ }));
    expect(find()).toHaveProperty('disabled', false);
  });

  test('what nothing reaches says by what each fell', async () => {
    const hand = drawn();
    await hand.type(screen.getByLabelText('Budget'), '1');
    await hand.click(find());
    expect(screen.queryByRole('region', { name: 'The chosen design' })).toBeNull();
    expect(screen.getByText(/Nothing that was tried does it/)).toBeTruthy();
    expect(screen.getByRole('list').textContent).toMatch(/Budget \(\d+\), such as .*: it comes to \d+/);
  });
});
