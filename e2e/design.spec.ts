import { expect, test } from '@playwright/test';
import { findings } from './screen-checks.ts';

test('a goal becomes a whole rig: within bounds, with its bill, and what cannot be is said by its field', async ({ page }) => {
  await page.goto('/start');
  await page.getByRole('link', { name: /Design from a goal/ }).click();
  await page.getByLabel('Charged to').fill('900 A');
  await page.getByRole('button', { name: 'Find designs' }).click();
  await expect(page.getByRole('alert')).toContainText(/current/);
  await page.getByLabel('Charged to').fill('900 V');
  await page.getByLabel('Energy, at least').fill('25 J');
  await page.getByLabel('Stored energy, at most').fill('60 J');
  await page.getByRole('button', { name: 'Find designs' }).click();
  const chosen = page.getByRole('region', { name: 'The chosen design' });
  await expect(chosen.getByRole('heading')).toContainText(/^1\./);
  await expect(page.getByRole('progressbar')).toHaveCount(0);
  await page.getByText('Why the others were ruled out').click();
  await expect(
    page.getByRole('listitem').filter({ hasText: /Stored energy, at most|Energy, at least|Bank|Capacitor/ }),
  ).not.toHaveCount(0);
  // The same at the worst corner: every design says from what to what it goes, and none below what was asked for.
  const designs = page.getByRole('table', { name: 'Designs, those that nothing beats first' });
  await page.getByLabel(/^The goal holds at the worst corner/).check();
  await page.getByRole('button', { name: 'Find designs' }).click();
  await expect(page.getByText('It is met at the worst corner')).toBeVisible();
  await expect(page.getByRole('progressbar')).toHaveCount(0);
  const reached = await designs.locator('tbody tr td:nth-child(3)').allTextContents();
  const lows = reached.map((text) => Number(/J(\d+(?:\.\d+)?) J to /.exec(text)?.[1]));
  expect(lows.length).toBeGreaterThan(1);
  expect(lows.filter((low) => !(low >= 25))).toEqual([]);
  // Another one is chosen from the list by the keyboard, and the page goes to it.
  const second = designs.getByRole('button').nth(1);
  const name = (await second.textContent()) ?? '';
  await second.press('Enter');
  await expect(chosen.getByRole('heading', { name: `2. ${name}` })).toBeFocused();
  await expect(chosen.getByRole('table', { name: 'Bill of materials' })).toContainText('Discharge stick');
  expect(await findings(page, 'day')).toEqual([]);
  await chosen.getByRole('button', { name: 'Make this rig' }).click();
  await expect(page.getByRole('region', { name: 'Store fields' })).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(name.slice(0, 20));
});
