// @vitest-environment jsdom
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, test } from 'vitest';
import { clear } from '../test/render.tsx';
import { useRowKeys } from './use-row-keys.ts';

afterEach(clear);

function List({ names }: { names: readonly string[] }) {
  const keys = useRowKeys();
  return (
    <table>
      <tbody {...keys}>
        {names.map((name) => (
          <tr key={name}>
            <td>
              <a href={`#${name}`}>{name}</a>
            </td>
            <td>
              <button type="button">Actions of {name}</button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

test('a long table is one stop of Tab; arrows go from row to row, in the column one is in, and no further than its ends', async () => {
  const hand = userEvent.setup({ delay: null });
  const names = Array.from({ length: 20 }, (_, i) => `Rig ${i + 1}`);
  const { rerender } = render(
    <>
      <List names={names} />
      <button type="button">After it</button>
    </>,
  );
  await hand.tab();
  expect(document.activeElement?.textContent).toBe('Rig 1');
  await hand.keyboard('{ArrowDown}{ArrowDown}');
  expect(document.activeElement?.textContent).toBe('Rig 3');
  await hand.tab();
  expect(document.activeElement?.textContent).toBe('Actions of Rig 3');
  await hand.keyboard('{ArrowUp}');
  expect(document.activeElement?.textContent).toBe('Actions of Rig 2');
  await hand.tab();
  expect(document.activeElement).toBe(screen.getByText('After it'));
  await hand.tab({ shift: true });
  await hand.keyboard('{End}{ArrowDown}');
  expect(document.activeElement?.textContent).toBe('Actions of Rig 20');
  await hand.keyboard('{Home}{ArrowUp}');
  expect(document.activeElement?.textContent).toBe('Actions of Rig 1');
  // Fewer rows than before: some row is still a stop.
  rerender(<List names={names.slice(0, 2)} />);
  (document.activeElement as HTMLElement | null)?.blur();
  await hand.tab();
  expect(document.activeElement?.textContent).toMatch(/^Rig [12]$/);
});
