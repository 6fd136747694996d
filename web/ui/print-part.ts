/**
 * Prints one part of a page by itself. It has `data-printing` meanwhile, so that it may be drawn for the paper alone.
 *
 * @param part null where it is not drawn: nothing is printed then
 */
export function printPart(part: HTMLElement | null): void {
  if (!part) return;
  const { body } = part.ownerDocument;
  part.dataset['printing'] = '';
  body.dataset['printsPart'] = '';
  const over = () => {
    delete part.dataset['printing'];
    delete body.dataset['printsPart'];
  };
  window.addEventListener('afterprint', over, { once: true });
  window.print();
}
