import { expect, test } from '@playwright/test';
import { newBank } from './pages.ts';

test('a coil is wound and looked at in section, then a slug is launched through it; what does not fit says so', async ({
  page,
}) => {
  const rig = await newBank(page);
  await rig.type('Charged to', '350 V');
  await rig.block('Supply');
  await rig.type('Voltage', '400 V');
  await rig.block('Load');
  await page.getByLabel('Kind of load').selectOption('coil');
  const fields = page.getByRole('region', { name: 'Load fields' });
  await rig.type('Diameter of the conductor', '60 mm');
  await expect(fields).toContainText('the wire is thicker than the window');
  await rig.type('Diameter of the conductor', '16 AWG');
  await rig.type('Turns', '60');
  await expect(fields).not.toContainText('thicker than the window');
  await rig.saved();
  await page.getByRole('link', { name: /^The coil desk/ }).click();
  await expect(page.getByRole('img', { name: /^The coil in section, to scale: 60 turns/ })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Winding card' })).toContainText('60 turns of copper');
  await expect(page.getByRole('region', { name: 'Inductance by other means' })).toContainText('turn by turn');
  const file = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Section as SVG' }).click();
  expect((await file).suggestedFilename()).toMatch(/coil\.svg$/);
  await page.getByRole('link', { name: 'Back to the rig' }).click();

  await rig.block('Load');
  await page.getByLabel('Kind of load').selectOption('coilgun-stage');
  await rig.type('Diameter of the slug', '40 mm');
  await expect(fields).toContainText('the slug is wider than the bore');
  await rig.type('Diameter of the slug', '18 mm');
  await rig.saved();
  await page.getByRole('link', { name: /^The launch/ }).click();
  const flight = page.getByRole('region', { name: 'The flight' });
  await expect(flight).toContainText(/It leaves with \d/);
  await expect(page.getByRole('region', { name: 'Where the energy went' })).toContainText('below 0.01 %');
  const drawn = page.getByRole('img', { name: /^Coil and slug in section/ });
  const before = await drawn.getAttribute('aria-label');
  await page.getByLabel('Instant of the flight').focus();
  for (let i = 0; i < 40; i++) await page.keyboard.press('ArrowRight');
  await expect(drawn).not.toHaveAttribute('aria-label', before ?? '');
});
