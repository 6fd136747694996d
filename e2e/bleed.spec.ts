import { expect, test } from '@playwright/test';
import { openCopy, tab } from './pages.ts';

test('the Bleed-down page says how long by each way, checks it against a published rule, gives the recovery voltage, and how the stick is built', async ({
  page,
}) => {
  const rig = await openCopy(page, 'Shuttle');
  await rig.block('Bleeder');
  await page.getByRole('link', { name: /^Bleed-down:/ }).click();
  await expect(page.getByRole('heading', { name: 'Bleed-down: Copy of Shuttle' })).toBeVisible();
  const main = page.getByRole('main');
  await expect(main).toContainText(/Below 11 V after \d+ min \d+ s worst case/);
  const rules = page.getByRole('region', { name: 'Published rules' });
  await expect(rules.getByRole('status')).toContainText('not met');
  await rules.getByLabel('Rule').selectOption('iec-60831');
  await expect(rules.getByRole('status')).toContainText('to 75.0 V; the rule allows 3 min');
  const rebound = page.getByRole('region', { name: 'Recovery voltage' });
  await rebound.getByLabel('Dielectric').selectOption('electrolytic');
  await expect(rebound).toContainText(/can recover within minutes/);
  await expect(page.getByRole('region', { name: 'What is left, and where' })).toContainText(
    'Discharge stick across each further store, all 2, one after the other',
  );
  await expect(page.getByRole('region', { name: 'Build card' })).toContainText('3 × 39.0 Ω in series');

  await tab(page, 'Rig');
  await rig.block('Discharge stick');
  await page.getByLabel('Kind of discharge stick').selectOption('lamp-tool');
  await rig.saved();
  await page.getByRole('link', { name: /^Bleed-down:/ }).click();
  await expect(page.getByRole('img', { name: /lamp for plus, lamp for minus/ })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Build card' })).toContainText('the LED goes out while');
});

test('one capacitor on the bench has its sheet by itself: five lines for little, the whole for much, and keeps what was typed', async ({
  page,
}) => {
  await page.goto('/rigs');
  await page.getByRole('link', { name: 'Discharge a capacitor' }).click();
  await page.getByLabel('Capacitance').fill('10 uF');
  await page.getByLabel('Voltage it may hold').fill('315 V');
  await expect(page.locator('article ol').first().locator('li')).toHaveCount(5);
  await expect(page.locator('article')).toContainText('below 50 V');
  await page.getByLabel('Capacitance').fill('3.3 mF');
  await page.getByLabel('Voltage it may hold').fill('750 V');
  await expect(page.locator('article ol').first().locator('li')).toHaveCount(8);
  await expect(page.getByText('Somebody was shocked')).toBeVisible();
  await page.getByLabel('Resistor at hand').fill('0.2 ohm');
  await expect(page.getByRole('alert')).toContainText('Almost a short');
  await page.reload();
  await expect(page.getByLabel('Capacitance')).toHaveValue('3.3 mF');
  // What cannot be read is named with its range, and what was in force stays.
  await page.getByLabel('Capacitance').fill('lots');
  await expect(page.getByText(/In force: 3.3 mF/)).toBeVisible();
  await expect(page.locator('article ol').first().locator('li')).toHaveCount(8);
});
