import { expect, test, type Page } from '@playwright/test';
import { openCopy } from './pages.ts';
import { findings } from './screen-checks.ts';

const expectUsable = async (page: Page) => expect(await findings(page, 'day')).toEqual([]);

test('a field is varied as a curve and a map, a point goes into the rig, and what cannot be is said by its field', async ({
  page,
}) => {
  await openCopy(page, 'Anvil');
  await page.getByRole('link', { name: 'Studies', exact: true }).click();
  await expect(page.getByRole('heading', { name: /^Studies: Copy of Anvil/ })).toBeVisible();
  const curve = page.getByRole('img', { name: 'Peak current over Store, charged to' });
  await expect(curve).toBeVisible();
  await expect(curve.getByText(/^over: Charging resistor/)).toBeVisible();
  await expectUsable(page);
  // By keys: the last point, whose limits are over, and then one that is not.
  const place = page.getByRole('slider', { name: 'Store, charged to' });
  await place.focus();
  await place.press('End');
  const point = page.getByRole('region', { name: 'At this point' });
  await expect(point).toContainText('3.88 kV');
  await expect(point).toContainText('Over rating:');
  await place.press('Home');
  await expect(point).toContainText('970 V');
  await expect(point).not.toContainText('Over rating:');
  await point.getByRole('button', { name: 'Put this point into the rig' }).click();
  await expect(page.getByRole('region', { name: 'Verdict' })).toContainText('970 V');

  // A slip is named with what would do, and the address keeps what is asked.
  await page.getByLabel('from', { exact: true }).fill('1 mm');
  await expect(page.getByRole('alert')).toContainText(/^From: /);
  await page.getByLabel('from', { exact: true }).fill('500 V');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.getByRole('button', { name: 'Add a field' }).click();
  await expect(page.getByRole('img', { name: /^Peak current over Store, charged to and / })).toBeVisible();
  await expectUsable(page);
  // What meets a goal is listed, what the others fell by is told, and a slip is named.
  const wanted = page.getByRole('region', { name: 'What is wanted' });
  await wanted.getByLabel('Peak current, from').fill('10 kA');
  await expect(wanted.getByRole('status')).toContainText(
    /\d+ of \d+ points meet the goal .* Ruled out by: .*Peak current \(\d+\)/,
  );
  await wanted.getByLabel('Peak current, to').fill('9 kA');
  await expect(wanted.getByRole('alert')).toContainText('Peak current, to: must not be below 10 kA');
  await wanted.getByLabel('Peak current, to').fill('');
  await wanted.getByRole('button', { name: 'Show' }).first().click();
  await expectUsable(page);
  await page.reload();
  await expect(page.getByLabel('from', { exact: true }).first()).toHaveValue('500 V');
});

test('a newcomer finds which tolerance matters, how it scatters, and opens the worst sample as a rig', async ({ page }) => {
  await openCopy(page, 'Anvil');
  // From the number itself.
  await page
    .getByRole('button', { name: /^Peak current/ })
    .first()
    .click();
  await page.getByRole('link', { name: 'What matters' }).click();
  await expect(page.getByText('Store, capacitance, each matters most')).toBeVisible();
  await expect(page.getByRole('row', { name: /^Load, inductance of its leads/ })).toBeVisible();
  await expectUsable(page);
  await page.getByRole('tab', { name: 'How it scatters' }).click();
  await page.getByRole('textbox', { name: 'Samples' }).fill('5');
  await expect(page.getByRole('alert')).toContainText('Samples');
  await page.getByRole('textbox', { name: 'Samples' }).fill('500');
  const goal = page.getByRole('region', { name: 'Goal for Peak current' });
  await goal.getByLabel('Goal, from').fill('17 kA');
  await expect(goal.getByRole('status')).toContainText(/% of samples meet it; .*% to .*% with 95 % confidence/);
  await expectUsable(page);
  const worst = page.getByRole('region', { name: 'Highest samples' });
  const shown = await worst.getByRole('listitem').first().textContent();
  await worst.getByRole('button', { name: 'Open as a rig' }).first().click();
  await expect(page.getByRole('textbox', { name: 'Name of the rig' })).toHaveValue(/sample \d+, seed 1/);
  expect(shown).toMatch(/^1[78]/);
});
