import { expect, test, type Page } from '@playwright/test';
import { openCopy, tab } from './pages.ts';

/** A rig of one's own, and its page of campaigns. */
async function campaigns(page: Page): Promise<void> {
  await openCopy(page, 'Thimble');
  await expect(page.getByRole('region', { name: 'Hazard' })).toBeVisible();
  await tab(page, 'Campaigns');
}

test('five voltages, three shots each, this Saturday: planned, what does not fit is told, and the calendar is saved', async ({
  page,
}) => {
  await campaigns(page);
  const wanted = page.getByRole('region', { name: 'What is planned' });
  await wanted.getByLabel(/^From/).fill('20 V');
  await wanted.getByLabel(/^To/).fill('36 V');
  await wanted.getByLabel(/^Levels/).fill('5');
  const plan = page.getByRole('region', { name: 'Plan', exact: true });
  await expect(plan).toContainText('15 shots at 5 settings: all of them fit', { timeout: 60_000 });
  await wanted.getByLabel('Session 1, length').fill('1 h');
  await expect(plan.getByRole('alert')).toContainText(/\d+ of 15 shots do not fit/);
  await wanted.getByRole('button', { name: 'Add a session' }).click();
  await wanted.getByLabel('Session 2, length').fill('3 h');
  await expect(plan.getByRole('region', { name: 'Session 2' })).toContainText('Charged to 36 V');
  const saved = page.waitForEvent('download');
  await plan.getByRole('button', { name: 'Calendar' }).click();
  expect((await saved).suggestedFilename()).toBe('copy-of-thimble-campaign.ics');
  // It stands in the address: a reload has it again.
  await page.reload();
  await expect(page.getByLabel('Session 2, length')).toHaveValue('3 h');
  // What cannot be is named at its field, or told as the reason.
  await wanted.getByLabel(/^To/).fill('20 V');
  await expect(wanted).toContainText('must differ from the other end');
  await wanted.getByLabel(/^To/).fill('80 V');
  await expect(plan.getByRole('alert')).toContainText(/No plan\. .*cannot charge the bank/);
});

test('a campaign is kept, fired from, corrected, planned anew and closed with its answer', async ({ page }) => {
  test.setTimeout(180_000);
  await campaigns(page);
  const wanted = page.getByRole('region', { name: 'What is planned' });
  await wanted.getByLabel(/^From/).fill('20 V');
  await wanted.getByLabel(/^To/).fill('36 V');
  await wanted.getByLabel(/^Levels/).fill('2');
  await wanted.getByLabel('Shots at each').fill('2');
  const keep = page.getByRole('form', { name: 'Keep it as a campaign' });
  await keep.getByRole('button', { name: 'Keep this campaign' }).click();
  await expect(keep.getByRole('alert')).toContainText('Question must not be empty. Your initials must not be empty');
  await keep.getByLabel(/^Question/).fill('Which voltage carries more current?');
  await keep.getByLabel('Your initials').fill('AB');
  // A session without its key holder is named, with what would work; what was typed stays.
  await keep.getByRole('button', { name: 'Keep this campaign' }).click();
  await expect(keep.getByRole('alert')).toContainText('Session 1 has nobody who holds the key: enter who does');
  await wanted.getByLabel('Session 1, people').fill('AB holds the key, CD reads');
  await expect(page.getByRole('region', { name: 'Session 1' })).toContainText('AB holds the key, CD reads', { timeout: 60_000 });
  await keep.getByLabel(/^Question/).fill('Which voltage carries more current?');
  await keep.getByLabel('Your initials').fill('AB');
  await keep.getByRole('button', { name: 'Keep this campaign' }).click();
  await expect(page.getByRole('heading', { name: 'Which voltage carries more current?' })).toBeVisible();
  const next = page.getByRole('region', { name: 'Next shot' });
  await expect(next).toContainText('Next: shot 1 of 4');
  await expect(next).toContainText('not now');
  // Each no has one act; what a person did is written down with whose it is.
  await next.getByRole('button', { name: 'Done just now: discharge stick' }).click();
  await expect(next.getByRole('alert')).toContainText('Enter the initials of who acts first');
  await next.getByLabel('Acts', { exact: true }).fill('AB');
  await next.getByLabel('Reads', { exact: true }).fill('CD');
  await next.getByRole('button', { name: 'Done just now: discharge stick' }).click();
  await expect(next.getByRole('button', { name: 'Done just now: discharge stick' })).toHaveCount(0);
  const fire = async (text: string) => {
    const form = next.getByRole('form', { name: 'What the shot came to' });
    await form.getByLabel('Peak current').fill(text);
    await form.getByRole('button', { name: /^Save shot/ }).click();
  };
  // The form is one key away; what cannot be read stays and says why.
  await page.getByRole('heading', { name: 'Which voltage carries more current?' }).click();
  await page.keyboard.press('l');
  await expect(next.getByLabel('Peak current')).toBeFocused();
  await fire('97 V');
  await expect(next.getByRole('alert')).toContainText('Peak current');
  await fire('97 A');
  await expect(next).toContainText('Next: shot 2 of 4');
  await fire('98 A');
  await expect(next).toContainText('Next: shot 3 of 4');
  await expect(next.getByRole('list', { name: 'Settings to make' })).toContainText('to set; it was 20 V');
  await next.getByLabel('Outcome').selectOption('misfire');
  await next.getByRole('button', { name: 'Save shot 3' }).click();
  await expect(next).toContainText('again after one that did not fire');
  // The rig is set to it, and its sheet is that of this setting.
  await next.getByRole('button', { name: 'Set the rig to it, for its run sheet' }).click();
  await expect(next.getByRole('link', { name: 'Run sheet of this setting' })).toBeVisible();
  await fire('175 A');
  await expect(next).toContainText('Next: shot 4 of 4');
  await expect(page.getByRole('region', { name: 'Answer so far' })).toContainText(/Peak current is highest at Charged to 36 V/);
  const book = page.getByRole('region', { name: 'Book' });
  await book.getByRole('button', { name: /^Correct Shot 2/ }).click();
  const line = book.getByRole('form', { name: 'Write into the book' });
  await line.getByLabel('Your initials').fill('CD');
  await line.getByLabel('What it says').fill('It was 99 A.');
  await line.getByRole('button', { name: 'Write it down' }).click();
  await expect(book).toContainText('Correction CD: It was 99 A.');
  await expect(book).toContainText('Peak current 98.0 A');
  const left = page.getByRole('region', { name: 'What is left' });
  await left.getByRole('button', { name: 'Other hours' }).click();
  await left.getByLabel('Session 1, length').fill('2 min');
  await left.getByLabel('Why').fill('The hall is taken.');
  await left.getByLabel('Your initials').fill('AB');
  await left.getByRole('button', { name: 'Plan with these hours' }).click();
  await expect(left.getByRole('alert')).toContainText('1 shot has no hour any more');
  await line.getByLabel('Kind of entry').selectOption('closed');
  await line.getByLabel('Your initials').fill('AB');
  await line.getByLabel('What it says').fill('The higher one.');
  await line.getByRole('button', { name: 'Write it down' }).click();
  await expect(next).toContainText('Closed by AB: The higher one.');
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Markdown' }).click();
  expect((await saved).suggestedFilename()).toMatch(/^copy-of-thimble-which-voltage.*\.md$/);
  await tab(page, 'Campaigns');
  await expect(page.getByRole('list', { name: 'Campaigns' })).toContainText(/3 of 4\s*closed/);
});

