import { expect, test, type Page } from '@playwright/test';
import { newBank, tab, type RigPage } from './pages.ts';

// Systems that people build, each from an empty rig to its shot log.

const kind = (page: Page, value: string) => page.getByLabel(/^Kind of/).selectOption(value);

async function bank(page: Page, typed: Readonly<Record<string, string>>): Promise<RigPage> {
  const rig = await newBank(page);
  for (const [label, text] of Object.entries(typed)) await rig.type(label, text);
  return rig;
}

test('a charge-transfer laser: a channel that is not reached, one that strikes, and its light in the shot log', async ({
  page,
}) => {
  const rig = await bank(page, { 'Capacitance, each': '10 nF', 'Charged to': '12 kV', 'DC rating, each': '20 kV' });
  await rig.block('Load');
  await kind(page, 'gas-channel');
  await rig.type('Capacitance of the peaking capacitor', '8 nF');
  await rig.type('Breakdown of the channel', '14 kV');
  await expect(page.getByRole('region', { name: 'Load fields' })).toContainText(
    'The channel does not strike: it breaks down at 14.0 kV',
  );
  await rig.type('Breakdown of the channel', '9 kV');
  await expect(page.getByText('The channel does not strike')).toHaveCount(0);
  // ½ · 8 nF · (9 kV)²
  await rig.everyFigure();
  await expect(rig.figure('channel-energy')).toContainText('324 mJ');
  await rig.saved();

  await tab(page, 'Shots');
  await page.getByRole('button', { name: 'Log a shot' }).click();
  const sheet = page.getByRole('dialog');
  await sheet.getByLabel('Voltage at the shot').first().fill('12 kV');
  await sheet.getByRole('button', { name: 'Add a quantity' }).click();
  await sheet.getByLabel('Name of quantity 1').fill('Laser energy');
  await sheet.getByLabel('Value of quantity 1').fill('0.8');
  await sheet.getByLabel('Unit of quantity 1').fill('mJ');
  await sheet.getByRole('button', { name: 'Save shot' }).click();
  await expect(page.getByRole('row', { name: /Laser energy/ })).toContainText('0.8 mJ');
});

test('a battery, a drive, a multiplier: what cannot come out of the battery is said at it, with the time that it takes', async ({
  page,
}) => {
  const rig = await bank(page, { 'Capacitance, each': '80 nF', 'Charged to': '4 kV', 'DC rating, each': '6 kV' });
  await rig.block('Bleeder');
  await rig.type('Resistance', '500 MΩ');
  await rig.block('Meter');
  await rig.type('Maximum input voltage', '10 kV');
  await rig.type('Input resistance', '10 GΩ');
  await rig.block('Supply');
  await kind(page, 'multiplier');
  await rig.type('Capacitance, each', '4.7 nF');
  const source = page.getByLabel('Source of the drive');
  await rig.unfold(source);
  await source.selectOption('battery');
  await rig.type('Source voltage, no load', '9 V');
  await rig.type('Source current, at most', '16 mA');
  await expect(page.getByRole('region', { name: 'Supply fields' })).toContainText(
    /The source sets the charge time: .* 9\.00 V, 16\.0 mA at most, .* One charge takes/,
  );
  const drive = page.getByLabel('Drive made by');
  await rig.unfold(drive);
  await drive.selectOption('transformer');
  await expect(page.getByRole('region', { name: 'Supply fields' })).toContainText(
    'from a battery or a DC supply the drive is a converter',
  );
});

test('thin air: a gap that is set at the sea breaks down sooner in the hills, and the page says where it stands', async ({
  page,
}) => {
  const rig = await bank(page, { 'Charged to': '20 kV', 'DC rating, each': '30 kV' });
  await rig.block('Switch');
  await kind(page, 'spark-gap');
  await rig.type('Spacing', '9 mm');
  await rig.everyFigure();
  const selfBreak = async () => Number(/([\d.]+) kV/.exec((await rig.figure('self-break').textContent()) ?? '')?.[1]);
  await expect.poll(selfBreak).toBeGreaterThan(20);
  const sea = await selfBreak();
  await page.getByRole('group', { name: 'The rig as one line' }).getByRole('button', { name: /^Air/ }).click();
  await kind(page, 'day');
  await page.getByLabel('Pressure known by').selectOption('height');
  await rig.type('Height above the sea', '2000 m');
  // ISO 2533: 79.5 kPa at 2000 m, 0.785 of the sea.
  await expect.poll(async () => (await selfBreak()) / sea).toBeLessThan(0.84);
  await expect.poll(async () => (await selfBreak()) / sea).toBeGreaterThan(0.76);
  await rig.type('Height above the sea', '9000 m');
  await expect(page.getByRole('alert').filter({ hasText: 'Height above the sea' })).toContainText('4.5 km');
});
