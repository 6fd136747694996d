/**
 * Puts other parameters into the address past the router. It draws in its own time, so that a field would come late under the
 * hand, and going somewhere else would be called off.
 */
export function replaceParameters(parameters: Readonly<Record<string, string>>): void {
  const search = new URLSearchParams(parameters).toString();
  window.history.replaceState(window.history.state, '', search === '' ? window.location.pathname : `?${search}`);
}
