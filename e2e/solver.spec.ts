import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { newBank } from './pages.ts';

test('a supply is chosen, the solver stands beside the closed form, and a slider moves both while it is held', async ({
  page,
}) => {
  const rig = await newBank(page);
  await rig.block('Supply');
  await page.getByLabel('Kind of supply').selectOption({ label: 'Bench supply with current limit' });
  await rig.type('Current limit set', '100 mA');
  await page.getByRole('tab', { name: 'Charge', exact: true }).click();
  // 60 V behind 1 kΩ never give 100 mA: towards 60·10/11 V past the bleeder, 0.909 s · ln(54.5/6.5) = 1.93 s, printed upwards.
  await expect(rig.figure('charge-time')).toContainText('2.0 s');
  await expect(page.getByRole('status').filter({ hasText: 'solver: ' })).toContainText(/closed form within 0\.\d+ %/);

  await rig.block('Store');
  await page.getByLabel('Capacitance, each').focus();
  await page.evaluate(() => {
    const seen = { answers: new Set<string>() };
    Object.assign(window, { seen });
    const region = document.querySelector('[aria-label="Traces and figures"]');
    if (!region) throw new Error('no traces');
    new MutationObserver(() => {
      for (const path of Array.from(region.querySelectorAll('path[stroke-dasharray]'))) {
        const d = path.getAttribute('d') ?? '';
        if (d.length > 400) seen.answers.add(d);
      }
    }).observe(region, { subtree: true, childList: true, attributes: true });
  });
  const slider = page.getByRole('slider');
  await slider.focus();
  for (let i = 0; i < 60; i++) {
    await page.keyboard.press('ArrowRight');
    await page.waitForTimeout(25);
  }
  await expect(page.getByLabel('Capacitance, each')).not.toHaveValue('1000 µF ±20 %');
  const { answers } = await page.evaluate(() => {
    const { seen } = window as unknown as { seen: { answers: Set<string> } };
    return { answers: seen.answers.size };
  });
  // Voltage and current are two paths of each answer: some came while it was held, and how many a second is for the bench to say.
  expect(answers).toBeGreaterThan(8);
  await expect(page.getByRole('status').filter({ hasText: 'solver: ' })).toContainText('energy closes within 0.001 %');
});

test('traces are frozen, zoomed and saved, and the circuit behind them as a netlist', async ({ page }) => {
  const rig = await newBank(page);
  await page.getByRole('button', { name: /^Freeze/ }).click();
  await rig.block('Load');
  await rig.type('Inductance', '20 µH');
  await expect(page.getByRole('list', { name: 'Traces' })).toContainText(/current, frozen \d\d:\d\d/);
  await page.getByRole('button', { name: /^Zoom in/ }).click();
  // The middle half of all of it; how long all of it is hangs on which of the two discharges is drawn by now.
  await expect(page.locator('[data-window]')).toHaveText(/^[\d.]+ [µm]s to [\d.]+ [µm]s$/);
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'solver: ' })).toContainText('closed form within');

  const csv = page.waitForEvent('download');
  await page.getByRole('button', { name: 'CSV' }).click();
  const [head] = (await readFile(await (await csv).path(), 'utf8')).split('\n');
  expect(head).toMatch(/^t \/ s,current \/ A,store voltage \/ V,t \/ s,"?current, solver/);
  const netlist = page.waitForEvent('download');
  await page.getByRole('button', { name: 'circuit' }).click();
  expect(await readFile(await (await netlist).path(), 'utf8')).toMatch(
    /^\* New capacitor bank: discharge\n(.*\n)*Lld out Lld_r /,
  );
});

test('a movement with its multiplier has a scale to print, in true millimetres', async ({ page }) => {
  const rig = await newBank(page);
  await rig.block('Meter');
  await page.getByLabel('Kind of meter').selectOption({ label: 'Movement with series multiplier' });
  await expect(page.getByRole('list', { name: 'Problems' })).toContainText('Not calibrated');
  await rig.saved();
  await page.getByRole('link', { name: 'Meter scale to print' }).click();
  const drawing = page.locator('#meter-scale');
  await expect(drawing).toHaveAttribute('width', /^\d+\.\d\dmm$/);
  const width = Number((await drawing.getAttribute('width'))?.replace('mm', ''));
  // 96 pixels of a style sheet are 25.4 mm; the viewBox counts in millimetres.
  expect((await drawing.boundingBox())?.width).toBeCloseTo((width * 96) / 25.4, 0);
  expect((await drawing.getAttribute('viewBox'))?.split(' ').map(Number)[2]).toBeCloseTo(width, 2);
  await expect(drawing.locator('[data-mark="planned"]')).toHaveCount(1);
  await page.getByLabel('Radius of the arc').fill('7');
  await expect(page.getByRole('alert')).toContainText('Radius of the arc must be from 15 to 200 mm');
  expect(await drawing.getAttribute('width')).toBe(`${width.toFixed(2)}mm`);
});
