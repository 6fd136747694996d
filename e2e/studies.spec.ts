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

test('samples run on the server go on without the page, come to a sum, and are deleted', async ({ page }) => {
  await openCopy(page, 'Anvil');
  await page.getByRole('link', { name: 'Studies' }).click();
  await page.getByRole('tab', { name: 'How it scatters' }).click();
  await page.getByRole('textbox', { name: 'Samples' }).fill('150000');
  await expect(page.getByText('More than 100,000 samples are run on the server')).toBeVisible();
  await page.getByRole('textbox', { name: 'Samples' }).fill('3000');
  const kept = page.getByRole('region', { name: 'Kept studies' });
  await kept.getByRole('button', { name: 'Run on the server: 3,000 samples' }).click();
  // The first study of a server waits for the thread that it is tried in.
  await expect(page.getByRole('region', { name: 'The kept study' })).toBeVisible({ timeout: 60_000 });
  await page.reload();
  const study = kept.getByRole('listitem').filter({ hasText: '3,000 samples, seed 1' });
  await expect(study).toContainText('done', { timeout: 60_000 });
  await study.getByRole('button', { name: /^3,000 samples/ }).click();
  const shown = page.getByRole('region', { name: 'The kept study' });
  await expect(shown).toContainText(/mean 17\.\d+ kA.*of 3,000 samples/);
  await expect(shown).toContainText(/sum of all samples [0-9a-f]{16}/);
  await shown.getByLabel('Goal, from').fill('17 kA');
  await expect(shown.getByRole('status')).toContainText(/% of samples meet it; .*% to .*% with 95 % confidence/);
  await expect(shown.getByRole('region', { name: 'Highest samples' }).getByRole('listitem')).toHaveCount(5);
  await expectUsable(page);
  const csv = await page.request.get((await study.getByRole('link', { name: 'CSV' }).getAttribute('href')) ?? '');
  expect((await csv.text()).split('\n')).toHaveLength(3002);
  await study.getByRole('button', { name: 'Delete' }).click();
  await expect(study).toHaveCount(0);
});

test('a sweep by the solver runs on the server, is drawn as it comes, survives a reload, and is put into the rig', async ({
  page,
}) => {
  await openCopy(page, 'Anvil');
  await page.getByRole('link', { name: 'Studies' }).click();
  await page.getByRole('combobox', { name: /^Figure/ }).selectOption({ label: 'Peak current, by the solver' });
  await page.getByLabel('Vary: steps').fill('12');
  await page.getByLabel('to', { exact: true }).fill('2.8 kV');
  const kept = page.getByRole('region', { name: 'Kept studies' });
  await kept.getByRole('button', { name: 'Run on the server: 12 points' }).click();
  const shown = page.getByRole('region', { name: 'The kept study' });
  await expect(shown).toBeVisible({ timeout: 60_000 });
  await page.reload();
  const study = kept.getByRole('listitem').filter({ hasText: '12 points' });
  await expect(study).toContainText('done', { timeout: 60_000 });
  await study.getByRole('button', { name: /^Store, charged to .* to 2\.8 kV, revision/ }).click();
  const point = shown.getByRole('region', { name: 'At this point' });
  await expect(point).toContainText(/\d kA/);
  // The page has worked out the same by itself.
  const own = page.getByRole('region', { name: 'At this point' }).first();
  await expect(own).toContainText(/\d kA/);
  expect(await point.textContent()).toBe(await own.textContent());
  await shown.getByRole('slider', { name: /^Store, charged to/ }).press('End');
  await expect(point).toContainText('charged to 2.8 kV');
  await expectUsable(page);
  const csv = await page.request.get((await study.getByRole('link', { name: 'CSV' }).getAttribute('href')) ?? '');
  expect((await csv.text()).split('\n')).toHaveLength(14);
  await point.getByRole('button', { name: 'Put this point into the rig' }).click();
  await expect(page.getByRole('region', { name: 'Hazard' })).toContainText('2.80 kV');
});
