import { expect, test } from '@playwright/test';

test('five voltages, three shots each, this Saturday: planned, what does not fit is told, and the calendar is saved', async ({
  page,
}) => {
  await page.goto('/rigs');
  await page.getByRole('link', { name: 'Thimble', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Hazard' })).toBeVisible();
  await page.getByRole('link', { name: 'Series', exact: true }).click();
  const wanted = page.getByRole('region', { name: 'What is planned' });
  await wanted.getByLabel('From').fill('20 V');
  await wanted.getByLabel(/^To/).fill('36 V');
  await wanted.getByLabel('Levels').fill('5');
  const plan = page.getByRole('region', { name: 'Plan', exact: true });
  await expect(plan).toContainText('15 shots at 5 settings: all of them fit', { timeout: 60_000 });
  await wanted.getByLabel('Session 1, length').fill('1 h');
  await expect(plan.getByRole('alert')).toContainText(/\d+ of 15 shots do not fit/);
  await wanted.getByRole('button', { name: 'Add a session' }).click();
  await wanted.getByLabel('Session 2, length').fill('3 h');
  await expect(plan.getByRole('region', { name: 'Session 2' })).toContainText('Charged to 36 V');
  const saved = page.waitForEvent('download');
  await plan.getByRole('button', { name: 'Calendar' }).click();
  expect((await saved).suggestedFilename()).toBe('thimble-series.ics');
  // It stands in the address: a reload has it again.
  await page.reload();
  await expect(page.getByLabel('Session 2, length')).toHaveValue('3 h');
  // What cannot be is named at its field, or told as the reason.
  await wanted.getByLabel(/^To/).fill('20 V');
  await expect(wanted).toContainText('must differ from the other end');
  await wanted.getByLabel(/^To/).fill('80 V');
  await expect(plan.getByRole('alert')).toContainText(/No plan\. .*cannot charge the bank/);
});
