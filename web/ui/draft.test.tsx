// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, test } from 'vitest';
import { useDraft } from './draft.ts';

interface Typed {
  readonly text: string;
}
const isTyped = (value: unknown): value is Typed =>
  typeof value === 'object' && value !== null && 'text' in value && typeof value.text === 'string';

function Form() {
  const { draft, set, sent } = useDraft<Typed>('test', () => ({ text: '' }), isTyped);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        sent();
      }}
    >
      <input aria-label="Reading" value={draft.text} onChange={(event) => set({ text: event.target.value })} />
      <button type="submit">Send</button>
    </form>
  );
}

afterEach(() => {
  cleanup();
  localStorage.clear();
});
const reading = () => screen.getByLabelText<HTMLInputElement>('Reading').value;

test('what was typed is there again after a reload, until it is sent', async () => {
  const user = userEvent.setup();
  const first = render(<Form />);
  await user.type(screen.getByLabelText('Reading'), '97 A');
  first.unmount();
  const second = render(<Form />);
  expect(reading()).toBe('97 A');
  await user.click(screen.getByRole('button', { name: 'Send' }));
  second.unmount();
  render(<Form />);
  expect(reading()).toBe('');
});

test('what the device kept and is none of these is left aside', () => {
  localStorage.setItem('vast-surge.draft.test', '{"text":7}');
  render(<Form />);
  expect(reading()).toBe('');
});
