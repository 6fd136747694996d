import { expect, test } from '@playwright/test';
import { RigPage } from './pages.ts';

test('a Marx is started by keys from the front page: a wish out of reach has a nearest, and the rig says what is assumed', async ({
  page,
}) => {
  await page.goto('/rigs');
  await page.getByRole('region', { name: 'Start something' }).getByRole('link', { name: 'Marx generator' }).click();
  await expect(page.getByRole('heading', { name: 'Marx generator', level: 1 })).toBeVisible();
  await page.getByLabel('Output').fill('900 kV');
  await page.getByLabel('Output').press('Enter');
  const issue = page.getByRole('alert').first();
  await expect(issue).toContainText('Out of reach.');
  const nearest = page.getByRole('button', { name: /^Use .* J$/ });
  await nearest.click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expect(page.getByLabel('Output')).toHaveValue('900 kV');
  await page.getByRole('button', { name: 'Make this rig' }).click();
  const rig = new RigPage(page);
  await expect(page.getByRole('region', { name: 'Store fields' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Store fields' })).toContainText('assumed');
  await expect(rig.strip).toBeVisible();
  await expect(page.getByRole('link', { name: /^Erection: / })).toBeVisible();
});

test('what cannot be read in a wish says what may stand there, and nothing typed is lost', async ({ page }) => {
  await page.goto('/start/coilgun-stages');
  await page.getByLabel('Stages', { exact: true }).fill('2.5');
  await page.getByLabel('Charged to').fill('330 V ±3 %');
  await page.getByRole('button', { name: 'Make this rig' }).click();
  await expect(page.getByRole('alert')).toContainText('Stages');
  await expect(page.getByLabel('Charged to')).toHaveValue('330 V ±3 %');
  await page.getByLabel('Stages', { exact: true }).fill('2');
  await page.getByRole('button', { name: 'Make this rig' }).click();
  await expect(page.getByRole('button', { name: 'Stage 2', exact: true })).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Charged to', exact: true })).toHaveValue('330 V ±3 %');
});

test('the finder knows every start, and one that is not there leads on', async ({ page }) => {
  await page.goto('/rigs');
  await expect(page.getByRole('heading', { name: 'Rigs' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('neon transformer');
  await page.getByRole('option', { name: 'New: Tesla coil, AC' }).click();
  await expect(page.getByRole('heading', { name: 'Tesla coil, AC' })).toBeVisible();
  await page.goto('/start/perpetual-motion');
  await expect(page.getByRole('heading', { name: 'There is no such starter' })).toBeVisible();
  await page.getByRole('link', { name: 'All starters' }).click();
  await expect(page.getByRole('heading', { name: 'Start something' })).toBeVisible();
});
