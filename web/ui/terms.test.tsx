// @vitest-environment jsdom
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { afterEach, expect, test } from 'vitest';
import { clear, withoutLayout } from '../test/render.tsx';
import { Terms } from './terms.tsx';

afterEach(clear);

test('a term opens its sentence by the keyboard, with the way to the whole list, and Esc closes it; the text stays as it is', async () => {
  withoutLayout();
  render(
    <MemoryRouter>
      <p>
        <Terms>Hold-off of the switch, and dielectric absorption</Terms>
      </p>
    </MemoryRouter>,
  );
  expect(document.querySelector('p')?.textContent).toBe('Hold-off of the switch, and dielectric absorption');
  const hand = userEvent.setup({ delay: null });
  await hand.tab();
  expect(document.activeElement?.textContent).toBe('Hold-off');
  await hand.keyboard('{Enter}');
  const says = screen.getByRole('dialog');
  expect(says.textContent).toContain('the voltage a gap withstands without firing');
  expect(says.querySelector('a')?.getAttribute('href')).toBe('/glossary#hold-off');
  await hand.keyboard('{Escape}');
  expect(screen.queryByRole('dialog')).toBeNull();
});
