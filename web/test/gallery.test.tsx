// @vitest-environment jsdom
import { composeStories, type Meta } from '@storybook/react-vite';
import { render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { blockDefinitions } from '@vast-surge/core/kind';
import * as glyphStories from '../schematic/glyph.stories.tsx';
import * as frameStories from '../ui/frames.stories.tsx';
import * as numberStories from '../ui/numbers.stories.tsx';
import * as partStories from '../ui/parts.stories.tsx';
import { clear, withoutLayout } from './render.tsx';

beforeEach(() => {
  withoutLayout();
  // Colours of plots ask whether the device is dark.
  vi.stubGlobal('matchMedia', () => ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }));
});
afterEach(clear);

const files = [frameStories, glyphStories, numberStories, partStories] as readonly { default: Meta }[];
const found = import.meta.glob('../**/*.stories.tsx');

test('every file of the gallery is looked at here', () => {
  expect(Object.keys(found)).toHaveLength(files.length);
});

describe.each(files.map((file) => [file.default.title, file] as const))('gallery: %s', (_title, file) => {
  const stories = Object.entries(composeStories(file) as Record<string, () => React.ReactNode>);
  test.each(stories)('%s is drawn', (_name, Story) => {
    render(<Story />);
    expect(document.body.innerHTML).not.toBe('<div></div>');
    // What a person may act on has a name, here as on any page.
    for (const role of ['button', 'textbox', 'slider'])
      expect(screen.queryAllByRole(role, { name: /\S/ }), role).toEqual(screen.queryAllByRole(role));
  });
});

test('every kind has its glyph in it, drawn by numbers alone', () => {
  const { EveryKind } = composeStories(glyphStories);
  const { container } = render(<EveryKind />);
  for (const { title } of blockDefinitions) expect(screen.getAllByRole('img', { name: title }).length).toBeGreaterThan(0);
  expect(screen.getAllByRole('img')).toHaveLength(blockDefinitions.length);
  const paths = [...container.querySelectorAll('path')].map((path) => path.getAttribute('d') ?? '');
  expect(paths.filter((d) => !/^[MLHVAQTZmlhvaqtz0-9 .,-]+$/.test(d) || /NaN/.test(d))).toEqual([]);
});
