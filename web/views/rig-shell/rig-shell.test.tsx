// @vitest-environment jsdom
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, test } from 'vitest';
import { evaluateRig, figureIn } from '@vast-surge/core/evaluation';
import { printDuration } from '@vast-surge/core/quantity';
import { blockIn, pagesOf, withBlock } from '@vast-surge/core/rig';
import { runSheetOf, verdictTitles } from '@vast-surge/core/runsheet';
import { demoDocument as demo } from '../../test/demo.ts';
import { clear, page } from '../../test/render.tsx';
import { HazardStrip } from './hazard-strip.tsx';
import { RigTabs } from './rig-tabs.tsx';
import { VerdictLine } from './verdict-line.tsx';

afterEach(clear);

const names = ['anvil', 'cricket', 'kittiwake', 'shuttle', 'thimble'] as const;

describe('what stands around every page of a rig', () => {
  test.each(names)('the tabs of %s are its pages in the order of the work, each a link of its own', (name) => {
    const document = demo(name);
    const { drawn, rigId } = page(document);
    drawn(<RigTabs id={rigId} rig={document.rig} here={null} />);
    const links = within(screen.getAllByRole('navigation', { name: 'Pages of the rig' })[0] as HTMLElement).getAllByRole('link');
    const pages = pagesOf(document.rig);
    expect(links.map((link) => link.textContent)).toEqual(pages.map(({ title }) => title));
    expect(links.map((link) => link.getAttribute('href'))).toEqual(
      pages.map(({ route }) => `/rigs/${rigId}${route && `/${route}`}`),
    );
  });

  test.each(names)('the strip of %s gives energy, hazard, times and the meter from its evaluation', (name) => {
    const document = demo(name);
    const evaluation = evaluateRig(document.rig);
    page(document).drawn(<HazardStrip evaluation={evaluation} onTouch={() => undefined} />);
    const said = screen.getByRole('region', { name: 'Hazard' }).textContent ?? '';
    expect(said).toContain(evaluation.hazard?.headline);
    const bleed = figureIn(evaluation, 'bleed-time');
    if (bleed) expect(said).toContain(`${printDuration(bleed.worked.value)} (worst case ${printDuration(bleed.band.high)})`);
    else expect(said).toContain('No bleeder');
    expect(said).toMatch(/Verify with a meter rated over [\d.]+ k?V/);
  });

  test('with a bleed of less than a minute the failed bleeder stands first, and a touch opens the working of its number', async () => {
    const document = demo('kittiwake');
    const touched: string[] = [];
    page(document).drawn(<HazardStrip evaluation={evaluateRig(document.rig)} onTouch={(focus) => void touched.push(focus)} />);
    const facts = within(screen.getByRole('region', { name: 'Hazard' })).getAllByRole('listitem');
    expect(facts[0]?.textContent).toMatch(/^If the bleeder fails/);
    await userEvent.click(within(facts[0] as HTMLElement).getByRole('button'));
    expect(touched).toEqual(['figure:bleed-time-open']);
  });

  test('a rig whose energy cannot be worked out is to be treated as deadly', () => {
    const document = demo('thimble');
    const store = blockIn(document.rig, 'store');
    const rig = withBlock(document.rig, 'store', { ...store, fields: { ...store.fields, C: null } });
    page({ ...document, rig }).drawn(<HazardStrip evaluation={evaluateRig(rig)} onTouch={() => undefined} />);
    expect(screen.getByRole('region', { name: 'Hazard' }).textContent).toMatch(/lethal/);
  });

  test.each(names)('the verdict of %s is the one that heads its run sheet, and leads there', (name) => {
    const document = demo(name);
    const evaluation = evaluateRig(document.rig);
    const { drawn, rigId } = page(document);
    drawn(<VerdictLine id={rigId} document={document} evaluation={evaluation} />);
    const made = runSheetOf(document.name, evaluation, document.sheet);
    if (!made.ok) throw new Error(made.reason);
    const { word, upTo, because } = made.sheet.verdict;
    const said = screen.getByRole('region', { name: 'Verdict' });
    expect(said.textContent).toContain(`${verdictTitles[word]}${upTo === null ? ':' : ` ${upTo},`} ${because}`);
    expect(within(said).getByRole('link').getAttribute('href')).toBe(`/rigs/${rigId}/run-sheet`);
    if (made.sheet.unrated.length > 0) expect(said.textContent).toContain(`${made.sheet.unrated.length} not rated`);
  });
});
