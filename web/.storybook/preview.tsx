import type { Preview } from '@storybook/react-vite';
import { useEffect, type ReactNode } from 'react';
import { applyTheme, type Theme } from '../app/theme.ts';
import '../styles.css';

function InTheme({ theme, children }: { theme: Theme; children: ReactNode }) {
  useEffect(() => applyTheme(theme), [theme]);
  return <div className="bg-ground p-5 text-ink">{children}</div>;
}

const preview: Preview = {
  globalTypes: {
    theme: { toolbar: { title: 'Theme', items: ['day', 'night'], dynamicTitle: true } },
  },
  initialGlobals: { theme: 'day' },
  decorators: [
    (Story, { globals }) => (
      <InTheme theme={globals['theme'] === 'night' ? 'night' : 'day'}>
        <Story />
      </InTheme>
    ),
  ],
};

export default preview;
