import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { RigPage, newBank, rigAction, tab } from './pages.ts';

test('edits are undone and done again with the keys, also out of a field, and said in words', async ({ page }) => {
  const rig = await newBank(page);
  await page.getByLabel('Charged to').focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('44 V');
  await expect(rig.strip).toContainText('at 44.0 V');
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Charged to')).toHaveValue('48 V');
  await expect(page.getByText('Undone: Store, charged to: 48 V (default) → 44 V')).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByLabel('Charged to')).toHaveValue('44 V');
  await page.keyboard.press('ArrowUp');
  await expect(page.getByLabel('Charged to')).toHaveValue('47 V');
  await page.keyboard.press('Alt+ArrowDown');
  await expect(page.getByLabel('Charged to')).toHaveValue('46.53 V');
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Charged to')).toHaveValue('44 V');
  await rig.block('Switch');
  await page.getByLabel('Kind of switch').selectOption('thyristor');
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Kind of switch')).toHaveValue('contact');
  await rig.saved();
  await page.reload();
  await expect(rig.strip).toContainText('at 44.0 V');
});

test('a revision is closed with a name, compared, restored, branched, and carried in an archive', async ({ page }, info) => {
  const rig = await newBank(page);
  await page.getByLabel('Name of the rig').fill('Revised');
  await page.getByLabel('Name of the rig').blur();
  await rig.type('DC rating, each', '63 V');
  await page.getByLabel('DC rating, each').press('Control+s');
  await page.getByLabel('Name (optional)').fill('as built');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Saved as revision 1, “as built”.')).toBeVisible();
  await rig.type('Charged to', '55 V');
  await rig.saved();
  await tab(page, 'Revisions');
  const comparison = page.getByRole('region', { name: 'Comparison' });
  await expect(comparison).toContainText('Revision 1, as built beside');
  await expect(comparison.getByRole('row', { name: /^Store, charged to/ })).toContainText('48 V (default)55 V');
  await expect(comparison.getByRole('row', { name: /^Stored energy/ })).toContainText('1.15 J');
  await expect(comparison.getByRole('row', { name: /^Stored energy/ })).toContainText(/\+31\.\d %/);
  await expect(comparison.getByRole('row', { name: /^Bank voltage/ })).toContainText('87.3 %');
  await comparison.getByTitle('Working of Stored energy').first().click();
  await expect(page.getByRole('dialog')).toContainText(/1\.152\sJ/);
  await page.keyboard.press('Escape');

  await comparison.getByRole('button', { name: 'Restore revision 1' }).click();
  await expect(rig.strip).toContainText('at 48.0 V');
  await rig.saved();
  await tab(page, 'Revisions');
  await expect(page.locator('[data-revision="Revision 2"]')).toBeVisible();
  await page.getByRole('button', { name: 'Compare Revision 2', exact: true }).click();
  await comparison.getByRole('button', { name: 'Branch into a new rig' }).click();
  await expect(rig.strip).toContainText('at 55.0 V');
  await expect(page.getByLabel('Name of the rig')).toHaveValue('Revised (from revision 2)');

  await page.goto('/rigs');
  await rigAction(page, 'Revised', 'Revisions (2)');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Share with parts, runs and shots' }).click(),
  ]);
  const archive = info.outputPath('revised.zip');
  await download.saveAs(archive);
  await page.goto('/rigs');
  const file = page.getByLabel('Rig file or archive to import');
  await file.setInputFiles({ name: 'cut.zip', mimeType: 'application/zip', buffer: (await readFile(archive)).subarray(0, 300) });
  await expect(page.getByRole('alert').filter({ hasText: 'nothing was written' })).toContainText('not a complete ZIP file');
  await file.setInputFiles(archive);
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('same');
  await expect(dialog.getByRole('button', { name: 'Nothing chosen' })).toBeDisabled();
  await dialog.getByLabel('What to do with Revised').selectOption('copy');
  await dialog.getByRole('button', { name: 'Import 1 rig' }).click();
  await expect(page.getByText('Imported: 1 new, 0 changed.')).toBeVisible();
  await expect(page.locator('tr[data-rig="Revised"]')).toHaveCount(2);
});

test('the finder leads to any rig, shot, run, sum and action by its words', async ({ page }) => {
  const rig = await newBank(page);
  const find = async (words: string) => {
    await page.keyboard.press('Control+k');
    await page.getByPlaceholder('Find a part, a rig, a run, a shot, a sum or an action').fill(words);
  };
  await find('load of');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Load fields' })).toBeVisible();
  await find('anvil');
  // What the server finds comes a moment later: Enter waits for it.
  await page.keyboard.press('Enter');
  await expect(rig.strip).toContainText('can kill');
  await find('bleed tenth');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Time for a capacitor to bleed to a tenth of its voltage' })).toBeVisible();
  // However late the answers come, and in whatever order: what is first is marked, and Enter opens what is marked.
  await page.route(/\/api\/rigs\?.*archived=true/, async (route) => {
    await new Promise((done) => setTimeout(done, 1500));
    await route.continue();
  });
  await find('clack before the strap');
  await expect(page.getByRole('option', { name: /^Shot of Thimble/, selected: true })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /^Thimble,/ })).toBeVisible();
  await find('rehearsal of thimble mar 2026');
  await expect(page.getByRole('option', { name: /^Rehearsal of Thimble/ }).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await find('zzz');
  await expect(page.getByText('No results.')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('g');
  await page.keyboard.press('r');
  await expect(page.getByRole('heading', { name: 'Rigs', exact: true })).toBeVisible();
});

test('a rig with a block from a newer version is left as it is, said to be so, and everything else works', async ({ page }) => {
  // Pages ask again by themselves: what is on its way when the test lets go of it is waited for.
  const letGo = () => page.unrouteAll({ behavior: 'wait' });
  await page.route('**/api/rigs?*', async (route) => {
    const answer = await route.fetch();
    const list = (await answer.json()) as { rows: { name: string; unreadable: string | null }[] };
    const [first] = list.rows;
    if (first) {
      first.name = 'From tomorrow';
      first.unreadable = 'rig.supply kind must be one of dc-source';
    }
    await route.fulfill({ response: answer, json: list });
  });
  await page.goto('/rigs');
  const row = page.getByRole('row', { name: /From tomorrow/ });
  await expect(row).toContainText('cannot be read, perhaps because a newer version wrote it');
  await expect(page.locator('tr[data-rig]').first()).toBeVisible();
  await letGo();
  await page.route('**/api/rigs/*', async (route) => {
    const answer = await route.fetch();
    const rig = (await answer.json()) as { document?: { rig: { supply: { kind: string } } } };
    if (rig.document) rig.document.rig.supply.kind = 'fusion';
    await route.fulfill({ response: answer, json: rig });
  });
  await page.locator('tr[data-rig]').first().getByRole('link').first().click();
  await expect(page.getByRole('alert')).toContainText('document.rig.supply.kind kind must be one of dc-source');
  await expect(page.getByRole('alert')).toContainText('It is left as it is');
  await letGo();
  await page.getByRole('link', { name: 'All rigs' }).click();
  await page.locator('tr[data-rig]').first().getByRole('link').first().click();
  await expect(new RigPage(page).strip).toBeVisible();
});
