import { expect, test, type Browser, type Page } from '@playwright/test';
import { newBank, RigPage } from './pages.ts';

/** Another person: another browser session with the same rig open. */
async function another(browser: Browser, address: string): Promise<{ page: Page; rig: RigPage }> {
  const page = await (await browser.newContext()).newPage();
  await page.goto(address);
  const rig = new RigPage(page);
  await expect(rig.strip).toBeVisible();
  return { page, rig };
}

test('two people on different blocks: both edits stand, by themselves, on both screens', async ({ page, browser }) => {
  const rig = await newBank(page);
  await rig.saved();
  const other = await another(browser, page.url());
  await other.rig.block('Meter');
  await other.rig.type('Maximum input voltage', '750 V');
  await other.rig.saved();
  await rig.type('Charged to', '44 V');
  await expect(page.getByText('Edited elsewhere, merged: Meter.')).toBeVisible();
  await rig.saved();
  await rig.block('Meter');
  await expect(page.getByLabel('Maximum input voltage')).toHaveValue('750 V');
  await other.page.bringToFront();
  await expect(other.rig.strip).toContainText('at 44.0 V');
  await page.keyboard.press('Control+z');
  await rig.saved();
  await expect(other.rig.strip).toContainText('at 48.0 V');
  await rig.block('Meter');
  await expect(page.getByLabel('Maximum input voltage')).toHaveValue('750 V');
});

test('two people on one block: the later save is refused, the fields are shown side by side, and a person decides', async ({
  page,
  browser,
}) => {
  const rig = await newBank(page);
  await rig.saved();
  const address = page.url();
  // Both have the rig before either saves, and this one does not look again until it saves.
  await page.route('**/api/rigs/*', (route) => (route.request().method() === 'GET' ? route.abort() : route.continue()));
  const other = await another(browser, address);
  await other.rig.type('Charged to', '41 V');
  await other.rig.saved();
  await rig.type('Charged to', '43 V');
  await rig.type('Capacitance, each', '900 µF');
  await page.unroute('**/api/rigs/*');
  const panel = page.getByRole('region', { name: 'Changed elsewhere' });
  await expect(panel).toContainText('Store, charged to');
  await expect(panel.getByLabel('Store, capacitance, each, mine')).toBeChecked();
  await expect(panel.getByRole('button', { name: 'Merge: 1 still to decide' })).toBeDisabled();
  await page.reload();
  await panel.getByLabel('Store, charged to, theirs').check();
  await panel.getByRole('button', { name: 'Merge as chosen' }).click();
  await expect(rig.strip).toContainText('at 41.0 V');
  await rig.saved();
  await other.page.bringToFront();
  await expect(other.page.getByLabel('Capacitance, each')).toHaveValue('900 µF');
});

test('two people on one block: mine becomes a rig of its own, theirs stays', async ({ page, browser }) => {
  const rig = await newBank(page);
  await rig.saved();
  await page.getByLabel('Name of the rig').fill('Contested');
  await page.getByLabel('Name of the rig').blur();
  await rig.saved();
  await page.route('**/api/rigs/*', (route) => (route.request().method() === 'GET' ? route.abort() : route.continue()));
  const other = await another(browser, page.url());
  await other.rig.type('Charged to', '41 V');
  await other.rig.saved();
  await rig.type('Charged to', '43 V');
  await page.unroute('**/api/rigs/*');
  await page.getByRole('button', { name: 'Branch mine into a new rig' }).click();
  await expect(rig.strip).toContainText('at 41.0 V');
  await page.goto('/rigs');
  await expect(page.locator('tr[data-rig="Contested (mine)"]')).toContainText('43.0 V');
  await expect(page.locator('tr[data-rig="Contested"]')).toContainText('41.0 V');
});
