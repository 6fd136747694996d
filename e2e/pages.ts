import { readFile } from 'node:fs/promises';
import { expect, type Locator, type Page } from '@playwright/test';

/** What a person does on the rig page, in the words of the page. */
export class RigPage {
  readonly page: Page;
  constructor(page: Page) {
    this.page = page;
  }
  async block(title: string): Promise<void> {
    await this.page
      .getByRole('group', { name: 'The rig as one line' })
      .getByRole('button', { name: new RegExp(`^${title}`) })
      .click();
    await expect(this.page.getByRole('region', { name: new RegExp(`^${title} fields`) })).toBeVisible();
  }
  async type(label: string, text: string): Promise<void> {
    const field = this.page.getByLabel(label, { exact: false }).and(this.page.locator('input')).first();
    await this.unfold(field);
    await field.fill(text);
  }
  /** Opens the fold that a field stands in. */
  async unfold(field: Locator): Promise<void> {
    await expect(field).toBeAttached();
    const fold = this.page.locator('details:not([open])').filter({ has: field });
    if ((await fold.count()) > 0) await fold.locator('summary').first().click();
  }
  /** All figures of all groups. */
  async everyFigure(): Promise<void> {
    await this.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await this.page.keyboard.press('f');
  }
  figure(id: string): Locator {
    return this.page.locator(`[data-figure="${id}"]`);
  }
  limit(id: string): Locator {
    return this.page.locator(`[data-limit="${id}"]`);
  }
  saved(): Promise<void> {
    return expect(this.page.locator('[data-save="saved"]')).toBeVisible();
  }
  get strip(): Locator {
    return this.page.getByRole('region', { name: 'Hazard' });
  }
}

/** A rig of the list, which shows fifty at a time: it is searched for, as a person would. */
export async function rigInList(page: Page, name: string): Promise<Locator> {
  const rows = page.locator('tr[data-rig]');
  await expect(rows.first()).toBeVisible();
  await page.getByRole('searchbox', { name: 'Search the rigs' }).fill(name);
  // A row that moves under the pointer is not clicked: the list is what was searched for, and nothing else stands in it.
  await expect(rows.filter({ hasNotText: new RegExp(name, 'i') })).toHaveCount(0);
  const link = page.getByRole('link', { name, exact: true });
  await expect(link).toBeVisible();
  return link;
}

/** Picks a rig of a list to choose from; of more than fifty it is searched first. */
export async function pickRig(within: Page | Locator, label: string, name: string): Promise<void> {
  const list = within.getByLabel(label, { exact: true });
  await expect(list.locator('option').nth(1)).toBeAttached();
  const search = within.getByLabel(`Search for: ${label}`);
  if (await search.isVisible()) await search.fill(name);
  await list.selectOption({ label: name });
}

/** A new bank of one's own, its page open. */
export async function newBank(page: Page): Promise<RigPage> {
  await page.goto('/rigs');
  await page.getByRole('link', { name: 'New rig', exact: true }).click();
  await page.getByRole('button', { name: 'New capacitor bank', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Store fields' })).toBeVisible();
  return new RigPage(page);
}

export async function openRig(page: Page, name: string): Promise<RigPage> {
  await page.goto('/rigs');
  await (await rigInList(page, name)).click();
  await expect(page.getByRole('region', { name: 'Store fields' })).toBeVisible();
  return new RigPage(page);
}

/** A rig of the demo under a name of its own: what a test changes of it no other test meets. */
export async function openCopy(page: Page, name: string): Promise<RigPage> {
  const text = await readFile(new URL(`../demo/${name.toLowerCase()}.json`, import.meta.url), 'utf8');
  const document = { ...(JSON.parse(text) as object), id: undefined, name: `Copy of ${name}` };
  await page.goto('/rigs');
  await page
    .getByLabel('Rig file or archive to import')
    .setInputFiles({ name: 'copy.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(document)) });
  await expect(page.getByRole('region', { name: 'Store fields' })).toBeVisible();
  return new RigPage(page);
}

/** Does something with a rig of the list, by the menu of its row. */
export async function rigAction(page: Page, name: string, action: string): Promise<void> {
  await page.getByRole('button', { name: `Actions of ${name}`, exact: true }).click();
  await page.getByRole('menuitem', { name: action, exact: true }).click();
}

/** Goes to another page of the rig that is open, by its tab. */
export const tab = (page: Page, name: string): Promise<void> =>
  page.getByRole('navigation', { name: 'Pages of the rig' }).getByRole('link', { name, exact: true }).click();

/** Says who runs it, before a run: two people, the reader with a PIN. */
export async function beginRun(page: Page): Promise<void> {
  await page.getByLabel('Key holder, who acts').fill('ab');
  await page.getByLabel('Reader', { exact: true }).fill('cd');
  await page.getByLabel('PIN of the reader').fill('4711');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText(/^Step 1 of/)).toBeVisible();
}

/** Logs a shot of the demo's Thimble and stays on its page. @param wrongFirst the voltage is first typed so that it is refused */
export async function newShot(page: Page, volts: string, wrongFirst = false): Promise<void> {
  await page.goto('/shots');
  await page.getByRole('button', { name: 'Log a shot', exact: true }).click();
  const sheet = page.getByRole('dialog');
  await pickRig(sheet, 'Rig', 'Thimble');
  if (wrongFirst) {
    await sheet.getByLabel('Voltage at the shot').first().fill('0.3 mV ±');
    await expect(sheet.getByRole('alert')).toContainText('Voltage at the shot');
  }
  await sheet.getByLabel('Voltage at the shot').first().fill(volts);
  await sheet.getByLabel('Peak current').fill('174 A');
  await sheet.getByRole('button', { name: 'Save shot' }).click();
  await expect(page.getByRole('heading', { name: /^Thimble,/ })).toBeVisible();
}
