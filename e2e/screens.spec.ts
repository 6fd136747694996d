import { readFileSync } from 'node:fs';
import { expect, test as base, type Page } from '@playwright/test';
import { beginRun, pickRig } from './pages.ts';
import { findings, inEachOthersWay, isLong, putOn, refusedByPolicy, widths } from './screen-checks.ts';

/** One window for all the screens that a worker looks at: scripts that were read once are not read again. */
const test = base.extend<object, { window: Page }>({
  window: [
    async ({ browser }, use, { project }) => {
      const context = await browser.newContext({ baseURL: project.use.baseURL ?? '', viewport: { width: 1280, height: 800 } });
      await use(await context.newPage());
      await context.close();
    },
    { scope: 'worker' },
  ],
});

/** A screen of the router, and for what rig of the demo. */
interface Screen {
  readonly path: string;
  /** Of a run: one that has begun and not ended, the screen that stands beside a charged store. */
  readonly isUnderWay?: true;
  readonly rig?: string;
  /** Hundreds of rows that are like those before them: only the long run looks at them. */
  readonly alike?: string;
}

const alike = 'main > section:nth-of-type(n + 4):not(:last-of-type)';

const of = (rig: string, ...desks: string[]): Screen[] => desks.map((desk) => ({ path: `rigs/:id${desk && `/${desk}`}`, rig }));

const screens: readonly Screen[] = [
  ...of(
    'Anvil',
    '',
    'studies',
    'run-sheet',
    'rehearse',
    'campaigns',
    'runs',
    'shots',
    'revisions',
    'bleed',
    'scale',
    'switches',
    'coil',
    'faults',
    'guard',
  ),
  ...of('Kittiwake', 'gap', 'erection', 'stages', 'commission', 'campaigns/:campaign'),
  ...of('Shuttle', '', 'launch', 'better'),
  ...of('Cricket', 'tank'),
  ...[
    'rigs',
    'parts',
    'parts/lots',
    'parts/composer',
    'parts/home-made',
    'parts/measure',
    'parts/labels',
    'runs',
    'runs/:id',
    'shots',
    'shots/:id',
    'backups',
    'opening',
    'people',
    'audit',
    'account',
    'join',
    'start',
    'start/:starter',
    'guide',
    'guide/:guide',
    'glossary',
    'units',
    'design',
    'discharge',
    'sums',
    'sums/:formulaId',
    '*',
  ].map((path) => ({ path })),
  { path: 'runs/:id', isUnderWay: true },
  { path: 'evidence', alike },
  { path: 'evidence/:kind/:id', alike },
];

interface Listed {
  readonly rows: readonly { readonly id: string; readonly name?: string; readonly at?: string; readonly rehearsal?: unknown }[];
}
/**
 * Waits until nothing more came from the server for a while. Not for an idle network: a script that was asked for by a worker that is
 * no more never ends for the one who watches, and a run asks once a second what other screens did.
 */
