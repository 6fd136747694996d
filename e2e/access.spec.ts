import { expect, test, type Page } from '@playwright/test';
import { beginRun, newBank, openRig, pickRig, rigAction } from './pages.ts';
import { findings, isLong } from './screen-checks.ts';

/** Nothing serious by day, and at length by night as well: the screens below are looked at in both in any case. */
async function check(page: Page, where: string): Promise<void> {
  const found = [...(await findings(page, 'day')), ...(isLong ? await findings(page, 'night') : [])];
  expect(found.map((words) => `${where} ${words}`)).toEqual([]);
}

// What is opened on a screen; the screens as they come stand in screens.spec.ts. Each test shares the browsers with the others.
test.describe.configure({ timeout: 180_000, mode: 'parallel' });

test('the rig page with its working, its reasons and its problems can be used by everyone', async ({ page }) => {
  const rig = await openRig(page, 'Anvil');
  await page.keyboard.press('?');
  await check(page, 'keys');
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Bleed', exact: true }).click();
  await rig.figure('bleed-time').click();
  await check(page, 'working');
  await page.keyboard.press('Escape');
  await rig.strip.getByRole('button').first().click();
  await check(page, 'hazard reasons');
  const broken = await newBank(page);
  await broken.type('Charged to', '90 V');
  await broken.type('Capacitance, each', '5 V');
  await broken.type('DC rating, each', '60 V');
  await check(page, 'a rig with problems');
});

test('the parts bench can be used by everyone', async ({ page }) => {
  await page.goto('/parts');
  await page.locator('[data-part="C-011"]').click();
  await expect(page.getByRole('region', { name: 'Part C-011' })).toBeVisible();
  await page.locator('[data-part="C-012"]').getByRole('checkbox').check();
  await check(page, 'shelf');
  await page.getByLabel('Filter', { exact: true }).fill('C-033');
  await page.locator('[data-part="C-033"]').click();
  await check(page, 'delta can');
  await page.getByRole('button', { name: 'New parts' }).click();
  await check(page, 'new parts');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Measure' }).click();
  await expect(page.getByRole('heading', { name: 'Discharge it' })).toBeVisible();
  await check(page, 'measuring');
  await page.goto('/parts/lots');
  await page.getByRole('link', { name: 'Ovens from the tip' }).click();
  await check(page, 'lots');
});

test('two revisions compared, and the finder, can be used by everyone', async ({ page }) => {
  await openRig(page, 'Anvil');
  await page.goto(`${page.url()}/revisions`);
  await page.getByRole('button', { name: 'Save revision' }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('region', { name: 'Comparison' })).toContainText('Limits');
  await check(page, 'revisions');
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('option').first()).toBeVisible();
  await check(page, 'finder');
});

test('runs, run mode, shots and a shot can be used by everyone', async ({ page }) => {
  await page.goto('/runs');
  await pickRig(page, 'Rig to run', 'Thimble');
  await page.getByRole('button', { name: 'Run or rehearse' }).click();
  await page.getByLabel('Rehearsal, on a simulated rig').check();
  await page.getByLabel('chosen').check();
  await check(page, 'begin a rehearsal');
  await page.getByRole('button', { name: 'Open the rehearsal' }).click();
  await expect(page.getByRole('heading', { name: 'Run of Thimble' })).toBeVisible();
  await check(page, 'before a run');
  await beginRun(page);
  await expect(page.getByText('Meter shows')).toBeVisible();
  await check(page, 'run mode');
  const pin = page.getByLabel('CD, your PIN');
  for (let i = 0; i < 40 && !(await pin.isVisible()); i++) {
    await page.keyboard.press('Space');
    await page.waitForTimeout(800);
  }
  await pin.fill('1');
  await check(page, 'a hold point');
  await page.goto('/shots');
  await page.getByRole('button', { name: 'Compare as a series' }).click();
  await check(page, 'series');
  await page.goto('/rigs');
  await rigAction(page, 'Thimble', 'Run sheet');
  await page.getByRole('button', { name: 'Edit', exact: true }).click();
  await check(page, 'the run sheet while it is edited');
});
