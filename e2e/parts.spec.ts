import { readFile } from 'node:fs/promises';
import { expect, test, type Locator, type Page } from '@playwright/test';
import { RigPage } from './pages.ts';

const row = (page: Page, tag: string): Locator => page.locator(`[data-part="${tag}"]`);
const detail = (page: Page, tag: string): Locator => page.getByRole('region', { name: `Part ${tag}`, exact: true });

async function openShelf(page: Page, filter = ''): Promise<void> {
  await page.goto('/parts');
  await expect(row(page, 'C-001')).toBeVisible();
  if (filter !== '') await page.getByLabel('Filter', { exact: true }).fill(filter);
}
const importFile = (page: Page, name: string, text: string) =>
  page.getByLabel('Table or file of parts to import').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

/** A box of odd capacitors of one sort, as somebody's spreadsheet has it: all but the third measured once. */
function boxOf(count: number, mark: string): string {
  const comma = (value: number) => value.toFixed(1).replace('.', ',');
  const rows = Array.from({ length: count }, (_, i) => {
    const label = 40 + ((i * 7) % 13);
    return `${mark}-${i + 1};Odd film;${comma(label)};700 V;box;${i === 2 ? '' : comma(label * 1.05)}`;
  });
  return `\uFEFFNo;What;Cap (µF);Voltage;Shelf;Measured (µF)\r\n${rows.join('\r\n')}\r\n`;
}

