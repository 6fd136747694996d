import { describe, expect, test } from 'vitest';
import { allDesks } from '../kind/index.ts';
import { demoRig } from '../test/rigs.ts';
import { allPages, desksOf, newRig, pageGroups, pagesOf } from './index.ts';

const groupsOf = (pages: readonly { readonly group: string }[]) =>
  pages.map(({ group }) => pageGroups.findIndex(({ id }) => id === group));

describe('the pages of a rig', () => {
  test.each(['anvil', 'cricket', 'kittiwake', 'shuttle', 'thimble'] as const)(
    'of %s stand in the order of the work: those that every rig has and those of its own kinds, each once',
    (name) => {
      const rig = demoRig(name);
      const pages = pagesOf(rig);
      const routes = pages.map(({ route }) => route);
      expect(new Set(routes).size).toBe(routes.length);
      for (const route of ['', 'studies', 'faults', 'run-sheet', 'rehearse', 'campaigns', 'runs', 'shots', 'revisions'])
        expect(routes).toContain(route);
      for (const { route } of desksOf(rig)) expect(routes).toContain(route);
      expect(routes.length).toBe(9 + desksOf(rig).length);
      const groups = groupsOf(pages);
      expect(groups).toEqual([...groups].sort((a, b) => a - b));
      expect(routes[0]).toBe('');
      expect(routes.at(-1)).toBe('revisions');
    },
  );

  test('of every kind stand among all of them, whatever rig is open, in the same order as on a rig', () => {
    const all = allPages.map(({ route }) => route);
    for (const { route } of allDesks) expect(all).toContain(route);
    for (const name of ['kittiwake', 'shuttle', 'cricket'] as const) {
      const places = pagesOf(demoRig(name)).map(({ route }) => all.indexOf(route));
      expect(places).toEqual([...places].sort((a, b) => a - b));
    }
  });

  test('a bank has no page of a Marx, and a Marx has', () => {
    const routes = (rig = newRig()) => pagesOf(rig).map(({ route }) => route);
    expect(routes()).not.toContain('erection');
    expect(routes(demoRig('kittiwake'))).toEqual(expect.arrayContaining(['gap', 'erection', 'stages', 'bleed', 'commission']));
    expect(routes(demoRig('shuttle'))).toEqual(expect.arrayContaining(['coil', 'better', 'launch']));
  });
});
