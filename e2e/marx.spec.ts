import { expect, test } from '@playwright/test';
import { newBank, openCopy, openRig, tab } from './pages.ts';

test('a beginner’s Marx that does not fire is played through to one that does', async ({ page }) => {
  const rig = await newBank(page);
  await page.getByLabel('Kind of store').selectOption({ label: 'Marx generator' });
  await rig.type('Stages charged to', '11 kV');
  await rig.type('Self-break, later gaps', '29 kV');
  await rig.block('Switch');
  await page.getByLabel('Kind of switch').selectOption({ label: 'Spark gap' });
  await rig.type('Spacing', '9 mm');
  await rig.block('Supply');
  await rig.type('Voltage', '13 kV');
  await rig.saved();
  await rig.block('Switch');

  await page.getByRole('link', { name: /^Troubleshoot: / }).click();
  const causes = page.getByRole('region', { name: 'Causes' });
  await expect(causes).toContainText('The first gap is set too wide');
  await expect(causes).toContainText(/Try next: Close the gap to \d\.\d+ mm/);
  await page.getByLabel(/What was seen at/).fill('nothing at all');
  await page.getByRole('button', { name: 'Keep this trial' }).click();
  await expect(page.getByRole('region', { name: 'Trials' })).toContainText('- 11 kV, 9 mm, 0 kPa: nothing at all');

  await tab(page, 'Gap');
  await expect(page.getByRole('list', { name: 'Advice' })).toContainText('close the gap by');
  await page.getByRole('textbox', { name: 'Spacing' }).fill('4.35 mm');
  await expect(page.getByRole('list', { name: 'Advice' })).toContainText('within the 70 to 85 %');
  await tab(page, 'Rig');

  await rig.block('Store');
  await tab(page, 'Erection');
  await expect(page.getByRole('region', { name: 'One shot' })).toContainText('Does not erect as set: gap 2 sees at most');
  await tab(page, 'Rig');
  await rig.type('Self-break, later gaps', '14 kV');
  await rig.saved();
  await tab(page, 'Erection');
  await expect(page.getByRole('region', { name: 'One shot' })).toContainText(/Erects as set: last gap \d+(\.\d+)? ns after/);
  await page.getByRole('button', { name: 'Fire 200 shots' }).click();
  await expect(page.getByRole('progressbar', { name: 'Shots done' })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('button', { name: 'Fire 200 shots' })).toBeVisible();
});

test('observed breakdowns are fitted and taken into the gap; a line that cannot be read stays, with the reason', async ({
  page,
}) => {
  await openCopy(page, 'Kittiwake');
  await page.goto(`${page.url()}/gap`);
  await expect(page.getByRole('heading', { name: 'Gap of Copy of Kittiwake' })).toBeVisible();
  const lines = page.getByLabel('Observed breakdowns');
  await lines.fill('21 kV\n20 kV\n20.5 kV at last\nlast of all');
  await expect(page.getByRole('alert')).toContainText('line 4 has no voltage');
  await lines.fill('21 kV\n20 kV\n20.5 kV at last');
  await expect(page.getByText(/from 3 breakdowns/)).toBeVisible();
  await page.getByRole('button', { name: 'Use in the gap' }).click();
  // What was seen is then what is calculated: their mean.
  await expect(page.getByRole('main')).toContainText('Self-break 20.5 kV');
  await page.getByRole('button', { name: 'Pressure' }).click();
  await expect(page.getByRole('img', { name: 'self-break of the gap against pressure' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Shop card' })).toContainText(/turns (out|in)/);
});

test('a Marx is looked at stage by stage, fired early; a time that cannot be read says what it must be', async ({ page }) => {
  await openRig(page, 'Kittiwake');
  const rig = page.url();
  await page.getByRole('link', { name: /^Stages: charge/ }).click();
  const charge = page.getByRole('region', { name: 'While it is charged' });
  await expect(charge).toContainText('Each tower then comes to 120 kV');
  await page.getByLabel('Fired after').fill('150 ms');
  await expect(charge).toContainText('Each tower then comes to 76.5 kV');
  await page.getByLabel('Fired after').fill('150 V');
  await expect(page.getByRole('alert')).toContainText(/Fired after .*it must be above 0 s up to/);
  await expect(charge).toContainText('76.5 kV');
  await expect(page.getByRole('region', { name: 'Each stage' }).getByRole('row')).toHaveCount(8);
  await page.goto(`${rig}/erection`);
  const shot = page.getByRole('region', { name: 'One shot' });
  await expect(shot.getByRole('row')).toHaveCount(18);
  await expect(shot.getByRole('row', { name: /^2 −/ })).toContainText('× 1.36');
});

test('a trigger that stays latched says why, and above what resistance it lets go; a peaking capacitor is a load', async ({
  page,
}) => {
  const rig = await newBank(page);
  await rig.block('Trigger');
  await page.getByLabel('Kind of trigger').selectOption({ label: 'Trigger generator' });
  await rig.type('Charging resistor of its capacitor', '20 kΩ');
  const fields = page.getByRole('region', { name: 'Trigger fields' });
  await expect(fields).toContainText('stays latched after a pulse and shorts its supply');
  await rig.type('Charging resistor of its capacitor', '120 kΩ');
  await expect(fields).not.toContainText('stays latched');
  await rig.block('Load');
  await page.getByLabel('Kind of load').selectOption('second-capacitor');
  await rig.everyFigure();
  await expect(page.getByText('Ringing gain')).toBeVisible();
  await rig.saved();
});
