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
  // Another one is chosen from the list by the keyboard, and the page goes to it.
  const second = page.getByRole('table', { name: 'Designs, those that nothing beats first' }).getByRole('button').nth(1);
  const name = (await second.textContent()) ?? '';
  await second.press('Enter');
  await expect(chosen.getByRole('heading', { name: `2. ${name}` })).toBeFocused();
  await expect(chosen.getByRole('table', { name: 'Bill of materials' })).toContainText('Discharge stick');
  expect(await findings(page, 'day')).toEqual([]);
  await chosen.getByRole('button', { name: 'Make this rig' }).click();
  await expect(page.getByRole('region', { name: 'Store fields' })).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(name.slice(0, 20));
});
