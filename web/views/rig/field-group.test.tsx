// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, test } from 'vitest';
import { blockDefinition, groupsOf, newBlock } from '@vast-surge/core/kind';
import { FieldGroup } from './field-group.tsx';

afterEach(cleanup);

const definition = blockDefinition('store', 'capacitor-bank');
const life = groupsOf(definition, newBlock(definition)).find(({ group }) => group === 'life');

function group(isWrong: boolean) {
  if (!life) throw new Error('a bank has a life');
  const made = render(
    <FieldGroup of={life} isWrong={isWrong}>
      fields
    </FieldGroup>,
  );
  const details = () => made.container.querySelector('details') as HTMLDetailsElement;
  return {
    details,
    again: (next: boolean) =>
      made.rerender(
        <FieldGroup of={life} isWrong={next}>
          fields
        </FieldGroup>,
      ),
  };
}

/** As a browser does it: the element closes or opens first, and says so afterwards. */
function toggled(details: HTMLDetailsElement, open: boolean): void {
  details.open = open;
  fireEvent(details, new Event('toggle'));
}

describe('a group of fields', () => {
  test('in which something is wrong is open, and does not close under the hands that mend it', () => {
    const { details, again } = group(true);
    expect(details().open).toBe(true);
    toggled(details(), false);
    expect(details().open).toBe(true);
    again(false);
    expect(details().open).toBe(true);
    toggled(details(), false);
    expect(details().open).toBe(false);
  });

  test('says how much of it is missing', () => {
    group(false);
    expect(screen.getByText(/missing/)).toBeDefined();
  });
});