async function settled(page: Page): Promise<void> {
  const loaded = () =>
    page.evaluate(() => performance.getEntriesByType('resource').filter(({ name }) => !/\/api\//.test(name)).length);
  let [before, since] = [-1, Date.now()];
  for (const until = Date.now() + 15_000; Date.now() < until && Date.now() - since < 600; await page.waitForTimeout(100)) {
    const now = await loaded();
    if (now !== before) [before, since] = [now, Date.now()];
  }
}

/** Begins a rehearsal and leaves it at its first step. */
async function underWay(page: Page): Promise<string> {
  await page.goto('/runs');
  await pickRig(page, 'Rig to run', 'Thimble');
  await page.getByRole('button', { name: 'Run or rehearse' }).click();
  await page.getByLabel('Rehearsal, on a simulated rig').check();
  await page.getByRole('button', { name: 'Open the rehearsal' }).click();
  await beginRun(page);
  return new URL(page.url()).pathname;
}

async function addressOf(page: Page, { path, rig, isUnderWay }: Screen): Promise<string> {
  const ask = async (what: string) => (await (await page.request.get(`/api/${what}?limit=50&q=${rig ?? ''}`)).json()) as Listed;
  if (rig !== undefined) {
    const found = (await ask('rigs')).rows.find(({ name }) => name === rig);
    if (!found) throw new Error(`there is no ${rig}`);
    const address = `/${path.replace(':id', found.id)}`;
    if (!path.includes(':campaign')) return address;
    const campaigns = (await (await page.request.get(`/api/campaigns?rig=${found.id}`)).json()) as { id: string }[];
    return address.replace(':campaign', campaigns[0]?.id ?? 'none');
  }
  switch (path) {
    case 'runs/:id':
      if (isUnderWay) return underWay(page);
      return `/runs/${(await ask('runs')).rows.find(({ at, rehearsal }) => at === 'ended' && rehearsal === null)?.id ?? 'none'}`;
    case 'guide/:guide':
      return '/guide/first-marx';
    case 'shots/:id':
      return `/shots/${(await ask('shots')).rows[0]?.id ?? 'none'}`;
    case 'start/:starter':
      return '/start/marx';
    case 'sums/:formulaId':
      return '/sums/rlc-peak-current';
    case 'evidence/:kind/:id':
      return '/evidence/formulas/rlc-peak-current';
    case '*':
      return '/nowhere';
    default:
      return `/${path}`;
  }
}

test.describe.configure({ timeout: 240_000, mode: 'parallel' });

test('every route of the router, and every desk of a kind, is looked at here', () => {
  const router = readFileSync(new URL('../web/app/routes.tsx', import.meta.url), 'utf8');
  const pathsIn = (text = '') =>
    [...text.matchAll(/^ {2}(?:'(.+)'|(\w+)): page\(|path: '([^']+)'/gm)].map((found) => found.slice(1).join(''));
  const [others, ofKinds] = router.split('const rigViews').map(pathsIn) as [string[], string[]];
  const desks = ofKinds.map((path) => (/^(join|runs\/:id|rigs\/:id|\*)$/.test(path) ? path : `rigs/:id/${path}`));
  expect([others.length, desks.length].every((count) => count > 9)).toBe(true);
  const known = new Set(screens.map(({ path }) => path));
  expect([...new Set([...others, ...desks])].filter((path) => !known.has(path))).toEqual([]);
});

test('what is wrong is found: grey on white, a field without its name, a line on a line, a button under a box', async ({
  page,
}) => {
  await page.goto('/units');
  await expect(page.locator('main h1').first()).toBeVisible();
  await page.evaluate(() => {
    document.body.innerHTML = `<main><h1>Wrong</h1><p class="one">pale</p><input /><p class="two">first line</p><p class="three">second line</p>
      <button>covered</button><div class="four">box</div></main>`;
    const put = (at: string, style: Partial<CSSStyleDeclaration>) =>
      Object.assign((document.querySelector(at) as HTMLElement).style, style);
    put('main', { background: '#fff', position: 'relative' });
    put('.one', { color: '#ccc' });
    put('.three', { marginTop: '-20px' });
    put('.four', { position: 'absolute', inset: 'auto 0 0 0', height: '60px', background: '#fff' });
  });
  const said = [...(await findings(page, 'day')), ...(await findings(page, 'night')), ...(await inEachOthersWay(page))].join(
    '\n',
  );
  expect(said).toContain('by day: color-contrast');
  expect(said).toContain('by night: color-contrast');
  expect(said).toMatch(/by day: label /);
  expect(said).toMatch(/first line.*second line.*lie on each other/);
  expect(said).toContain('“covered” is covered by div');
  expect(await findings(page, 'day', '.two')).toEqual([]);
  expect(await findings(page, 'day', '.one')).toHaveLength(1);
});

for (const screen of screens) {
  test(`${screen.path}${screen.isUnderWay ? ', under way' : ''}${screen.rig === undefined ? '' : ` of ${screen.rig}`}: nothing overlaps on four widths, and everyone can use it by day and night`, async ({
    window: page,
  }) => {
    const policy = refusedByPolicy(page);
    await page.goto(await addressOf(page, screen));
    await expect(page.locator('main')).toBeVisible();
    await expect(page.getByText(/^(Fetching|Calculating|Working)/)).toHaveCount(0, { timeout: 60_000 });
    await settled(page);
    if (screen.alike !== undefined && !isLong)
      await page.locator(screen.alike).evaluateAll((all) => all.forEach((one) => ((one as HTMLElement).hidden = true)));
    const found: string[] = [];
    // Two widths each time, a hand's and a desk's; all four at length.
    for (const width of widths.filter((one) => isLong || one === 390 || one === 1280)) {
      await page.setViewportSize({ width, height: 900 });
      await putOn(page, 'day');
      // Charts and what measures itself follow the new width.
      await page.waitForTimeout(250);
      // The checker takes seconds: at every width in the long run, else where the interface is for a hand and for a desk.
      const themes = isLong
        ? (['day', 'night'] as const)
        : width === 390
          ? (['day'] as const)
          : width === 1280
            ? (['night'] as const)
            : [];
      const all = await inEachOthersWay(page);
      for (const theme of themes) all.push(...(await findings(page, theme)));
      found.push(...all.map((words) => `${width} px: ${words}`));
    }
    policy.end();
    expect([...found, ...policy.words]).toEqual([]);
  });
}
