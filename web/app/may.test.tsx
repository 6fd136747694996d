// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import { afterEach, describe, expect, test } from 'vitest';
import { roles, type Role, type Session } from '@vast-surge/contract';
import { demoDocument } from '../test/demo.ts';
import { clear, page } from '../test/render.tsx';
import { baseApi } from './base-api.ts';
import { ExportLink } from './export-link.tsx';
import { useMayNot, useMayNotOn } from './may.ts';

afterEach(clear);

const closed = '44444444-4444-4444-8444-444444444444';
const alone: Session = { mode: 'alone', account: null, device: null };
const as = (...mine: readonly Role[]): Session => ({
  mode: 'open',
  account: { id: '55555555-5555-4555-8555-555555555555', name: 'Sella', roles: [...mine] } as NonNullable<Session['account']>,
  device: null,
  closedRigs: [closed],
});

async function shown(session: Session, children: React.ReactNode): Promise<void> {
  const { store, drawn } = page(demoDocument('anvil'));
  await store.dispatch(baseApi.util.upsertQueryData('getSession', undefined, session));
  drawn(children);
}

describe('what one may do', () => {
  test.each(roles)('a file of the workshop is for those whose it is; whoever only %s is told why not', async (role) => {
    await shown(
      as(role),
      <ExportLink may={['designs']} href="/api/archive/rigs/x" name="Anvil.zip">
        Share
      </ExportLink>,
    );
    const link = screen.queryByRole('link', { name: 'Share' });
    if (role === 'designs') {
      expect(link?.getAttribute('href')).toBe('/api/archive/rigs/x');
      expect(link?.getAttribute('download')).toBe('Anvil.zip');
    } else {
      expect(link).toBeNull();
      expect(screen.getByText(/^No export: /).textContent).toMatch(new RegExp(`your role is ${role}\\.$`));
    }
  });

  test('alone nobody has to be anybody', async () => {
    await shown(
      alone,
      <ExportLink may={['administers']} href="/api/archive">
        All
      </ExportLink>,
    );
    expect(screen.getByRole('link', { name: 'All' }).getAttribute('href')).toBe('/api/archive');
  });

  test('a rig that is for others is watched by whoever has all roles, and every other one is theirs', async () => {
    const Told = ({ rig }: { rig: string | null }) => <p>{useMayNotOn(rig, 'designs') ?? 'may'}</p>;
    const Both = () => <p>{useMayNot('acts', 'reads') ?? 'may both'}</p>;
    await shown(
      as('designs', 'watches'),
      <>
        <Told rig={closed} />
        <Told rig="66666666-6666-4666-8666-666666666666" />
        <Both />
      </>,
    );
    expect(screen.getByText(/for some people only/)).toBeDefined();
    expect(screen.getByText('may')).toBeDefined();
    expect(screen.getByText(/your roles are designs, watches\.$/)).toBeDefined();
  });
});
