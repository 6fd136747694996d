import { expect, test } from '@playwright/test';
import { newBank, openCopy, openRig, tab } from './pages.ts';

test('every page of a rig has its title, its heading in focus and the same tabs; one that does not apply says what it needs', async ({
  page,
}) => {
  await openRig(page, 'Anvil');
  const rig = page.url();
  await expect(page).toHaveTitle('Rig · Anvil · Vast Surge');
  const tabs = page.getByRole('navigation', { name: 'Pages of the rig' }).getByRole('link');
  const all = await tabs.allTextContents();
  for (const [name, heading] of [
    ['Bleed-down', 'Bleed-down: Anvil'],
    ['Shots', 'Shots of Anvil'],
    ['Rehearse', 'Rehearse Anvil'],
    ['Revisions', 'Revisions of Anvil'],
  ] as const) {
    await tab(page, name);
    await expect(page).toHaveTitle(`${name} · Anvil · Vast Surge`);
    await expect(page.getByRole('heading', { name: heading, level: 1 })).toBeFocused();
    expect(await tabs.allTextContents()).toEqual(all);
    await expect(page.getByRole('region', { name: 'Hazard' })).toBeVisible();
    await expect(page.getByRole('region', { name: 'Verdict', exact: true })).toContainText(/Go at most [\d.]+ kV/);
  }
  await page.goto(`${rig}/erection`);
  await expect(page.getByRole('heading', { name: 'Erection does not apply to Anvil' })).toBeVisible();
  await expect(page.getByRole('main')).toContainText('It needs a Marx generator');
  await page.goto(`${rig}/perpetual-motion`);
  await expect(page.getByRole('heading', { name: 'Anvil has no page of this name' })).toBeVisible();
  await tab(page, 'Rig');
  await expect(page.getByRole('region', { name: 'Store fields' })).toBeVisible();
});

test('what cannot be read yet is still there after another page of the rig was looked at', async ({ page }) => {
  const rig = await newBank(page);
  await rig.type('Charged to', '48 parsnips');
  await expect(page.getByRole('alert').first()).toContainText('Charged to');
  await tab(page, 'Bleed-down');
  await tab(page, 'Rig');
  await expect(page.getByRole('textbox', { name: /^Charged to/ })).toHaveValue('48 parsnips');
});

test('on a phone one line says which page this is, and opens the others', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await openRig(page, 'Kittiwake');
  await page.getByRole('button', { name: 'Design: Rig' }).click();
  await page.getByRole('navigation', { name: 'Pages of the rig' }).getByRole('link', { name: 'Erection' }).click();
  await expect(page.getByRole('button', { name: 'Physics: Erection' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Erection of Kittiwake' })).toBeVisible();
});

test('the list of rigs says what each is and does, and finds them by it', async ({ page }) => {
  await page.goto('/rigs');
  const rows = page.locator('tr[data-rig="Kittiwake"]');
  await expect(rows).toContainText('Marx generator');
  await expect(rows).toContainText('Peak output');
  await expect(rows.getByRole('link', { name: 'Last shot of Kittiwake' })).toBeVisible();
  await page.getByLabel('Search the rigs').fill('coilgun');
  await expect(page.locator('tr[data-rig="Shuttle"]')).toBeVisible();
  await expect(page.locator('tr[data-rig="Anvil"]')).toHaveCount(0);
});

test('what another browser writes is there without asking again', async ({ page, browser }) => {
  // The clock of the page stands but for the moments in which what was told is gathered: no list is asked for by itself.
  await page.clock.install();
  await page.goto('/rigs');
  await expect(page.locator('tr[data-rig]').first()).toBeVisible();
  await page.clock.pauseAt(Date.now() + 60_000);
  const other = await browser.newPage();
  const name = `Copy of Shuttle, seen from afar ${Date.now()}`;
  await openCopy(other, 'Shuttle');
  await other.getByRole('textbox', { name: 'Name of the rig' }).fill(name);
  await other.keyboard.press('Enter');
  await expect(other.locator('[data-save="saved"]')).toBeVisible();
  await expect
    .poll(async () => {
      await page.clock.runFor(300);
      return page.getByRole('link', { name, exact: true }).count();
    })
    .toBe(1);
  await other.close();
});
