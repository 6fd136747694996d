import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { newBank, openRig } from './pages.ts';

/** No serious or critical finding of WCAG 2.2 AA, in the words of the checker. */
async function accessible(page: Page, where: string): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  const grave = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical');
  expect(grave.map((v) => `${where}: ${v.id} ${v.nodes.map((n) => n.target.join(' ')).join('; ')}`)).toEqual([]);
}

for (const theme of ['day', 'night'] as const) {
  test(`every screen, ${theme}, can be used by everyone`, async ({ page }) => {
    await page.addInitScript((t) => localStorage.setItem('vast-surge.theme', t), theme);
    await page.goto('/rigs');
    await expect(page.getByRole('link', { name: 'Anvil', exact: true })).toBeVisible();
    await accessible(page, 'rigs');
    const rig = await openRig(page, 'Anvil');
    for (const tab of ['Charge', 'Discharge', 'Bleed']) {
      await page.getByRole('tab', { name: tab, exact: true }).click();
      await accessible(page, tab);
    }
    await rig.figure('bleed-time').click();
    await accessible(page, 'working');
    await page.keyboard.press('Escape');
    await rig.strip.getByRole('button').first().click();
    await accessible(page, 'hazard reasons');
    await page.keyboard.press('Escape');
    await page.getByRole('link', { name: 'Run sheet' }).click();
    await expect(page.getByRole('heading', { name: 'Run sheet: Anvil' })).toBeVisible();
    await accessible(page, 'run sheet');
    await page.goto('/sums/rlc-peak-current');
    await accessible(page, 'sum');
    await page.keyboard.press('?');
    await accessible(page, 'keys');
    const broken = await newBank(page);
    await broken.type('Charged to', '90 V');
    await broken.type('Capacitance of one', '5 V');
    await broken.type('Dc rating of one', '60 V');
    await accessible(page, 'a rig with problems');
  });
}

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
  });
}
