// The shelf with ten thousand parts in a browser, against the same shelf with a hundred: part of npm run bench.
import { chromium, type Page } from '@playwright/test';
import express from 'express';
import type { AddressInfo } from 'node:net';
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Bench } from '../contract/index.ts';
import { newPart, partKinds } from '../core/part/index.ts';
import { readQuantityText } from '../core/field/index.ts';

const dist = fileURLToPath(new URL('../web/dist', import.meta.url));

/** A bench of capacitors with a label and a reading each. */
function benchOf(count: number): Bench {
  const spec = partKinds[0]?.fields['C'];
  const at = '2026-01-01T00:00:00.000Z';
  return {
    epoch: '',
    mark: 1,
    lots: [],
    goneLots: [],
    unreadable: [],
    parts: Array.from({ length: count }, (_, i) => {
      const part = newPart('capacitor', `Film can ${i % 13}`, `C-${String(i + 1).padStart(5, '0')}`);
      const C = spec?.type === 'quantity' ? readQuantityText(spec, `${10 + (i % 90)} µF ±10 %`) : null;
      const reading = {
        measure: 'capacitance',
        element: 1,
        value: (10 + (i % 90)) * 1.03e-6,
        at,
        instrument: '',
        under: null,
        by: '',
      };
      return {
        id: `20000000-0000-4000-8000-${String(i).padStart(12, '0')}`,
        version: 1,
        createdAt: at,
        updatedAt: at,
        removedAt: null,
        hasPhoto: false,
        part: { ...part, fields: { ...part.fields, C: C?.ok ? C.value : null }, readings: [reading] },
      };
    }),
  };
}

/** Longest wait between two frames, ms, while something is done. */
async function longestFrame(page: Page, act: () => Promise<void>): Promise<number> {
  // As text: what compiles this file would put names into a function that the page does not know.
  await page.evaluate(`{
    const seen = Object.assign(window, { longest: 0, last: performance.now(), stop: false });
    requestAnimationFrame(function frame(now) {
      seen.longest = Math.max(seen.longest, now - seen.last);
      seen.last = now;
      if (!seen.stop) requestAnimationFrame(frame);
    });
  }`);
  await act();
  return page.evaluate<number>('window.stop = true, window.longest');
}

interface Measured {
  readonly filter: number;
  readonly scroll: number;
}

async function measure(address: string, page: Page, count: number): Promise<Measured> {
  const bench = benchOf(count);
  await page.route('**/api/**', (route) => {
    const url = new URL(route.request().url());
    if (url.pathname !== '/api/parts') return route.fulfill({ json: [] });
    return route.fulfill({ json: url.searchParams.get('after') === '0' ? bench : { ...bench, parts: [] } });
  });
  await page.goto(`${address}/parts`);
  await page.locator('[data-part="C-00001"]').waitFor();
  const input = page.getByLabel('Filter');
  await input.fill('C>20u');
  await page.waitForTimeout(400);
  const filter = await longestFrame(page, async () => {
    for (const key of ' can 7') {
      await input.press(key === ' ' ? 'Space' : key);
      await page.waitForTimeout(120);
    }
  });
  await input.fill('');
  await page.waitForTimeout(400);
  const box = page.locator('[data-shelf]');
  await box.hover();
  const scroll = await longestFrame(page, async () => {
    for (let i = 0; i < 40; i++) {
      await page.mouse.wheel(0, 900);
      await page.waitForTimeout(25);
    }
  });
  await page.unrouteAll();
  return { filter, scroll };
}

/** What a person sees as a stall, ms. Common practice, no source: a tenth of a second. */
const stall = 100;

export async function benchShelf(): Promise<string[]> {
  const executablePath = process.env['CHROMIUM'] ?? '/usr/bin/chromium';
  if (!existsSync(executablePath) || !existsSync(`${dist}/index.html`))
    return ['The shelf in a browser: not measured, for there is no Chromium or no built interface (npm run build)'];
  const app = express();
  app.use(express.static(dist));
  app.use((_req, res) => res.sendFile('index.html', { root: dist }));
  const server = app.listen(0, '127.0.0.1');
  const browser = await chromium.launch({
    executablePath,
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const [small, large] = [await measure(address, page, 100), await measure(address, page, 10_000)];
    const line = (what: string, key: keyof Measured) =>
      `  ${what}: ${(large[key] / small[key]).toFixed(1)} times that with 100 parts, ${(large[key] / stall).toFixed(2)} of the ${stall} ms that are seen as a stall`;
    return [
      'The shelf with 10 000 parts in a browser, longest frame',
      line('while its filter is typed', 'filter'),
      line('while it is scrolled', 'scroll'),
    ];
  } finally {
    await browser.close();
    server.close();
  }
}
