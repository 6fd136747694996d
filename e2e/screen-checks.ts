import AxeBuilder from '@axe-core/playwright';
import type { ConsoleMessage, Page } from '@playwright/test';

/** `./surge test --long`. */
export const isLong = process.env['VAST_SURGE_LONG'] === '1';

export const widths = [390, 768, 1280, 1920] as const;
export type Theme = 'day' | 'night';

export const putOn = (page: Page, theme: Theme): Promise<void> =>
  page.evaluate((chosen) => {
    localStorage.setItem('vast-surge.theme', chosen);
    document.documentElement.dataset['theme'] = chosen;
    window.dispatchEvent(new Event('vast-surge-theme'));
  }, theme);

/**
 * Serious and critical findings of WCAG 2.2 AA, in the words of the checker; by night, where only colours can differ, of these alone.
 *
 * @param within what lies behind an open dialog is looked at by itself elsewhere
 */
export async function findings(page: Page, theme: Theme, within?: string): Promise<string[]> {
  await putOn(page, theme);
  // Letters that come late change what is cut off, and what is cut off is reached by the keyboard from then on.
  await page.evaluate(() =>
    document.fonts.ready.then(() => new Promise((then) => requestAnimationFrame(() => setTimeout(then, 50)))),
  );
  // What is said for some seconds fades: half gone it has half of its contrast, whatever its colours are.
  await page.waitForFunction(() => document.querySelector('[data-sonner-toast]') === null);
  // Nothing here stands in a frame of another address, so that no page has to be opened to gather what frames say; and what is in order is
  // not asked for by name. Each takes a third of the time.
  const all = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
  if (within !== undefined) all.include(within);
  const builder =
    theme === 'day' ? all.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']) : all.withRules(['color-contrast']);
  const { violations } = await builder.analyze();
  return violations
    .filter((v) => v.impact !== 'minor')
    .map((v) => `by ${theme}: ${v.id} ${v.nodes.map((n) => n.target.join(' ')).join('; ')}`);
}

/** What lies over something else, or beyond the screen: lines of text on each other, controls that cannot be reached with a pointer. */
export const inEachOthersWay = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const said: string[] = [];
    const wide = document.documentElement.scrollWidth - document.documentElement.clientWidth;
    if (wide > 0) said.push(`${wide} px wider than the screen`);
    const isSeen = (element: Element): boolean =>
      element.checkVisibility({ opacityProperty: true, visibilityProperty: true }) &&
      !element.closest('.sr-only, [aria-hidden=true] svg');
    /** Part of a box that is not cut off by what scrolls or hides around it. */
    const cut = (inner: Element | null, box: DOMRect): DOMRect => {
      let [left, top, right, bottom] = [box.left, box.top, box.right, box.bottom];
      for (let up = inner; up; up = up.parentElement) {
        const { overflowX, overflowY } = getComputedStyle(up);
        const around = up.getBoundingClientRect();
        if (overflowX !== 'visible') [left, right] = [Math.max(left, around.left), Math.min(right, around.right)];
        if (overflowY !== 'visible') [top, bottom] = [Math.max(top, around.top), Math.min(bottom, around.bottom)];
      }
      return new DOMRect(left, top, Math.max(0, right - left), Math.max(0, bottom - top));
    };
    const isPinned = (element: Element): boolean => {
      for (let up: Element | null = element; up; up = up.parentElement)
        if (['fixed', 'sticky'].includes(getComputedStyle(up).position)) return true;
      return false;
    };
    const lines: { readonly text: string; readonly box: DOMRect; readonly of: Element }[] = [];
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    const range = document.createRange();
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const of = node.parentElement;
      const text = node.textContent?.trim() ?? '';
      if (!of || text === '' || of.closest('script, style, option, svg, canvas') || !isSeen(of) || isPinned(of)) continue;
      range.selectNodeContents(node);
      for (const rect of Array.from(range.getClientRects())) {
        const box = cut(of, rect);
        if (box.width > 2 && box.height > 4) lines.push({ text: text.slice(0, 40), box, of });
      }
    }
    lines.sort((a, b) => a.box.top - b.box.top);
    lines.forEach(({ text, box, of }, i) => {
      for (let k = i + 1; k < lines.length; k++) {
        const other = lines[k];
        if (!other || other.box.top > box.bottom - 5) break;
        const across = Math.min(box.right, other.box.right) - Math.max(box.left, other.box.left);
        if (across > 4 && other.of !== of) said.push(`“${text}” and “${other.text}” lie on each other`);
      }
    });
    const controls = document.querySelectorAll(
      'button, a[href], input:not([type=hidden]), select, textarea, [role=button], [role=tab]',
    );
    for (const control of Array.from(controls)) {
      if (!isSeen(control) || control.matches(':disabled, .sr-only')) continue;
      control.scrollIntoView({ block: 'center', inline: 'center', behavior: 'instant' });
      const box = cut(control.parentElement, control.getBoundingClientRect());
      if (box.width < 4 || box.height < 4) continue;
      const hit = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2);
      const name = control.getAttribute('aria-label') ?? (control.textContent?.trim() || control.id || control.tagName);
      const isOwn = hit !== null && (control.contains(hit) || hit.contains(control) || hit.closest('label')?.contains(control));
      if (hit && !isOwn && !(hit.closest('svg') && control.closest('svg')))
        said.push(
          `“${name.slice(0, 40)}” is covered by ${hit.tagName.toLowerCase()} “${(hit.textContent ?? '').trim().slice(0, 30)}”`,
        );
    }
    window.scrollTo(0, 0);
    return [...new Set(said)];
  });

/** What the policy of the server kept a page from, as the browser tells it. @returns the words so far; `end` stops listening */
export function refusedByPolicy(page: Page): { readonly words: string[]; end(): void } {
  const words: string[] = [];
  const hear = (message: ConsoleMessage) => {
    if (message.text().includes('Content Security Policy')) words.push(message.text());
  };
  page.on('console', hear);
  return { words, end: () => void page.off('console', hear) };
}
