import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { beginRun, openRig, RigPage, tab } from './pages.ts';

/** The headings of a walk-through, as it stands in the documents. */
const stepsOf = (id: string): string[] =>
  [...readFileSync(new URL(`../docs/guide/${id}.md`, import.meta.url), 'utf8').matchAll(/^## \d+\. (.*)$/gm)].map(
    ([, title = '']) => title,
  );

/** Begins with a starter, as the first step of every walk-through says it. */
const started = (title: string, wishes: Readonly<Record<string, string>>) => async (page: Page) => {
  await page.goto('/rigs');
  await page.getByRole('region', { name: 'Start something' }).getByRole('link', { name: title, exact: true }).click();
  for (const [label, text] of Object.entries(wishes)) await page.getByLabel(label, { exact: true }).fill(text);
  await page.getByRole('button', { name: 'Make this rig' }).click();
  await expect(page.getByRole('region', { name: 'Store fields' })).toContainText('assumed');
};

const onTab = (name: string, heading: RegExp, says: RegExp) => async (page: Page) => {
  await tab(page, name);
  await expect(page.getByRole('heading', { level: 1 })).toContainText(heading);
  await expect(page.getByRole('main')).toContainText(says);
};

const logged = (volts: string, measured: string, value: string) => async (page: Page) => {
  await tab(page, 'Shots');
  await page.getByRole('button', { name: 'Log a shot', exact: true }).click();
  const sheet = page.getByRole('dialog');
  await sheet.getByLabel('Voltage at the shot').first().fill(volts);
  await sheet.getByLabel(measured).first().fill(value);
  await sheet.getByRole('button', { name: 'Save shot' }).click();
  await expect(page.getByRole('row', { name: new RegExp(measured) }).first()).toContainText('%');
};

/** What is done at each step: one that the document has and nobody plays fails. */
const played: Readonly<Record<string, Readonly<Record<string, (page: Page) => Promise<void>>>>> = {
  'first-bank': {
    'Start a bank': started('Capacitor bank', { 'Charged to': '46 V', Energy: '20 J' }),
    'Read what it can do to you': async (page) => {
      await expect(new RigPage(page).strip).toContainText('20.1 J at 46.0 V');
      await page.keyboard.press('w');
      await expect(page.getByRole('region', { name: 'Working' })).toContainText('Stored energy');
      await page.keyboard.press('Escape');
    },
    'Enter a rating': async (page) => {
      await expect(page.getByLabel('Verdict')).toContainText('Not now');
      await new RigPage(page).type('DC rating, each', '63 V');
      await expect(new RigPage(page).limit('capacitor-voltage')).toContainText('%');
    },
    'Open the run sheet': onTab('Run sheet', /./, /Supply off/),
    'Enter or waive what is missing': async (page) => {
      const held = page.getByRole('region', { name: 'Held back' });
      await held.getByLabel('Name').fill('A newcomer');
      await held.getByLabel('Reason').fill('Low voltage, parts marked for more.');
      await held.getByRole('button', { name: 'Waive all' }).click();
      await expect(page.getByRole('region', { name: 'Verdict of this sheet' })).toContainText('Go at most 46.0 V');
    },
    'Rehearse it': async (page) => {
      const sheet = page.url();
      await page.getByRole('button', { name: 'Run or rehearse' }).click();
      await page.getByLabel('Rehearsal, on a simulated rig').check();
      await page.getByRole('button', { name: 'Open the rehearsal' }).click();
      await beginRun(page);
      await page.keyboard.press('Escape');
      await page.keyboard.press('Escape');
      await expect(page.getByRole('heading', { level: 1 })).toContainText('Supply off');
      await page.goto(sheet);
    },
    'Log a shot': logged('46 V', 'Peak current', '330 A'),
  },
  'first-marx': {
    'Start a Marx generator': started('Marx generator', { Output: '90 kV', Energy: '6 J' }),
    'See what comes out': async (page) => {
      const out = page.getByRole('region', { name: 'What comes out' });
      await expect(out).toContainText('Peak current, by the solver', { timeout: 60_000 });
      await expect(page.getByRole('group', { name: 'The rig as one line' })).toContainText('more');
    },
    'See whether it erects': onTab('Erection', /Erection/, /[Ee]rects? as set/),
    'See how the stages fill': onTab('Stages', /Stages/, /stage/i),
    'Set the gap': onTab('Gap', /Gap|gap/, /self-break/i),
    'Read the run sheet': onTab('Run sheet', /./, /trigger/i),
    'Log a shot': logged('13 kV', 'Peak current', '150 A'),
  },
  'first-coilgun': {
    'Start a coilgun': started('Coilgun, one stage', { 'Charged to': '230 V', 'Energy of a stage': '45 J' }),
    'Read the muzzle speed': onTab('Launch', /Launch/, /Muzzle speed [\d.]+ m\/s/),
    'Look at the coil': onTab('Coil', /Coil|coil/, /inductance/i),
    'Find a better one': onTab('Better coil', /Better|better/, /speed/i),
    'Plan the discharge': async (page) => {
      await onTab('Bleed-down', /Bleed-down/, /open/)(page);
      await onTab('Run sheet', /./, /Supply off/)(page);
    },
    'Log a shot': logged('230 V', 'Muzzle speed', '8 m/s'),
  },
};

for (const [id, acts] of Object.entries(played))
  test(`the walk-through ${id} can be gone through as it is written`, async ({ page }) => {
    test.setTimeout(180_000);
    expect(stepsOf(id)).toEqual(Object.keys(acts));
    await page.goto(`/guide/${id}`);
    for (const title of stepsOf(id)) await expect(page.getByRole('heading', { name: title })).toBeVisible();
    for (const title of stepsOf(id)) await test.step(title, () => acts[title]?.(page) ?? Promise.reject(new Error(title)));
  });

test('a term that is underlined opens its sentence; the finder knows other names of it, its page has the whole list', async ({
  page,
}) => {
  await page.goto('/start/bank');
  await expect(page.getByRole('heading', { name: 'Capacitor bank' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('soakage');
  await page.getByRole('option', { name: /dielectric absorption/ }).click();
  await expect(page.getByText('charge that returns from the dielectric')).toBeVisible();
  const rig = await openRig(page, 'Anvil');
  await rig.everyFigure();
  await rig.figure('damping-ratio').click();
  await page.getByRole('button', { name: 'Damping ratio: what it is' }).click();
  await expect(page.getByRole('dialog')).toContainText('Glossary');
});