test('two fields at once, fired where they teach the most, with what the shots use up; the hours are booked for others', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await campaigns(page);
  const wanted = page.getByRole('region', { name: 'What is planned' });
  const first = wanted.getByRole('group', { name: 'Varied 1' });
  await first.getByLabel(/^From/).fill('20 V');
  await first.getByLabel(/^To/).fill('36 V');
  await first.getByLabel('Levels').fill('3');
  await wanted.getByRole('button', { name: 'Vary another field' }).click();
  const second = wanted.getByRole('group', { name: 'Varied 2' });
  await second.getByLabel('and vary, 2').selectOption('load.R');
  await second.getByLabel(/^From/).fill('150 mΩ');
  await second.getByLabel(/^To/).fill('210 mΩ');
  await second.getByLabel('Levels').fill('3');
  await wanted.getByLabel('Settings').selectOption('next-best');
  await wanted.getByLabel('Shots for each setting, on average').fill('1');
  await wanted.getByRole('button', { name: 'Add what a shot takes' }).click();
  const foil = wanted.getByRole('group', { name: 'Used up 1' });
  await foil.getByLabel('What', { exact: true }).fill('Foil');
  await foil.getByLabel('Unit').fill('sheets');
  await foil.getByLabel('There are').fill('two');
  await expect(foil.getByRole('alert')).toContainText('What is there');
  await foil.getByLabel('There are').fill('1');
  await wanted.getByLabel('Session 1, people').fill('AB holds the key');
  const plan = page.getByRole('region', { name: 'Plan', exact: true });
  await expect(plan).toContainText('9 shots at 9 settings', { timeout: 60_000 });
  await expect(plan.getByRole('list', { name: 'What the shots use up' })).toContainText('for 1, then 8 sheets more');
  const keep = page.getByRole('form', { name: 'Keep it as a campaign' });
  await keep.getByLabel(/^Question/).fill('Where is it highest?');
  await keep.getByLabel('What is sought').selectOption('highest');
  await keep.getByLabel('Your initials').fill('AB');
  await keep.getByRole('button', { name: 'Keep this campaign' }).click();
  const next = page.getByRole('region', { name: 'Next shot' });
  await expect(next).toContainText('Next: shot 1 of 9');
  await next.getByLabel('Acts', { exact: true }).fill('AB');
  const form = next.getByRole('form', { name: 'What the shot came to' });
  await form.getByLabel('Peak current').fill('97 A');
  await form.getByRole('button', { name: /^Save shot/ }).click();
  await expect(next).toContainText('Next: shot 2 of 9');
  // The one sheet is used up: the verdict names what is done, and a count turns it.
  await expect(next.getByRole('list', { name: 'What stands against it' })).toContainText(
    'Bring more of it, and enter it in the book',
  );
  const book = page.getByRole('region', { name: 'Book' });
  const line = book.getByRole('form', { name: 'Write into the book' });
  await line.getByLabel('Kind of entry').selectOption('stock');
  await line.getByLabel('What is there now').fill('20');
  await line.getByLabel('Your initials').fill('AB');
  await line.getByLabel('What it says').fill('A new pack.');
  await line.getByRole('button', { name: 'Write it down' }).click();
  await expect(book).toContainText('Foil, 20 sheets: A new pack.');
  await expect(next.getByRole('list', { name: 'What stands against it' })).not.toContainText('Bring more of it');
  // Its hours stand against another campaign in the same ones.
  await tab(page, 'Campaigns');
  await expect(page.getByRole('region', { name: 'What is planned' })).toContainText('“Where is it highest?”');
});
