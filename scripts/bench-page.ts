// The list on a first visit and the rig page while a slider moves: part of npm run bench where the application runs and VAST_SURGE_URL says where.
import { chromium, type Browser, type Page } from '@playwright/test';
import { newBank } from '../e2e/pages.ts';

const places = 60;

/** Watches what is drawn by the solver, and every task of the page's own thread above 50 ms. */
const watch = (): void => {
  const seen = { curves: new Set<string>(), long: [] as number[] };
  Object.assign(window, { seen });
  new PerformanceObserver((list) => seen.long.push(...list.getEntries().map((entry) => entry.duration))).observe({
    type: 'longtask',
  });
  new MutationObserver(() => {
    // The solver draws in one ink; what it drew first stands for each of its answers.
    const ink = getComputedStyle(document.documentElement).getPropertyValue('--third').trim();
    const path = document.querySelector(`[aria-label="Traces and figures"] path[stroke="${ink}"][stroke-dasharray]`);
    const curve = path?.getAttribute('d') ?? '';
    if (curve.length > 400) seen.curves.add(curve);
  }).observe(document.body, { subtree: true, childList: true, attributes: true });
};
const counted = (page: Page) =>
  page.evaluate(() => {
    const { seen } = window as unknown as { seen: { curves: Set<string>; long: number[] } };
    return { curves: seen.curves.size, long: seen.long };
  });

/** The list of rigs for somebody who was never here, over 10 Mbit/s and with a processor of a quarter of the speed. */
async function firstLoad(browser: Browser, baseURL: string): Promise<string[]> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  const client = await context.newCDPSession(page);
  await client.send('Network.enable');
  const line = { offline: false, latency: 20, downloadThroughput: 10e6 / 8, uploadThroughput: 10e6 / 8 };
  await client.send('Network.emulateNetworkConditions', line);
  await client.send('Emulation.setCPUThrottlingRate', { rate: 4 });
  await page.addInitScript(() => {
    const long: number[] = [];
    Object.assign(window, { long });
    new PerformanceObserver((list) => long.push(...list.getEntries().map((entry) => entry.duration))).observe({
      type: 'longtask',
    });
  });
  let bytes = 0;
  client.on('Network.loadingFinished', ({ encodedDataLength }) => (bytes += encodedDataLength));
  const begun = performance.now();
  await page.goto(`${baseURL}/rigs`, { waitUntil: 'commit' });
  await page.locator('tbody button').first().waitFor();
  const [number, came] = [(performance.now() - begun) / 1000, bytes];
  const { content, blocked } = await page.evaluate(() => ({
    content: (performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? NaN) / 1000,
    blocked: (window as unknown as { long: number[] }).long.reduce((sum, ms) => sum + ms - 50, 0) / 1000,
  }));
  await context.close();
  return [
    'The list of rigs, first visit, 10 Mbit/s, a processor four times slower',
    `  first content, as a share of the 3 s it may take: ${(content / 3).toFixed(2)}; first number: ${(number / 3).toFixed(2)}`,
    `  time the page's thread was blocked until then, of that time: ${(blocked / number).toFixed(2)}; ${(came / 1000).toFixed(0)} kB had come, fonts among them`,
  ];
}

export async function benchPage(): Promise<string[]> {
  const baseURL = process.env['VAST_SURGE_URL'];
  if (!baseURL) return ['The rig page under a slider: start the application and set VAST_SURGE_URL to measure it'];
  const browser = await chromium.launch({
    executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  try {
    const first = await firstLoad(browser, baseURL);
    const page = await browser.newPage({ baseURL, viewport: { width: 1280, height: 800 } });
    const rig = await newBank(page);
    await rig.block('Store');
    await page.getByLabel('Capacitance, each').focus();
    await page.getByRole('slider').focus();
    // Once along, so that what is drawn later has been compiled; then for the count.
    for (let i = 0; i < places; i++) await page.keyboard.press('ArrowRight', { delay: 10 });
    await page.waitForTimeout(1500);
    await page.evaluate(watch);
    for (let i = 0; i < places; i++) {
      await page.keyboard.press('ArrowLeft');
      await page.waitForTimeout(30);
    }
    await page.waitForTimeout(300);
    const { curves, long } = await counted(page);
    await rig.saved();
    const id = new URL(page.url()).pathname.split('/').at(-1) ?? '';
    await page.request.delete(`/api/rigs/${id}`);
    return [
      ...first,
      'The rig page, a slider over 60 values at 30 ms',
      `  distinct updates of the solver's traces: ${curves} (at least 30 wanted)`,
      `  tasks of the page's thread above 50 ms: ${long.length === 0 ? 'none' : `${long.length}, the longest ${Math.max(...long).toFixed(0)} ms`} (none wanted)`,
    ];
  } finally {
    await browser.close();
  }
}
