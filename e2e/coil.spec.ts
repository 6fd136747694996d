import { expect, test } from '@playwright/test';
import { newBank, openCopy, tab } from './pages.ts';

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
  await page.getByRole('link', { name: /^Coil: in section/ }).click();
  await expect(page.getByRole('img', { name: /^The coil in section, to scale: 60 turns/ })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Winding card' })).toContainText('60 turns of copper');
  await expect(page.getByRole('region', { name: 'Inductance by other means' })).toContainText('turn by turn');
  const file = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Section as SVG' }).click();
  expect((await file).suggestedFilename()).toMatch(/coil\.svg$/);
  await tab(page, 'Rig');

  await rig.block('Load');
  await page.getByLabel('Kind of load').selectOption('coilgun-stage');
  await rig.type('Projectile diameter', '40 mm');
  await expect(fields).toContainText('the slug is wider than the bore');
  await rig.type('Projectile diameter', '18 mm');
  await rig.saved();
  await page.getByRole('link', { name: /^Launch: / }).click();
  const flight = page.getByRole('region', { name: 'The flight' });
  await expect(flight).toContainText(/Muzzle speed \d/);
  await expect(page.getByRole('region', { name: 'Energy budget' })).toContainText('below 0.01 %');
  const drawn = page.getByRole('img', { name: /^Coil and slug in section/ });
  const before = await drawn.getAttribute('aria-label');
  await page.getByLabel('Instant of the flight').focus();
  for (let i = 0; i < 40; i++) await page.keyboard.press('ArrowRight');
  await expect(drawn).not.toHaveAttribute('aria-label', before ?? '');
});

test('three coils are shot, better ones searched for, cancelled, searched again, and taken into the rig; one undo takes them back', async ({
  page,
}) => {
  const rig = await openCopy(page, 'Shuttle');
  await rig.block('Load');
  const fields = page.getByRole('region', { name: 'Load fields' });
  const stages = page.getByRole('group', { name: 'Stages' });
  await expect(fields.getByLabel(/^Fired/)).toHaveValue('hand');
  await stages.getByRole('button', { name: 'Stage 2', exact: true }).click();
  const place = fields.getByLabel(/^Coil position/);
  const sensor = fields.getByLabel(/^Sensor position/);
  await expect(place).toHaveValue('80 mm');
  await place.fill('50 mm');
  await expect(fields).toContainText('Coil 1 and coil 2 overlap by');
  await place.fill('80 mm');
  await sensor.fill('400 mm');
  await expect(fields).toContainText('sensor of coil 2 is at 400 mm, past the muzzle');
  await sensor.fill('soon');
  await expect(fields).toContainText('must be from');
  await sensor.fill('20 mm');
  await expect(fields).toContainText('of all stages');
  await stages.getByRole('button', { name: 'Add a stage' }).click();
  await expect(stages.getByRole('button', { name: 'Stage 4', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await expect(place).toHaveValue('240 mm');
  await stages.getByRole('button', { name: 'Remove stage 4' }).click();
  await expect(stages.getByRole('button', { name: 'Stage 3', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await rig.saved();
  await page.getByRole('link', { name: /^Launch: / }).click();
  const coils = page.getByRole('region', { name: 'Coil by coil' });
  await expect(coils).toContainText(/Coil 3: .* early .* late/);
  await expect(page.getByRole('img', { name: /^3 coils and slug in section/ })).toBeVisible();

  await page.getByRole('link', { name: 'Find better coils' }).click();
  await page.getByLabel('Launches to try').fill('7');
  await expect(page.getByRole('alert')).toContainText('Launches to try is 7; it must be a whole number from 100 to 50000');
  await expect(page.getByRole('button', { name: 'Search' })).toBeDisabled();
  await page.getByLabel('Launches to try').fill('50000');
  await page.getByRole('button', { name: 'Search' }).click();
  const found = page.getByRole('region', { name: 'What was found' });
  await expect(found).toContainText(/instead of 11\.\d m\/s/);
  await found.getByRole('button', { name: 'Cancel' }).click();
  await expect(found.getByRole('status')).toContainText('Cancelled');
  await page.getByLabel('Launches to try').fill('300');
  await page.getByRole('button', { name: 'Search' }).click();
  await expect(found.getByRole('status')).toContainText('Done: 300 of 300');
  await page.getByLabel('efficiency', { exact: true }).check();
  await expect(page.getByRole('img', { name: /^Speed against efficiency of \d+ designs/ })).toBeVisible();
  await found.getByRole('button', { name: 'Use in the rig' }).click();
  await expect(found).toContainText('The rig has changed since');
  await tab(page, 'Rig');
  await rig.block('Load');
  await expect(place).not.toHaveValue('160 mm');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await stages.getByRole('button', { name: 'Stage 3', exact: true }).click();
  await expect(place).toHaveValue('160 mm');
  await rig.saved();
});
