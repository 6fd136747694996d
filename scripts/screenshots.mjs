// Takes the pictures in docs/screenshots/ from the demo data: npm run screenshots, with ./surge start running on a fresh database.
import { randomUUID } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';

const base = `http://127.0.0.1:${process.env.PORT ?? 4600}`;
const folder = fileURLToPath(new URL('../docs/screenshots/', import.meta.url));
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});

async function take(name, { theme = 'day', guide = false }, act) {
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
  await page.mouse.move(640, 799);
  await page.waitForTimeout(600);
  await page.screenshot({ path: `${folder}${name}.png` });
  await page.close();
}

const open = async (page, rig) => {
  await page.getByRole('link', { name: rig, exact: true }).click();
  await page.getByRole('region', { name: 'Store fields' }).waitFor();
};
const tab = (page, name) => page.getByRole('tab', { name, exact: true }).click();

await take('rigs', { guide: true }, (page) => page.getByRole('link', { name: 'Anvil', exact: true }).waitFor());
await take('rig', {}, (page) => open(page, 'Anvil'));
await take('rig-night', { theme: 'night' }, (page) => open(page, 'Thimble'));
await take('bleed', {}, async (page) => {
  await open(page, 'Anvil');
  await tab(page, 'Bleed');
});
await take('working', {}, async (page) => {
  await open(page, 'Anvil');
  await page.locator('[data-figure="peak-current"]').click();
});
await take('limits', {}, async (page) => {
  // On a copy, so that the demo stays as it is; the copy is taken off the list again.
  const listed = await (await page.request.get(`${base}/api/rigs`)).json();
  const { document } = listed.find((rig) => rig.document.name === 'Anvil');
  const id = randomUUID();
  await page.request.post(`${base}/api/rigs`, { data: { id, document } });
  await page.goto(`${base}/rigs/${id}`);
  await page.getByLabel('Dc rating of one').fill('700 V');
  await page.getByLabel('Dc rating of one').blur();
  await page.locator('[data-save="saved"]').waitFor();
  await page.request.patch(`${base}/api/rigs/${id}`, { data: { archived: true } });
});
await take('run-sheet', {}, async (page) => {
  await open(page, 'Anvil');
  await page.getByRole('link', { name: 'Run sheet' }).click();
  await page.getByRole('heading', { name: 'Run sheet: Anvil' }).waitFor();
});
await take('sum', {}, async (page) => {
  await page.goto(`${base}/sums/rlc-peak-current`);
  for (const [symbol, text] of [
    ['R', '25 mΩ'],
    ['L', '4u2'],
    ['C', '520 µF'],
    ['V', '2.05 kV'],
  ])
    await page.getByLabel(symbol, { exact: true }).fill(text);
});
await browser.close();
