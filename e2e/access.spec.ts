import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { newBank, openRig } from './pages.ts';

/** No serious or critical finding of WCAG 2.2 AA, in the words of the checker: by day, then by night, where only colours can differ. */
async function check(page: Page, where: string): Promise<void> {
  const look = async (theme: 'day' | 'night', builder: AxeBuilder) => {
    await page.evaluate((chosen) => {
      localStorage.setItem('vast-surge.theme', chosen);
      document.documentElement.dataset['theme'] = chosen;
      window.dispatchEvent(new Event('vast-surge-theme'));
    }, theme);
    const { violations } = await builder.analyze();
    const grave = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical');
    return grave.map((v) => `${where} by ${theme}: ${v.id} ${v.nodes.map((n) => n.target.join(' ')).join('; ')}`);
  };
  const byDay = await look('day', new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']));
  const byNight = await look('night', new AxeBuilder({ page }).withRules(['color-contrast']));
  expect([...byDay, ...byNight]).toEqual([]);
}

// Each looks at screens of its own: they share the browsers between them.
test.describe.configure({ timeout: 180_000, mode: 'parallel' });

test('the list, the sums and the keys can be used by everyone', async ({ page }) => {
  await page.goto('/rigs');
  await expect(page.getByRole('link', { name: 'Anvil', exact: true })).toBeVisible();
  await check(page, 'rigs');
  await page.goto('/sums/rlc-peak-current');
  await check(page, 'sum');
  await page.keyboard.press('?');
  await check(page, 'keys');
});

test('the rig page with its working, its reasons and its problems can be used by everyone', async ({ page }) => {
  const rig = await openRig(page, 'Anvil');
  await page.getByRole('tab', { name: 'Bleed', exact: true }).click();
  await check(page, 'rig');
  await rig.figure('bleed-time').click();
  await check(page, 'working');
  await page.keyboard.press('Escape');
  await rig.strip.getByRole('button').first().click();
  await check(page, 'hazard reasons');
  const broken = await newBank(page);
  await broken.type('Charged to', '90 V');
  await broken.type('Capacitance of one', '5 V');
  await broken.type('Dc rating of one', '60 V');
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
  await page.goto('/parts/composer');
  await expect(page.getByRole('region', { name: 'Bank' })).toContainText('Uneven groups cost');
  await check(page, 'composer');
  await page.goto('/discharge');
  await check(page, 'discharge');
  await page.goto('/parts/home-made');
  await check(page, 'home-made');
});

test('the run sheet and the revisions can be used by everyone', async ({ page }) => {
  await openRig(page, 'Anvil');
  await page.getByRole('link', { name: 'Run sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Run sheet: Anvil' })).toBeVisible();
  await check(page, 'run sheet');
  await page.goto(page.url().replace('run-sheet', 'revisions'));
  await page.getByRole('button', { name: 'Close a revision now' }).click();
  await page.getByRole('button', { name: 'Close it' }).click();
  await expect(page.getByRole('region', { name: 'Comparison' })).toContainText('Limits');
  await check(page, 'revisions');
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('option').first()).toBeVisible();
  await check(page, 'finder');
});

test('the tank page and the bleed desk can be used by everyone', async ({ page }) => {
  await openRig(page, 'Cricket');
  await page.goto(`${page.url()}/tank`);
  await expect(page.getByText(/By the solver: \d/)).toBeVisible({ timeout: 60_000 });
  await check(page, 'tank');
  await page.getByRole('link', { name: 'Bleeding it, capacitor by capacitor' }).click();
  await expect(page.getByRole('region', { name: 'What the terminals do not show' })).toBeVisible();
  await check(page, 'bleed desk');
});

test('runs, run mode, shots and a shot can be used by everyone', async ({ page }) => {
  await page.goto('/runs');
  await page.getByLabel('Rig to run').selectOption({ label: 'Thimble' });
  await check(page, 'runs');
  await page.getByRole('button', { name: 'Run or rehearse' }).click();
  await page.getByLabel('Rehearsal, on a simulated rig').check();
  await page.getByLabel('chosen').check();
  await check(page, 'begin a rehearsal');
  await page.getByRole('button', { name: 'Open the rehearsal' }).click();
  await expect(page.getByRole('heading', { name: 'Run of Thimble' })).toBeVisible();
  await check(page, 'before a run');
  await page.getByLabel('Key holder, who acts').fill('ab');
  await page.getByLabel('Reader', { exact: true }).fill('cd');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText(/^Step 1 of/)).toBeVisible();
  await expect(page.getByText('meter shows')).toBeVisible();
  await check(page, 'run mode');
  await page.goto('/shots');
  await check(page, 'shots');
  await page.getByRole('button', { name: 'As a series' }).click();
  await check(page, 'series');
  await page.getByRole('button', { name: 'As a list' }).click();
  await page.getByLabel('Search the shots').fill('last before the strap');
  await expect(page.locator('tbody tr')).toHaveCount(1);
  await page.locator('tbody a').first().click();
  await expect(page.getByText('Fit, 95 %').first()).toBeVisible();
  await check(page, 'a shot');
  await page.goto('/rigs');
  await page.getByRole('link', { name: 'Run sheet of Thimble', exact: true }).click();
  await page.getByRole('button', { name: 'Edit', exact: true }).click();
  await check(page, 'the run sheet while it is edited');
});

for (const width of [390, 1920]) {
  test(`no screen is wider than ${width} px`, async ({ page }) => {
    await page.setViewportSize({ width, height: 900 });
    await openRig(page, 'Anvil');
    const overflow = () => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
    expect(await overflow()).toBe(0);
    await page.goto('/rigs');
    await expect(page.getByRole('link', { name: 'Anvil', exact: true })).toBeVisible();
    expect(await overflow()).toBe(0);
    await page.goto('/sums/rlc-peak-current');
    expect(await overflow()).toBe(0);
    for (const [path, heading] of [
      ['/runs', 'Runs'],
      ['/shots', 'Shots'],
    ] as const) {
      await page.goto(path);
      await expect(page.getByRole('heading', { name: heading })).toBeVisible();
      await expect(page.getByRole('row').nth(1)).toBeVisible();
      expect(await overflow()).toBe(0);
    }
    await openRig(page, 'Cricket');
    const rig = page.url();
    for (const [desk, what] of [
      ['tank', 'Charged in other ways'],
      ['bleed', 'What the terminals do not show'],
    ] as const) {
      await page.goto(`${rig}/${desk}`);
      await expect(page.getByRole('region', { name: what })).toBeVisible();
      expect(await overflow()).toBe(0);
    }
    // Run mode, at the demo run that can be played again.
    await page.goto('/runs');
    await page
      .getByRole('row', { name: /live.*IW, TO/ })
      .getByRole('link')
      .first()
      .click();
    await expect(page.getByRole('heading', { name: 'Handed over' })).toBeVisible();
    expect(await overflow()).toBe(0);
  });
}
