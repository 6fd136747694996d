import { expect, test } from '@playwright/test';
import { rigInList } from './pages.ts';

test('units are chosen by who reads them, and every page and worker answers in them', async ({ page }) => {
  await page.goto('/rigs');
  await expect(page.locator('tr[data-rig]').first()).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Find a part, a rig, a run, a shot, a sum or an action').fill('inches');
  await expect(page.getByRole('option', { name: /^Units/, selected: true })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Units' })).toBeVisible();
  await expect(page.getByText('These are in use.')).toBeVisible();
  for (const choice of [/^Imperial/, 'psi', /^Comma/]) await page.getByRole('radio', { name: choice }).check();
  // What is chosen is shown before it is used.
  await expect(page.getByRole('row', { name: /A gap/ })).toContainText('0,374 in');
  await page.getByRole('button', { name: 'Use these units' }).click();
  await expect(page.getByText('These are in use.')).toBeVisible();
  await page.getByRole('link', { name: 'Rigs', exact: true }).click();
  await (await rigInList(page, 'Shuttle')).click();
  await page.getByRole('navigation', { name: 'Pages of the rig' }).getByRole('link', { name: 'Launch' }).click();
  await expect(page.getByText(/Muzzle speed/).first()).toContainText(/\d,\d ft\/s/);
  await page.getByRole('link', { name: 'Run sheet' }).click();
  await expect(page.getByRole('heading', { name: /Run sheet/ }).first()).toBeVisible();
  // A sheet is read by several people: its numbers are nobody's own.
  await expect(page.getByText(/\d\.\d+ k?V/).first()).toBeVisible();
  // In a field what is typed stays, and what a comma makes doubtful is refused with its way out.
  await page.getByRole('link', { name: 'Rig', exact: true }).click();
  const field = page.getByLabel('Charged to').first();
  await field.fill('0,34 kV');
  await expect(page.getByRole('navigation', { name: 'Pages of the rig' })).toBeVisible();
  await field.fill('1.250 kV');
  await expect(page.getByRole('alert').filter({ hasText: 'thousands or decimals' })).toContainText('with a comma');
});
