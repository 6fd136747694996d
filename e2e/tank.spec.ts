import { expect, test } from '@playwright/test';
import { openRig, RigPage } from './pages.ts';

test('a tank that does not run is brought to run: choke alone, then both, out of tune, then in tune', async ({ page }) => {
  await openRig(page, 'Cricket');
  // What it can do stands above all.
  await expect(page.getByRole('region', { name: 'Hazard' })).toContainText('in the doubler behind it');
  await expect(page.getByRole('region', { name: 'Hazard' })).toContainText('it has no current limit');
  // Its many cycles are a tab beside its single discharge, and stand for what is typed.
  await page.keyboard.press('4');
  const cycles = page.getByRole('region', { name: 'Break after break' });
  await cycles.getByRole('button', { name: 'First microseconds' }).click();
  await expect(cycles).toContainText('1.00 µs long');
  await new RigPage(page).block('Switch');
  await page.getByRole('link', { name: 'Tesla coil: breaks, tuning, drawn to scale' }).click();
  await expect(page.getByRole('heading', { name: 'Cricket: running' })).toBeVisible();
  const ways = page.getByRole('region', { name: 'Charged in other ways' });
  await expect(ways.getByRole('listitem').filter({ hasText: 'as it is set' })).toContainText('runs');
  await expect(ways.getByRole('listitem').filter({ hasText: 'with the choke alone' })).toContainText('holds an arc');
  await expect(ways.getByRole('listitem').filter({ hasText: 'with the resistor alone' })).toContainText('holds an arc');
  await expect(page.getByText(/By the solver: 1\.6\d kHz/)).toBeVisible({ timeout: 60_000 });

  // From all of it down to the front of one break, and back by hand.
  await page.getByRole('button', { name: 'All of it' }).click();
  await expect(page.getByText(/1\.20 s long|1\.2\d s long/)).toBeVisible();
  await page.getByRole('button', { name: 'First microseconds' }).click();
  await expect(page.getByText('1.00 µs long')).toBeVisible();
  await page.getByRole('button', { name: 'Wider' }).click();
  await expect(page.getByText('4.00 µs long')).toBeVisible();
  await expect(page.getByRole('img', { name: /Primary of 12 turns, tap at 9.7 turns/ })).toBeVisible();

  // Every number shows its working.
  await page
    .getByRole('button', { name: /^1[5-7]\d mA$/ })
    .first()
    .click();
  await expect(page.getByRole('dialog')).toContainText('Kirchhoff');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Bleed-down, capacitor by capacitor' }).click();
  const held = page.getByRole('region', { name: 'Charge that the terminals do not show' });
  await expect(held).toContainText('Each of the two capacitors of the doubler');
  await expect(held).toContainText('Each of 4 groups in series');
});

test('a tank whose gap never fires says so, by the gap and on its page, and loses nothing', async ({ page }) => {
  await openRig(page, 'Cricket');
  await new RigPage(page).block('Switch');
  const spacing = page.locator('#field-switch-d');
  await spacing.fill('2 mm');
  await spacing.press('Enter');
  const fields = page.getByRole('region', { name: 'Switch fields' });
  await expect(fields.getByText(/The gap never fires at this supply: the tank reaches/)).toBeVisible();
  await page.getByRole('link', { name: 'Tesla coil: breaks, tuning, drawn to scale' }).click();
  await expect(page.getByText(/The gap never fires at this supply: closed to/)).toBeVisible();
  await page.goBack();
  await spacing.fill('0.24 mm ±2 %');
  await spacing.press('Enter');
  await expect(page.getByText(/The gap never fires at this supply: the tank reaches/)).toHaveCount(0);
});
