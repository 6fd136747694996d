// Takes the pictures in docs/screenshots/ from the demo data: npm run screenshots, with ./surge start running on a fresh database.
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';

const base = `http://127.0.0.1:${process.env.PORT ?? 4600}`;
const folder = fileURLToPath(new URL('../docs/screenshots/', import.meta.url));
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});

/** Those that are named behind the command; none: all of them. */
const only = process.argv.slice(2);

async function take(name, { theme = 'day', guide = false }, act) {
  if (only.length > 0 && !only.includes(name)) return;
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(
    ([chosen, shown]) => {
      localStorage.setItem('vast-surge.theme', chosen);
      localStorage.setItem('vast-surge.guide', shown ? 'shown' : 'dismissed');
    },
    [theme, guide],
  );
  await page.goto(`${base}/rigs`);
  await act(page);
  // Off every plot, so that no cursor stands in one.
  await page.mouse.move(2, 798);
  // What is fetched or solved behind a view is in its picture.
  await page
    .getByText(/^(solver: at work|(Fetching|Calculating|Reading|Working)\b.*…)/)
    .filter({ visible: true })
    .first()
    .waitFor({ state: 'detached' });
  await page.waitForTimeout(600);
  await page.screenshot({ path: `${folder}${name}.png` });
  await page.close();
}

const open = async (page, rig) => {
  await page.getByRole('link', { name: rig, exact: true }).click();
  await page.getByRole('region', { name: 'Store fields' }).waitFor();
};

const parts = async (page, room) => {
  await page.goto(`${base}/parts${room}`);
  await page.getByText('saving').waitFor({ state: 'detached' });
};
await take('parts', {}, async (page) => {
  await parts(page, '');
  await page.getByLabel('Filter').fill('film');
  await page.locator('[data-part="C-006"]').click();
});
await take('composer', {}, async (page) => {
  await parts(page, '/composer');
  await page.getByText('Mismatch costs').waitFor();
});
await take('rigs', { guide: true }, (page) => page.getByText('972 J').first().waitFor());
await take('start', {}, async (page) => {
  await page.goto(`${base}/start`);
  await page.getByRole('heading', { name: 'Start something' }).waitFor();
});
await take('design', {}, async (page) => {
  await page.goto(`${base}/design`);
  await page.getByRole('button', { name: 'Find designs' }).click();
  await page.getByText('nothing beats').first().waitFor({ timeout: 60_000 });
  await page.getByRole('progressbar').waitFor({ state: 'detached', timeout: 60_000 });
  await page.mouse.move(900, 500);
  await page.mouse.wheel(0, -5000);
});
await take('rig', {}, (page) => open(page, 'Anvil'));
await take('tank', {}, async (page) => {
  await open(page, 'Cricket');
  await page.goto(`${page.url()}/tank`);
  await page.getByText(/By the solver: \d/).waitFor();
});
await take('faults', {}, async (page) => {
  await open(page, 'Anvil');
  await page.getByRole('link', { name: 'Faults', exact: true }).click();
  await page.getByRole('button', { name: 'One capacitor shorts inside' }).click();
  await page.getByRole('article', { name: 'One capacitor shorts inside' }).waitFor();
});
await take('run-sheet', {}, async (page) => {
  await open(page, 'Anvil');
  await page.getByRole('link', { name: 'Run sheet', exact: true }).click();
  await page.getByRole('heading', { name: 'Run sheet: Anvil' }).waitFor();
});
await take('run', {}, async (page) => {
  const act = (name) => page.getByRole('button', { name, exact: true }).click();
  const to = async (text) => {
    while (!(await page.getByRole('heading', { level: 1 }).textContent())?.startsWith(text)) {
      await page.waitForTimeout(800);
      const pin = page.getByLabel('TO, your PIN');
      if (await pin.isVisible()) {
        await pin.fill('4711');
        await pin.press('Enter');
      } else await page.keyboard.press('Space');
    }
  };
  await page.goto(`${base}/runs`);
  await page
    .getByRole('row', { name: /rehearsal, 2 faults/ })
    .getByRole('link')
    .first()
    .click();
  await page.getByLabel('Key holder, who acts').fill('IW');
  await page.getByLabel('Reader', { exact: true }).fill('TO');
  await page.getByLabel('PIN of the reader').fill('4711');
  await act('Begin');
  await to('Supply on.');
  await act('Strap off');
  await act('Supply on');
  await page.waitForTimeout(3000);
  await page.keyboard.press('Space');
  await to('Supply off, then');
  await act('Supply off');
  await act('Open the isolator');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await to('Stay outside the guard');
});
await take('shot', {}, async (page) => {
  await page.goto(`${base}/shots`);
  await page.getByLabel('Search the shots').fill('last before the strap');
  // The search is answered: one shot has these words.
  await page.locator('tbody tr').nth(1).waitFor({ state: 'detached' });
  await page.locator('tbody a').first().click();
  await page.getByText('Fit, 95 %').first().waitFor();
});
const desk = async (page, room, of = 'Kittiwake') => {
  await open(page, of);
  await page.goto(`${page.url()}/${room}`);
};
await take('coil', {}, async (page) => {
  await desk(page, 'coil', 'Anvil');
  await page.getByText('Winding card').waitFor();
});
await take('launch', {}, async (page) => {
  await desk(page, 'launch', 'Shuttle');
  await page.getByText('Muzzle speed').first().waitFor();
});
await take('better', { theme: 'night' }, async (page) => {
  await desk(page, 'better', 'Shuttle');
  await page.getByRole('button', { name: 'Search' }).click();
  await page.getByText('Done: 2000').waitFor({ timeout: 60_000 });
});
await take('studies', {}, async (page) => {
  await open(page, 'Anvil');
  await page.getByRole('link', { name: 'Studies', exact: true }).click();
  await page.getByText(/^over: /).waitFor();
  await page.getByRole('progressbar').waitFor({ state: 'detached' });
});
await take('gap', {}, async (page) => {
  await desk(page, 'gap');
  await page.getByText('Use in the gap').waitFor();
});
await take('erection', {}, async (page) => {
  await desk(page, 'erection');
  await page.getByRole('button', { name: /^Fire/ }).click();
  await page.getByText('Works from').waitFor({ timeout: 120_000 });
});
await take('commission', {}, (page) => desk(page, 'commission'));
await take('campaign', {}, async (page) => {
  await desk(page, 'campaigns');
  await page.getByRole('link', { name: 'Does a wider first gap carry more current at the same voltage?' }).click();
  await page.getByText(/^Expected: .* in 90 of 100/).waitFor();
});
await browser.close();
