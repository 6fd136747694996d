import { readFile, writeFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { RigPage, newBank, openCopy, openRig, rigAction, tab } from './pages.ts';

test('a person designs a bank, reads what it does, breaks a limit, mends it, reloads and prints the run sheet', async ({
  page,
}) => {
  const rig = await newBank(page);
  await rig.block('Supply');
  await rig.type('Voltage', '600 V');
  await rig.block('Store');
  await rig.type('Capacitance, each', '100u ±10%');
  await rig.type('Charged to', '400 V');
  await rig.type('DC rating, each', '450 V');

  // ½ · 100 µF · (400 V)² = 8 J
  await expect(rig.strip).toContainText('8.00 J at 400 V can kill');
  await page.getByRole('tab', { name: 'Bleed' }).click();
  // 10 kΩ · 100 µF · ln(400/50) = 2.08 s; in the worst case 11 kΩ · 110 µF · ln 8 = 2.6 s
  await expect(rig.figure('bleed-time')).toContainText('2.1 s');
  await expect(rig.figure('bleed-time')).toContainText('2.6 s');

  await rig.type('Charged to', '0.5 kV');
  await expect(rig.limit('capacitor-voltage')).toHaveAttribute('data-state', 'over');
  await expect(rig.limit('capacitor-voltage')).toContainText('lower store, charged to, to 450 V');
  await rig.limit('capacitor-voltage').getByRole('button', { name: 'Set Store Charged to to 450 V' }).click();
  await expect(rig.limit('capacitor-voltage')).not.toHaveAttribute('data-state', 'over');

  await rig.saved();
  await page.reload();
  await expect(rig.strip).toContainText('10.1 J at 450 V');
  await expect(page.getByLabel('Capacitance, each')).toHaveValue('100u ±10%');

  await tab(page, 'Run sheet');
  await expect(page.getByRole('heading', { name: 'Run sheet: New capacitor bank' })).toBeVisible();
  await expect(page.getByText('stop at 450 V')).toBeVisible();
  await page.evaluate(() => {
    window.print = () => document.body.setAttribute('data-printed', 'yes');
  });
  await page.getByRole('button', { name: 'Print' }).click();
  await expect(page.locator('body')).toHaveAttribute('data-printed', 'yes');
  for (const format of ['A4', 'Letter'] as const) {
    const pdf = await page.pdf({ format });
    const pages = pdf.toString('latin1').match(/\/Type\s*\/Page[^s]/g)?.length ?? 0;
    expect(pages).toBeGreaterThanOrEqual(2);
    // With the two emergency cards and what the time of people costs.
    expect(pages).toBeLessThanOrEqual(6);
  }
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Markdown' }).click();
  const markdown = await readFile(await (await saved).path(), 'utf8');
  expect(markdown).toContain('# Run sheet: New capacitor bank');
  expect(markdown).toContain('stop at 450 V');
});

test('what cannot be read stays in its field with the reason, and the value before stays in force', async ({ page }) => {
  const rig = await newBank(page);
  const field = page.getByLabel('Capacitance, each');
  const before = await rig.strip.textContent();
  for (const [text, reason] of [
    ['0', 'above 0 F up to 1 kF'],
    ['-5u', 'above 0 F'],
    ['1e30 F', 'up to 1 kF'],
    ['', 'is empty'],
    ['10 V', 'unit of a voltage'],
    ['lots', 'not a quantity'],
  ] as const) {
    await field.fill(text);
    await expect(page.getByRole('alert').filter({ hasText: reason })).toBeVisible();
    await expect(field).toHaveValue(text);
    expect(await rig.strip.textContent()).toBe(before);
  }
  await rig.block('Load');
  await rig.block('Store');
  await expect(field).toHaveValue('lots');
  await page.reload();
  await expect(field).toHaveValue('lots');
  await field.press('Escape');
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('every number shows its working, and can be asked backwards', async ({ page }) => {
  const rig = await openCopy(page, 'Anvil');
  await rig.figure('peak-current').click();
  const working = page.getByRole('region', { name: 'Working' });
  await expect(working).toContainText('series RLC circuit');
  await expect(working).toContainText('typed: Store, capacitance, each');
  await expect(working).toContainText('Over the tolerances');
  await page.keyboard.press('Escape');
  await expect(working).toBeHidden();
  await page.keyboard.press('w');
  await expect(working).toContainText('Peak current');
  await rig.limit('element-voltage').getByRole('button').first().click();
  await expect(working).toContainText('one capacitor at the bottom of its tolerance');

  await page.getByRole('button', { name: 'Close (Esc)' }).click();
  await rig.everyFigure();
  await rig.figure('stored-energy').click();
  await working.getByLabel('To make it').fill('500 J');
  // √(2 · 500 J / 516.7 µF) = 1.391 kV
  await expect(working.getByRole('status')).toContainText('1.391 kV');
  await working.getByRole('button', { name: 'set' }).click();
  await expect(rig.strip).toContainText('500 J at 1.39 kV');
});

test('a number on the list and on the run sheet shows its working by the same click', async ({ page }) => {
  await page.goto('/rigs');
  const row = page.locator('tr[data-rig="Thimble"]');
  await row.getByTitle('Working of Stored energy').click();
  const dialog = page.getByRole('dialog');
  // 6 · 5.6 mF at 37 V: ½ · 33.6 mF · (37 V)² = 23.0 J
  await expect(dialog).toContainText(/=\s*23\s*J/);
  await dialog.getByRole('button', { name: 'Close' }).click();
  await rigAction(page, 'Thimble', 'Run sheet');
  await page.getByTitle('Working of Worst case after').last().click();
  await expect(dialog).toContainText('In the worst case, over the tolerances');
  await expect(dialog).toContainText('ln(');
});

test('the line, the blocks, the tabs and the values are all reached by keyboard', async ({ page }) => {
  await openRig(page, 'Thimble');
  await page.keyboard.press(']');
  await expect(page.getByRole('region', { name: 'Switch fields' })).toBeVisible();
  await page.keyboard.press('[');
  await page.keyboard.press('[');
  await expect(page.getByRole('region', { name: 'Charging fields' })).toBeVisible();
  await page.keyboard.press('3');
  await expect(page.getByRole('tab', { name: 'Bleed' })).toHaveAttribute('aria-selected', 'true');
  const field = page.getByLabel('Resistance, each');
  await field.focus();
  await page.keyboard.press('ArrowUp');
  await expect(field).toHaveValue('39 Ω ±5 %');
  await page.keyboard.press('Alt+ArrowDown');
  await expect(field).toHaveValue('38.61 Ω ±5 %');
  await field.blur();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.locator('[data-slot="load"]').focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Load fields' })).toBeVisible();
});

test('another kind of switch keeps the ratings both have, and an inconsistent rig says what is wrong', async ({ page }) => {
  const rig = await newBank(page);
  await rig.block('Switch');
  await rig.type('Peak current rating', '2 kA');
  await page.getByLabel('Kind of switch').selectOption({ label: 'Thyristor' });
  await expect(page.getByLabel('Peak current rating')).toHaveValue('2 kA');
  await rig.type('Threshold voltage', '60 V');
  await expect(page.getByRole('list', { name: 'Problems' })).toContainText('no current flows');
  await expect(page.getByRole('alert').filter({ hasText: 'no discharge to draw' })).toBeVisible();
  await rig.block('Store');
  await rig.type('Charged to', '100 V');
  await expect(page.getByRole('list', { name: 'Problems' })).toContainText('The supply cannot charge the bank to 100 V');
  expect(await page.locator('body').textContent()).not.toContain('NaN');
});

test('a rig goes out as a file and comes back the same; a bad file is refused with its reasons', async ({ page }, info) => {
  await page.goto('/rigs');
  await rigAction(page, 'Anvil', 'Share');
  const rigFile = page.getByRole('button', { name: /\.rig\.json$/ });
  const [download] = await Promise.all([page.waitForEvent('download'), rigFile.click()]);
  const text = await readFile(await download.path(), 'utf8');
  expect(JSON.parse(text)).toMatchObject({ format: 'vast-surge-rig', version: 8, name: 'Anvil' });
  // Of its name alone: other tests make rigs meanwhile.
  const rows = page.locator('tr[data-rig="Anvil"]');
  await expect(rows).not.toHaveCount(0);
  const count = await rows.count();
  const put = (name: string, buffer: Buffer) =>
    page.getByLabel('Rig file or archive to import').setInputFiles({ name, mimeType: 'application/json', buffer });
  for (const [bad, reason] of [
    [text.slice(0, 400), 'not complete JSON'],
    [text.replace('"version": 8', '"version": 9'), 'newer Vast Surge'],
    [text.replace('"note"', '"__proto__":{},"note"'), '__proto__'],
  ] as const) {
    await put('bad.json', Buffer.from(bad));
    await expect(page.getByRole('alert').filter({ hasText: 'nothing was written' })).toContainText(reason);
  }
  const huge = info.outputPath('huge.json');
  await writeFile(huge, ' '.repeat(50 * 1024 * 1024));
  await page.getByLabel('Rig file or archive to import').setInputFiles(huge);
  await expect(page.getByRole('alert').filter({ hasText: 'nothing was written' })).toContainText('at most');
  expect(await rows.count()).toBe(count);
  await put('again.json', Buffer.from(text.replace('"name": "Anvil"', '"name": "Anvil again"')));
  await expect(new RigPage(page).strip).toContainText('can kill');
  await page.getByRole('button', { name: 'Share', exact: true }).click();
  const [second] = await Promise.all([page.waitForEvent('download'), rigFile.click()]);
  const withoutId = (file: string) => file.replace(/ {2}"id": .*\n/, '');
  expect(withoutId(await readFile(await second.path(), 'utf8')).replace('Anvil again', 'Anvil')).toBe(withoutId(text));
  await page.goto('/rigs');
  await expect(page.locator('tr[data-rig="Anvil again"]')).toBeVisible();
  const before = await rows.count();
  await put('same.json', Buffer.from(text));
  await expect(page.getByText('holds Anvil as it is here already')).toBeVisible();
  await page.goto('/rigs');
  await expect(rows).toHaveCount(before);
});

test('a rig is duplicated, taken off the list and brought back; the guide is dismissed for good', async ({ page }) => {
  await page.goto('/rigs');
  await page.getByRole('button', { name: 'Dismiss the guide' }).click();
  await page.reload();
  await expect(page.getByRole('region', { name: 'Guide' })).toHaveCount(0);
  await rigAction(page, 'Thimble', 'Duplicate');
  const copy = page.locator('tr[data-rig="Thimble (copy)"]');
  await expect(copy).toBeVisible();
  await rigAction(page, 'Thimble (copy)', 'Archive');
  await expect(copy).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(copy).toBeVisible();
  await rigAction(page, 'Thimble (copy)', 'Archive');
  await page.getByRole('button', { name: 'Archived' }).click();
  await page.getByRole('button', { name: 'Restore Thimble (copy) to the list' }).click();
  await page.getByRole('button', { name: 'In use' }).click();
  await expect(copy).toBeVisible();
});

test('a sum is worked forwards and backwards', async ({ page }) => {
  await page.goto('/sums');
  await page.getByLabel('Find a formula').fill('energy stored');
  await page.getByRole('link', { name: 'Energy stored in a capacitor' }).click();
  await page.getByLabel('C', { exact: true }).fill('3900u');
  await page.getByLabel('V', { exact: true }).fill('46');
  const result = page.getByRole('region', { name: 'Result' });
  await expect(result).toContainText('E = 4.126');
  await page.getByLabel('solve for V').check();
  await page.getByLabel('E', { exact: true }).fill('10 J');
  await expect(result).toContainText('V = 71.61');
  await page.getByLabel('C', { exact: true }).fill('5 V');
  await expect(page.getByRole('alert')).toContainText('unit of a voltage');

  // One that has no closed inverse is searched for, away from the page; what is extrapolated beyond the tables says so.
  await page.goto('/sums/sphere-gap-breakdown');
  await page.getByLabel('D', { exact: true }).fill('15 mm');
  await page.getByLabel('d', { exact: true }).fill('6 mm');
  await expect(result).toContainText('Extrapolated: spheres of 15 mm: the tables begin at 20 mm');
  await page.getByLabel('D', { exact: true }).fill('30 cm');
  await page.getByLabel('solve for d', { exact: true }).check();
  await page.getByLabel('Vb', { exact: true }).fill('25 kV');
  await expect(result).toContainText(/^d = 7\.\d+ mm/);
  await page.getByLabel('Vb', { exact: true }).fill('500 V');
  await expect(result).toContainText('no value in its range gives this result');
});
