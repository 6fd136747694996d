// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, expect, test } from 'vitest';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { useTypedParams } from './typed-params.ts';

afterEach(cleanup);

const entries = { from: ['2', '3'], to: ['9'] } as const;

/** What stands in the page, and a button for each entry that is made. */
function Page() {
  const [params, put] = useTypedParams();
  return (
    <>
      <output>{params.toString()}</output>
      {Object.entries(entries).flatMap(([name, values]) =>
        values.map((value) => (
          <button key={name + value} type="button" onClick={() => put((next) => next.set(name, value))}>
            {name} {value}
          </button>
        )),
      )}
    </>
  );
}
const enter = (what: string) => fireEvent.click(screen.getByRole('button', { name: what }));
const shown = () => screen.getByRole('status').textContent;

/** A router whose address comes only once it is let. */
async function open(at: string) {
  let hold: Promise<void> = Promise.resolve();
  let come: () => void = () => undefined;
  const router = createMemoryRouter(
    [{ path: '*', element: <Page />, loader: () => hold.then(() => null), hydrateFallbackElement: <p>…</p> }],
    { initialEntries: [at] },
  );
  await act(async () => {
    render(<RouterProvider router={router} />);
    await Promise.resolve();
  });
  await screen.findByRole('status');
  return {
    router,
    later: () => {
      hold = new Promise((resolve) => (come = resolve));
    },
    comes: () => act(async () => void (await Promise.resolve(come()))),
  };
}

test('two entries in a row both stand, though the address has not come meanwhile', async () => {
  const { router, later, comes } = await open('/rigs/a/studies?from=1');
  later();
  enter('from 2');
  enter('to 9');
  expect(shown()).toBe('from=2&to=9');
  expect(router.state.location.search).toBe('?from=1');
  await comes();
  expect([shown(), router.state.location.search]).toEqual(['from=2&to=9', '?from=2&to=9']);
});

test('where somebody goes counts, also back to where it was', async () => {
  const { router } = await open('/rigs/a/studies?from=1');
  await act(async () => {
    enter('from 2');
    await Promise.resolve();
  });
  await act(() => router.navigate('/rigs/a/studies?of=matters'));
  expect(shown()).toBe('of=matters');
  await act(async () => {
    enter('from 3');
    await Promise.resolve();
  });
  expect(shown()).toBe('of=matters&from=3');
  await act(() => router.navigate('/rigs/a/studies'));
  expect(shown()).toBe('');
});
