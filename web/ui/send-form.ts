/** Sends a form that stands elsewhere on the page, as its own button would: the one action of a step has a button and a pedal. */
export function sendForm(id: string): void {
  const form = document.getElementById(id);
  if (form instanceof HTMLFormElement) form.requestSubmit();
}
