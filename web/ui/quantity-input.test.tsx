// @vitest-environment jsdom
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, describe, expect, test } from 'vitest';
import { quantity, within, type QuantityField, type QuantityValue } from '@vast-surge/core/field';
import { printIn, siManner } from '@vast-surge/core/quantity';
import { clear } from '../test/render.tsx';
import { QuantityInput } from './quantity-input.tsx';

afterEach(clear);

const capacitance: QuantityField = quantity('Capacitance', 'F', within(1e-12, 1), '1000 µF', { tolerance: true });

interface Heard {
  value: QuantityValue | null;
  draft: string | null;
  readonly bursts: string[];
}

/** The field as a form holds it: what was read is the value, what was not stays as a draft. */
function Held({ field, heard }: { field: QuantityField; heard: Heard }) {
  const [value, setValue] = useState<QuantityValue | null>(heard.value);
  const [draft, setDraft] = useState<string | undefined>();
  return (
    <label>
      of the field
      <QuantityInput
        id="it"
        field={field}
        value={value}
        draft={draft}
        onValue={(next, burst) => {
          Object.assign(heard, { value: next, draft: null });
          heard.bursts.push(burst);
          setValue(next);
          setDraft(undefined);
        }}
        onDraft={(text) => {
          Object.assign(heard, { draft: text });
          setDraft(text);
        }}
      />
    </label>
  );
}

function shown(field: QuantityField = capacitance, from: QuantityValue | null = { value: 1e-3, text: '1000 µF' }) {
  const heard: Heard = { value: from, draft: null, bursts: [] };
  render(<Held field={field} heard={heard} />);
  return { heard, input: screen.getByRole('textbox'), hand: userEvent.setup({ delay: null }) };
}

describe('a quantity that is typed', () => {
  test.each([
    ['4u7', 4.7e-6],
    ['4,7 µF', 4.7e-6],
    ['0.33mF', 3.3e-4],
    ['22n ±5%', 2.2e-8],
  ])('%s is read as it is written, and said back where that is not plain', async (text, value) => {
    const { heard, input, hand } = shown();
    await hand.clear(input);
    await hand.type(input, text);
    expect(heard.value?.value).toBeCloseTo(value, 15);
    expect(heard.value?.text).toBe(text);
    expect(input).toHaveProperty('value', text);
    expect(screen.queryByRole('alert')).toBeNull();
  });

  test('what cannot be read stays, names the field and the range, and the value before it stays in force', async () => {
    const { heard, input, hand } = shown();
    await hand.clear(input);
    await hand.type(input, '5 V');
    expect(heard.draft).toBe('5 V');
    expect(input.getAttribute('aria-invalid')).toBe('true');
    const said = screen.getByRole('alert').textContent ?? '';
    expect(said).toMatch(/^Capacitance "V" is the unit of a voltage.* it must be from 1(\.00)? pF to 1(\.00)? F\. In force: /);
    // Leaving the field loses nothing of it.
    await hand.tab();
    expect(input).toHaveProperty('value', '5 V');
  });

  test('Escape takes back what was typed since the field was entered; a second one does nothing', async () => {
    const { heard, input, hand } = shown();
    await hand.click(input);
    await hand.clear(input);
    await hand.type(input, '2m');
    expect(heard.value?.value).toBe(2e-3);
    await hand.keyboard('{Escape}');
    expect(heard.value?.text).toBe('1000 µF');
    const calls = heard.bursts.length;
    await hand.keyboard('{Escape}');
    expect(heard.bursts).toHaveLength(calls);
  });

  test('arrows go to the next preferred value and keep the tolerance, with Alt by a hundredth; of a count by one', async () => {
    const { heard, input, hand } = shown(capacitance, { value: 1e-3, text: '1 mF ±10 %', tolerance: { minus: 0.1, plus: 0.1 } });
    await hand.click(input);
    await hand.keyboard('{ArrowUp}');
    expect(heard.value).toMatchObject({ value: 1.2e-3, tolerance: { minus: 0.1, plus: 0.1 } });
    await hand.keyboard('{ArrowDown}{ArrowDown}');
    expect(heard.value?.value).toBeCloseTo(8.2e-4, 12);
    await hand.keyboard('{Alt>}{ArrowUp}{/Alt}');
    expect(heard.value?.value).toBeCloseTo(8.282e-4, 12);
    clear();
    const count = shown(quantity('In series (per string)', '1', { min: 1, max: 9, integer: true }, '9'), { value: 9, text: '9' });
    await count.hand.click(count.input);
    await count.hand.keyboard('{ArrowUp}');
    expect(count.heard.value?.value).toBe(9);
    await count.hand.keyboard('{ArrowDown}');
    expect(count.heard.value?.value).toBe(8);
  });

  test('key strokes of one visit belong together, those of the next do not', async () => {
    const { heard, input, hand } = shown();
    await hand.clear(input);
    await hand.type(input, '12m');
    const first = new Set(heard.bursts);
    await hand.keyboard('{Enter}');
    await hand.type(input, 'F');
    expect([first.size, new Set(heard.bursts).size]).toEqual([1, 2]);
  });
});

describe('in the units of the person', () => {
  afterEach(() => printIn(siManner));
  const gap: QuantityField = quantity('Spacing', 'm', within(1e-4, 0.2), '7.1 mm');

  test('what was typed stays, and is said back in inches', async () => {
    printIn({ ...siManner, measures: 'imperial' });
    const { heard, input, hand } = shown(gap, { value: 0.0254, text: '25.4 mm' });
    expect(screen.getByText('= 1 in')).toBeDefined();
    await hand.clear(input);
    await hand.type(input, '3/8 in');
    expect(heard.value?.text).toBe('3/8 in');
    expect(heard.value?.value).toBeCloseTo(0.009525, 15);
    await hand.type(input, '{ArrowUp}');
    expect(heard.value?.text).toBe('0.39 in');
  });

  test('a comma is shown and taken; a point that could mark thousands is refused with both ways out, and the range', async () => {
    printIn({ ...siManner, decimal: 'comma' });
    const { heard, input, hand } = shown(gap, { value: 7.1e-3, text: '7.1 mm' });
    expect((input as HTMLInputElement).value).toBe('7,1 mm');
    await hand.clear(input);
    await hand.type(input, '6,5 mm');
    expect(heard.value?.value).toBe(6.5e-3);
    await hand.clear(input);
    await hand.type(input, '1.250 mm');
    expect(screen.getByRole('alert').textContent).toMatch(
      /doubtful: the point could mark thousands.*from 100 µm to 200 mm.*In force/,
    );
  });
});
