import { readFile } from 'node:fs/promises';
import { expect, test, type Page } from '@playwright/test';
import { newShot, openRig, RigPage } from './pages.ts';
import { findings, inEachOthersWay, isLong, refusedByPolicy, widths } from './screen-checks.ts';

/** A dialog, sheet or menu, and how a person opens it. What opens on other ways stands in access.spec.ts. */
interface Opening {
  readonly what: string;
  readonly at: string | { readonly rig: string; readonly page?: string };
  open(page: Page): Promise<void>;
}

const click = (role: 'button' | 'link', name: string | RegExp) => (page: Page) => page.getByRole(role, { name }).first().click();

const openings: readonly Opening[] = [
  { what: 'Share', at: { rig: 'Anvil' }, open: click('button', 'Share') },
  { what: 'Save revision', at: { rig: 'Anvil' }, open: click('button', 'Save revision') },
  { what: 'the shelf for a block', at: { rig: 'Anvil' }, open: click('button', /^(Use another|Use .* from the shelf)$/) },
  { what: 'actions of a rig', at: '/rigs', open: click('button', 'Actions of Anvil') },
  {
    what: 'the working of a number on the list',
    at: '/rigs',
    open: (page) => page.getByRole('row', { name: /Anvil/ }).getByRole('button').first().click(),
  },
  {
    what: 'a term',
    at: { rig: 'Anvil' },
    open: async (page) => {
      const rig = new RigPage(page);
      await rig.everyFigure();
      await rig.figure('damping-ratio').click();
      await page.getByRole('button', { name: 'Damping ratio: what it is' }).click();
    },
  },
  { what: 'Log a shot', at: { rig: 'Thimble', page: 'shots' }, open: click('button', 'Log a shot') },
  {
    what: 'more like a part',
    at: '/parts',
    open: async (page) => {
      await page.locator('[data-part="C-011"]').click();
      await page.getByRole('button', { name: 'More like it' }).click();
    },
  },
  {
    what: 'pages of a rig on a phone',
    at: { rig: 'Anvil' },
    open: async (page) => {
      await page.setViewportSize({ width: 390, height: 844 });
      await page
        .getByRole('button', { name: /^Design: Rig/ })
        .first()
        .click();
    },
  },
  {
    what: 'a parts table to import',
    at: '/parts',
    open: (page) =>
      page.getByLabel('Table or file of parts to import').setInputFiles({
        name: 'box.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from('tag,kind,name,capacitance\nX-1,capacitor,Film,10 µF\nX-2,capacitor,Film,12 µF\n'),
      }),
  },
  {
    what: 'an archive to import',
    at: { rig: 'Kittiwake', page: 'revisions' },
    open: async (page) => {
      const [download] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('link', { name: 'Share with parts, runs and shots' }).click(),
      ]);
      const archive = await readFile(await download.path());
      await page.goto('/rigs');
      await page
        .getByLabel('Rig file or archive to import')
        .setInputFiles({ name: 'kittiwake.zip', mimeType: 'application/zip', buffer: archive });
    },
  },
  {
    what: 'the layout of a trace',
    at: '/rigs',
    open: async (page) => {
      await newShot(page, '35 V');
      await page.getByLabel('Oscilloscope trace').setInputFiles({
        name: 'unknown layout.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from(`t;u\n${Array.from({ length: 60 }, (_, i) => `${i};${60 - i}`).join('\n')}\n`),
      });
    },
  },
];

test.describe.configure({ timeout: 120_000, mode: 'parallel' });

for (const { what, at, open } of openings)
  test(`${what} can be used by everyone once it is open, and is left by Escape`, async ({ page }) => {
    const policy = refusedByPolicy(page);
    if (typeof at === 'string') await page.goto(at);
    else {
      await openRig(page, at.rig);
      if (at.page !== undefined) await page.goto(`${page.url()}/${at.page}`);
    }
    await expect(page.locator('main')).toBeVisible();
    await open(page);
    const opened = page.locator('[role=dialog], [role=menu]').first();
    await expect(opened).toBeVisible();
    for (const theme of isLong ? (['day', 'night'] as const) : (['day'] as const))
      expect(await findings(page, theme, '[role=dialog], [role=menu]')).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(page.locator('[role=dialog], [role=menu]')).toHaveCount(0);
    expect(policy.words).toEqual([]);
  });

test('text of twice the size lies on nothing else and leaves no control out of reach', async ({ page }) => {
  const rig = await openRig(page, 'Kittiwake');
  await expect(rig.strip).toBeVisible();
  const id = new URL(page.url()).pathname;
  const found: string[] = [];
  for (const path of [
    id,
    `${id}/run-sheet`,
    `${id}/bleed`,
    `${id}/shots`,
    '/rigs',
    '/parts',
    '/runs',
    '/start',
    '/start/marx',
    '/sums',
    '/discharge',
    '/units',
    '/design',
  ]) {
    await page.goto(path);
    await expect(page.locator('main h1').first()).toBeAttached();
    await page.evaluate(() => (document.documentElement.style.fontSize = '200%'));
    for (const width of isLong ? widths : [390]) {
      await page.setViewportSize({ width, height: 900 });
      await page.waitForTimeout(300);
      found.push(...(await inEachOthersWay(page)).map((words) => `${path} at ${width} px: ${words}`));
    }
  }
  expect(found).toEqual([]);
});
