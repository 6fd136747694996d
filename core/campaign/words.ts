/** What stands for itself of a setting. */
interface Named {
  readonly values: readonly { readonly title: string; readonly text: string }[];
}

/** What is set, in words. */
export const settingWords = ({ values }: Named): string => values.map(({ title, text }) => `${title} ${text}`).join(', ');

/** So many settings are named; of more the number is told. */
const mostNamed = 4;

/** Settings in words, each once: the first few, and how many more. */
export function settingsNamed(settings: readonly Named[]): string {
  const all = [...new Set(settings.map(settingWords))];
  const rest = all.length - mostNamed;
  return rest > 1 ? `${all.slice(0, mostNamed).join('; ')}; and ${rest} more` : all.join('; ');
}
