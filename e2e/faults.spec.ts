import { expect, test } from '@playwright/test';
import { openCopy, openRig, tab } from './pages.ts';

test('what fails is found by its tab, the worst first; a remedy goes into the rig by a click and undo takes it out', async ({
  page,
}) => {
  test.setTimeout(90_000);
  const rig = await openCopy(page, 'Thimble');
  await tab(page, 'Faults');
  await expect(page.getByRole('heading', { name: 'When something fails: Copy of Thimble' })).toBeVisible();
  await page.getByRole('button', { name: 'One capacitor shorts inside' }).click();
  const fault = page.getByRole('article', { name: 'One capacitor shorts inside' });
  await expect(fault).toContainText('its case is not rated');
  await expect(fault.getByRole('listitem').filter({ hasText: 'Fuse per capacitor' })).toContainText(
    /it breaks at least 37\.0 V DC/,
  );
  await fault.getByRole('listitem').filter({ hasText: 'Series resistor per capacitor' }).getByRole('button').click();
  await expect(fault).toContainText('It is in the rig');
  await tab(page, 'Rig');
  await rig.everyFigure();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await tab(page, 'Faults');
  await page.getByRole('button', { name: 'One capacitor shorts inside' }).click();
  await expect(
    fault.getByRole('listitem').filter({ hasText: 'Series resistor per capacitor' }).getByRole('button'),
  ).toBeEnabled();
});

test('rows of faults are one stop of Tab, arrows go from one to the next, Enter shows one', async ({ page }) => {
  await openRig(page, 'Thimble');
  await tab(page, 'Faults');
  const rows = page.getByRole('table', { name: /Faults/ }).getByRole('button');
  await expect(rows.first()).toBeVisible();
  await rows.first().focus();
  await page.keyboard.press('ArrowDown');
  await expect(rows.nth(1)).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(rows.nth(1)).toHaveAttribute('aria-expanded', 'true');
});

test('a rig without a guard says so; one that is entered has its numbers, its chain and its plan, and a weld is named', async ({
  page,
}) => {
  const rig = await openCopy(page, 'Thimble');
  await tab(page, 'Guard');
  await expect(page.getByText('No guard is entered.')).toBeVisible();
  await page.getByRole('button', { name: 'Enter a guard' }).click();
  const reach = page.getByRole('region', { name: 'What reaches a person' });
  await expect(reach.getByRole('row', { name: /Peak sound at people/ })).toContainText(/dB/);
  await expect(page.getByRole('img', { name: /from above: people at 3 m/ })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Interlock' })).toContainText('no single failure of 6');
  await page.getByRole('link', { name: 'Guard of the rig' }).click();
  await page.locator('[data-slot="guard"]').click();
  // The chain drops a dump that this rig has not got: its group is open by itself, and stays so.
  await page.getByText('Ratings', { exact: true }).click();
  await page.getByLabel('Door switch in the chain').selectOption('one');
  await tab(page, 'Guard');
  await expect(page.getByRole('region', { name: 'Interlock' })).toContainText('3 single failures leave something live');
  await expect(page.getByRole('region', { name: 'Verdict' })).toContainText('Do not fire');
  await expect(rig.strip).toBeVisible();
  // Taken back, edit by edit, there is none as before.
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByText('No guard is entered.')).toBeVisible();
});
