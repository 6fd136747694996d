export type Theme = 'day' | 'night';

const key = 'vast-surge.theme';

/** The theme chosen on this device, or what the system asks for. */
export function savedTheme(): Theme {
  const saved = localStorage.getItem(key);
  if (saved === 'day' || saved === 'night') return saved;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day';
}

export function applyTheme(theme: Theme): void {
  document.documentElement.dataset['theme'] = theme;
}

export function chooseTheme(theme: Theme): void {
  localStorage.setItem(key, theme);
  applyTheme(theme);
  window.dispatchEvent(new Event('vast-surge-theme'));
}