test('an evening with a box of forty capacitors: import, measure, sort out, compose, and a rig that stands on them', async ({
  page,
}) => {
  await openShelf(page);
  const dialog = page.getByRole('dialog');
  // K-7: 40 + 42 mod 13 = 43
  await importFile(page, 'box.csv', boxOf(40, 'K').replace('K-7;Odd film;43,0', 'K-7;Odd film;-43,0'));
  await expect(dialog).toContainText('Row 8, Cap (µF): is −43 µF; it must be above 0 F');
  await expect(dialog.getByRole('button', { name: /^Import/ })).toBeDisabled();
  await page.keyboard.press('Escape');
  await importFile(page, 'box.csv', boxOf(40, 'K'));
  await dialog.getByRole('button', { name: 'Import 40 parts' }).click();
  await expect(dialog).toHaveCount(0);

  // The same file again: it is said, and every tag is here already.
  await importFile(page, 'box.csv', boxOf(40, 'K'));
  await expect(dialog).toContainText('This file was imported on');
  await expect(dialog).toContainText('40 parts with a tag that another part on the bench has');
  await page.keyboard.press('Escape');

  // Read off a meter in a row: type, Enter, next.
  await page.getByLabel('Filter', { exact: true }).fill('odd film');
  for (const tag of ['K-1', 'K-2', 'K-3']) await row(page, tag).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Measure in a row' }).click();
  await page.getByRole('button', { name: 'Only capacitance, in a row' }).click();
  await page.keyboard.type('14 V\n');
  await expect(page.getByRole('alert')).toContainText('14 V is still on one of them');
  await page.getByLabel('Highest voltage found').fill('0.2 V');
  await page.keyboard.press('Enter');
  await page.keyboard.type('41.2u\n');
  await page.keyboard.type('46.9\n');
  await expect(page.getByRole('heading', { name: 'K-3: capacitance' })).toBeVisible();
  await page.keyboard.type('0\n');
  await expect(page.getByRole('alert')).toContainText('must be from 1 fF to 1 kF');
  await page.getByLabel('Capacitance of K-3').fill('16u');
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Back to the shelf' }).first().click();

  // One that measures half its label: a verdict is proposed with its reason, and taken.
  await page.getByLabel('Filter', { exact: true }).fill('K-3');
  await row(page, 'K-3').click();
  await expect(detail(page, 'K-3')).toContainText('Its readings say failed: it measures 61 % below its label');
  await detail(page, 'K-3').getByRole('button', { name: 'Record as failed' }).click();
  await expect(row(page, 'K-3')).toContainText('failed');

  // A bank of the others.
  await page.getByRole('link', { name: 'Composer' }).click();
  await page.getByLabel('Or by a filter').fill('odd film');
  await page.getByLabel('Voltage', { exact: true }).fill('2.5 kV');
  await page.getByLabel('Energy', { exact: true }).fill('300 J');
  await expect(page.getByText('39 pieces of 40 lines')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Bank' })).toContainText('4s × 9p');
  await expect(page.getByRole('region', { name: 'Bank' })).toContainText('above the 2.625 kV wanted');
  await page.getByRole('button', { name: 'Make a rig of it' }).click();
  await expect(page.getByRole('region', { name: 'Store fields' })).toContainText('Uses 36 pieces in 4 groups');
  const used = (await page.locator('details a[href^="/parts?part="]').first().textContent()) ?? '';
  const rig = new RigPage(page);
  await expect(rig.limit('element-voltage')).not.toHaveAttribute('data-state', 'over');

  // Built here, the same parts warn in another built rig.
  await page.getByLabel('Built').check();
  await rig.saved();
  await page.getByRole('link', { name: 'Parts', exact: true }).click();
  await page.getByRole('link', { name: 'Composer' }).click();
  await page.getByLabel('Or by a filter').fill('odd film');
  await expect(page.getByRole('alert').filter({ hasText: 'is built with' })).toContainText('a part is in one built rig');

  // Nor does a part go off the bench unseen while a rig stands on it.
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();
  await page.getByLabel('Filter', { exact: true }).fill(used);
  await row(page, used).click();
  await detail(page, used).getByRole('button', { name: 'Remove from the bench' }).click();
  await expect(page.getByText(`${used} is used by Bank 4s × 9p`)).toBeVisible();
  await expect(row(page, used)).toBeVisible();
});

test('the guided test keeps its order, writes each reading, and ends with the part discharged again', async ({ page }) => {
  await openShelf(page, 'C-002');
  await row(page, 'C-002').click();
  await detail(page, 'C-002').getByRole('link', { name: 'Measure' }).click();
  await expect(page.getByRole('heading', { name: 'Discharge it' })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.type('7 V\n');
  await expect(page.getByRole('alert')).toContainText('7 V is still on it: back to discharging');
  await page.keyboard.press('Enter');
  await page.keyboard.type('10 mV\n');
  await page.getByLabel('Instrument').fill('bridge 2');
  await page.getByLabel('At which frequency').fill('1 kHz');
  await page.getByLabel('Capacitance', { exact: true }).fill('35.4 µF');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Skip this one' }).click();
  await page.keyboard.type('2.5G\n');
  await expect(page.getByRole('heading', { name: 'Discharge it' })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.type('0\n');
  await expect(page.getByRole('heading', { name: 'Done with C-002' })).toBeVisible();
  await page.getByRole('link', { name: 'Back to the shelf' }).click();
  await detail(page, 'C-002')
    .getByRole('button', { name: /Capacitance/ })
    .click();
  await expect(detail(page, 'C-002')).toContainText('at 1 kHz, bridge 2');
  await page.reload();
  await expect(detail(page, 'C-002')).toContainText('mean of 3 readings');
});

test('what is doubtful on a part is asked; twelve of these come with a tag each', async ({ page }) => {
  await openShelf(page);
  await page.getByRole('button', { name: 'New parts' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Yellow block');
  await dialog.getByLabel('Marking').fill('100');
  await expect(dialog).toContainText('This marking is ambiguous. Which is it?');
  await dialog.getByRole('button', { name: '100 pF' }).click();
  await dialog.getByLabel('Marking').fill('104K');
  await dialog.getByRole('button', { name: /^100 nF/ }).click();
  await expect(dialog.getByLabel('Capacitance, each element')).toHaveValue(/100 nF/);
  await dialog.getByLabel('DC rating').fill('-3 V');
  await expect(dialog.getByRole('alert')).toContainText('must be above 0 V');
  await dialog.getByLabel('DC rating').fill('400 V');
  await dialog.getByLabel('How many').fill('12');
  await dialog.getByRole('button', { name: /Put/ }).click();
  await page.getByLabel('Filter', { exact: true }).fill('yellow block');
  await expect(page.getByText(/12 of \d+ lines/)).toBeVisible();
  await expect(page.locator('[data-part^="C-0"]')).toHaveCount(12);
  await expect(page.getByText('12 chosen')).toBeVisible();
  await page.getByRole('button', { name: 'Take off' }).click();
  await expect(page.getByText('No part matches the filter.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('[data-part^="C-0"]')).toHaveCount(12);
});

test('the shelf goes out as CSV and JSON and comes back as what is here already', async ({ page }) => {
  await openShelf(page);
  for (const format of ['CSV', 'JSON']) {
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: format, exact: true }).click(),
    ]);
    const text = await readFile(await file.path(), 'utf8');
    await importFile(page, file.suggestedFilename(), text);
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('0 new parts');
    await expect(dialog).toContainText('on the bench already, left as they are');
    await expect(dialog.getByRole('alert')).toHaveCount(0);
    await page.keyboard.press('Escape');
  }
  await importFile(page, 'broken.csv', 'tag,C\nA,"1 µF\n');
  await expect(page.getByText(/a quote is opened and not closed/)).toBeVisible();
});

test('changes made while the server is away are shown, said to be kept, and written when it is back', async ({
  page,
  context,
}) => {
  await openShelf(page, 'R-004');
  await row(page, 'R-004').click();
  await context.route('**/api/**', (route) => route.abort());
  const place = detail(page, 'R-004').getByLabel('Location');
  await place.fill('drawer 9');
  await place.press('Enter');
  await expect(page.getByRole('alert')).toContainText('1 change is kept on this device, not saved yet');
  await expect(row(page, 'R-004')).toContainText('drawer 9');
  await context.unroute('**/api/**');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.reload();
  await page.getByLabel('Filter', { exact: true }).fill('R-004');
  await expect(row(page, 'R-004')).toContainText('drawer 9');
});

test('the shelf is used by the keyboard alone', async ({ page }) => {
  await openShelf(page);
  await page.keyboard.press('/');
  await page.keyboard.type('delta');
  await page.keyboard.press('Enter');
  await expect(row(page, 'C-030')).toHaveAttribute('aria-current', 'true');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press(' ');
  await expect(row(page, 'C-031').getByRole('checkbox')).toBeChecked();
  await page.keyboard.press('Enter');
  await expect(detail(page, 'C-031')).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('m');
  await expect(page.getByRole('heading', { name: 'Discharge it' })).toBeVisible();
});

test('a home-made one is designed, put on the bench, measured and fitted back for the next one', async ({ page }) => {
  await page.goto('/parts/home-made');
  await page.getByRole('button', { name: 'Flat sheet between two foils' }).click();
  await page.getByLabel('Dielectric', { exact: true }).selectOption('pet');
  await page.getByLabel('Foil length').fill('30 cm');
  // ε0 · 3.15 · 0.06 m² / 0.2 mm
  const result = page.getByRole('region', { name: 'Prediction' });
  await expect(result).toContainText('8.367 nF');
  await page.getByLabel('Thickness of the dielectric').fill('-1 mm');
  await expect(page.getByRole('alert')).toContainText('above 0 m');
  await page.getByLabel('Thickness of the dielectric').fill('0.2 mm');
  await page.getByLabel('Measured value').fill('7.9 nF');
  await page.keyboard.press('Enter');
  await expect(result).toContainText('the permittivity is 2.97');
  await page.getByLabel('Name', { exact: true }).fill('First sheet');
  await page.getByRole('button', { name: 'Add to the bench' }).click();
  await expect(page.getByRole('region', { name: /^Part C-/ })).toContainText('home-made capacitor');
  await page.goto('/parts/home-made');
  await page.getByRole('button', { name: 'Rolled sandwich' }).click();
  await page.getByLabel('Dielectric', { exact: true }).selectOption('pet');
  await page.getByRole('button', { name: /2\.974/ }).click();
  await expect(page.getByLabel('Permittivity, if known better')).toHaveValue(/2\.97/);
});

test('ten thousand parts are drawn only where they are in sight', async ({ page }) => {
  const parts = Array.from({ length: 10_000 }, (_, i) => ({
    id: `10000000-0000-4000-8000-${String(i).padStart(12, '0')}`,
    version: 1,
    createdAt: '2026-01-01T00:00:00.000Z',
    updatedAt: '2026-01-01T00:00:00.000Z',
    removedAt: null,
    hasPhoto: false,
    part: {
      kind: 'diode',
      tag: `D-${i}`,
      name: `Diode ${i % 7}`,
      quantity: 1,
      condition: 'good',
      place: '',
      price: null,
      lot: null,
      note: '',
      fields: {},
      readings: [],
    },
  }));
  await page.route('**/api/parts?after=0', (route) =>
    route.fulfill({ json: { mark: 1, parts, lots: [], goneLots: [], unreadable: [] } }),
  );
  await page.goto('/parts');
  await expect(row(page, 'D-0')).toBeVisible();
  const drawn = () => page.locator('tbody tr[data-part]').count();
  expect(await drawn()).toBeLessThan(80);
  await page.locator('[data-shelf]').focus();
  await page.keyboard.press('End');
  await expect(row(page, 'D-9999')).toBeVisible();
  expect(await drawn()).toBeLessThan(80);
  await page.getByLabel('Filter', { exact: true }).fill('D-4321');
  await expect(page.getByText('1 of 10000 lines')).toBeVisible();
});

test('what twenty cans have in common is set for all of them at once, and comes back by Undo', async ({ page }) => {
  await openShelf(page);
  await page.getByRole('button', { name: 'New parts' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name', { exact: true }).fill('Twentyfold can');
  await dialog.getByLabel('Elements in the case').fill('3');
  await dialog.getByLabel('How many').fill('20');
  await dialog.getByLabel('Price, each').fill('£4.50');
  await dialog.getByRole('button', { name: 'Put 20 of these on the bench' }).click();
  await expect(page.getByText('20 chosen')).toBeVisible();
  await page.getByLabel('Filter', { exact: true }).fill('twentyfold');
  await page.getByRole('button', { name: 'Set for all' }).click();
  await dialog.getByLabel('What', { exact: true }).selectOption('connection');
  await dialog.getByLabel('Elements are connected').selectOption('delta');
  await dialog.getByRole('button', { name: 'Set for all' }).click();
  await expect(page.getByText('Elements are connected set for 20 of 20 parts.')).toBeVisible();
  await expect(page.getByText('capacitor, delta can').first()).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('capacitor, delta can')).toHaveCount(0);
  // A price in another currency is refused at its field, with what would do.
  await page.getByRole('button', { name: 'Set for all' }).click();
  await dialog.getByLabel('What', { exact: true }).selectOption('price');
  await dialog.getByLabel('Price, each').fill('5 €');
  await expect(dialog.getByRole('alert')).toContainText('is in €, and prices here are in £');
});

test('from a lot to a bank in a click: the composer has its capacitors', async ({ page }) => {
  await page.goto('/parts/lots');
  await page.getByRole('link', { name: 'Sluice motor drives' }).click();
  await page.getByRole('link', { name: 'Compose a bank of its capacitors' }).click();
  await expect(page.getByText(/\d+ lines chosen on the shelf/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Make a rig of it' })).toBeVisible();
});
