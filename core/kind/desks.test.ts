import { expect, test } from 'vitest';
import { demoRig } from '../test/rigs.ts';
import { desksOf, newRig } from '../rig/index.ts';
import { blockDefinitions } from './index.ts';

test('a rig has the desks of its blocks, each once, and no kind names one desk in two ways', () => {
  const routes = (of: Parameters<typeof desksOf>[0]) => desksOf(of).map(({ route }) => route);
  expect(routes(newRig())).toEqual(['switches', 'bleed', 'guard']);
  expect(new Set(routes(demoRig('kittiwake')))).toEqual(
    new Set(['erection', 'stages', 'commission', 'gap', 'switches', 'bleed', 'guard']),
  );
  expect(new Set(routes(demoRig('shuttle')))).toEqual(new Set(['switches', 'launch', 'better', 'coil', 'bleed', 'guard']));
  expect(new Set(routes(demoRig('cricket')))).toEqual(new Set(['tank', 'switches', 'bleed', 'guard']));
  const byRoute = new Map<string, object>();
  for (const desk of blockDefinitions.flatMap(({ desks }) => desks ?? [])) {
    expect(byRoute.get(desk.route) ?? desk, desk.route).toBe(desk);
    byRoute.set(desk.route, desk);
    expect(desk.words.length).toBeGreaterThan(1);
  }
});
