// @vitest-environment jsdom
import { act, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useMemo } from 'react';
import { afterEach, describe, expect, test } from 'vitest';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { blockDefinition, blockDefinitions, groupsOf, isInForce, newBlock, slotTitles } from '@vast-surge/core/kind';
import {
  blockIn,
  inChannel,
  newDocument,
  newRig,
  withBlock,
  withChannelAdded,
  withLoadKind,
  type Rig,
} from '@vast-surge/core/rig';
import { blockSelected, channelSelected, draftsDropped, fieldDrafted } from '../../app/editor.ts';
import { useOpenDocument, useSeen } from '../../app/store.ts';
import { clear, page } from '../../test/render.tsx';
import { BlockForm } from './block-form.tsx';

afterEach(clear);

function Form({ id }: { id: string }) {
  const document = useOpenDocument();
  return document && <Seen id={id} document={document} />;
}
function Seen({ id, document: whole }: { id: string; document: NonNullable<ReturnType<typeof useOpenDocument>> }) {
  const document = useSeen(whole);
  // A field in hand draws the form anew, and the rig is the same one.
  const evaluation = useMemo(() => evaluateRig(document.rig), [document.rig]);
  return <BlockForm id={id} document={document} evaluation={evaluation} />;
}

const formOf = (rig: Rig) => {
  const made = page(newDocument('Bench', rig));
  made.drawn(<Form id={made.rigId} />);
  return made;
};

describe('the form of a block', () => {
  test('a fold says what is missing and what is assumed, and opens for what is refused', async () => {
    const { store } = formOf(newRig());
    act(() => void store.dispatch(blockSelected('store')));
    const life = () => screen.getByText('Life').closest('details');
    expect(life()?.open).toBe(false);
    expect(life()?.textContent).toMatch(/1 missing, 1 assumed of 2/);
    act(() => void store.dispatch(fieldDrafted({ path: 'store.Nr', text: '12 V' })));
    expect(life()?.open).toBe(true);
    // It does not close under the hands of whoever mends it.
    act(() => void store.dispatch(draftsDropped(['store.Nr'])));
    expect(life()?.open).toBe(true);
  });

  test.each(blockDefinitions.map((definition) => [definition.slot, definition.kind, definition] as const))(
    '%s, %s: every field that counts has its label, is reached by the keyboard in the order of its groups, and others are not shown',
    (slot, kind, definition) => {
      const rig =
        slot === 'load' ? withLoadKind(newRig(), newBlock(definition)) : withBlock(newRig(), slot, newBlock(definition));
      const { store } = formOf(rig);
      act(() => void store.dispatch(blockSelected(slot)));
      const block = blockIn(rig, slot);
      const region = screen.getByRole('region', { name: `${slotTitles[slot]} fields` });
      const fields = Object.entries(definition.fields);
      const groups = groupsOf(definition, block);
      const asked = groups.flatMap((group) => group.fields.map(([id]) => id));
      expect([...asked].sort()).toEqual(
        fields
          .filter(([, field]) => isInForce(block, field))
          .map(([id]) => id)
          .sort(),
      );
      const folds = [...region.querySelectorAll('details')].filter((fold) => fold.querySelector('[id^="field-"]'));
      expect(folds.map((fold) => fold.querySelector('h3')?.textContent)).toEqual(groups.map(({ title }) => title));
      for (const fold of folds)
        act(() => {
          fold.open = true;
          fold.dispatchEvent(new Event('toggle'));
        });
      const controls = asked.map((id) => document.getElementById(`field-${slot}-${id}`));
      controls.forEach((control, k) => {
        const title = definition.fields[asked[k] ?? '']?.title ?? '';
        const label = [...region.querySelectorAll('label')].find(({ htmlFor }) => htmlFor === control?.id);
        expect(label?.textContent, `${kind} ${asked[k] ?? ''}`).toContain(title);
      });
      // By the keyboard: nothing takes a control out of the order of the page, and what comes between is the head of the next group.
      const stops = [...region.querySelectorAll<HTMLElement>('input, select, textarea, button, summary, a[href], [tabindex]')];
      const reached = stops.filter((stop) => stop.tabIndex >= 0 && !stop.matches(':disabled') && stop.tagName !== 'SUMMARY');
      const [from, to] = [controls.at(0), controls.at(-1)].map((control) => reached.findIndex((stop) => stop === control));
      expect(reached.slice(from, (to ?? 0) + 1)).toEqual(controls);
      for (const [id] of fields.filter(([, field]) => !isInForce(block, field)))
        expect(document.getElementById(`field-${slot}-${id}`), id).toBeNull();
    },
  );

  test.each(['store', 'load'] as const)('a hand goes through the fields of a %s with the tabulator alone', async (slot) => {
    const { store } = formOf(newRig());
    act(() => void store.dispatch(blockSelected(slot)));
    const region = screen.getByRole('region', { name: `${slotTitles[slot]} fields` });
    for (const fold of region.querySelectorAll('details')) act(() => void (fold.open = true));
    const controls = [...region.querySelectorAll<HTMLElement>(`:is(input, select, textarea, button)[id^="field-${slot}-"]`)];
    expect(controls.length).toBeGreaterThan(3);
    const hand = userEvent.setup({ delay: null });
    act(() => controls[0]?.focus());
    for (const control of controls) {
      expect(document.activeElement).toBe(control);
      // The slider of the field in hand comes between, and the head of the next group.
      do await hand.tab();
      while (document.activeElement?.getAttribute('role') === 'slider' || document.activeElement?.tagName === 'SUMMARY');
    }
  });

  test('another kind keeps what both have; a value that is typed is in the rig, one that cannot be read says so and is not', async () => {
    const { store, present } = formOf(newRig());
    const hand = userEvent.setup({ delay: null });
    act(() => void store.dispatch(blockSelected('store')));
    const voltage = screen.getByRole('textbox', { name: /^Charged to/ });
    await hand.clear(voltage);
    await hand.type(voltage, '31 V');
    const of = (id: string) => {
      const value = blockIn(present().rig, 'store').fields[id];
      return typeof value === 'object' && value ? value.value : null;
    };
    expect(of('V0')).toBe(31);
    await hand.clear(voltage);
    await hand.type(voltage, '31 A');
    expect(of('V0')).toBe(31);
    expect(screen.getByRole('alert').textContent).toMatch(/^Charged to .*must be above 0 V up to 1(\.00)? MV/);
    expect(store.getState().editor.drafts).toEqual({ 'store.V0': '31 A' });
    await hand.selectOptions(screen.getByRole('combobox', { name: 'Kind of store' }), 'marx');
    expect(blockIn(present().rig, 'store').kind).toBe('marx');
    expect(screen.getAllByRole('textbox', { name: /^Stages/ }).length).toBeGreaterThan(0);
    // What stands beside it does not fit, and comes along for the asking.
    expect(
      screen
        .getAllByRole('status')
        .map((one) => one.textContent)
        .join(),
    ).toMatch(/does not fit.*supply/);
    await hand.click(screen.getByRole('button', { name: 'Bring them along' }));
    expect(evaluateRig(present().rig).problems.filter(({ severity }) => severity === 'error')).toEqual([]);
    expect(screen.queryByRole('button', { name: 'Bring them along' })).toBeNull();
  });

  test('of a rig of several stages it is that of the stage shown; what stands once says so, and the kind is that of the first', async () => {
    const one = withLoadKind(newRig(), newBlock(blockDefinition('load', 'coilgun-stage')));
    const { store, present } = formOf(withChannelAdded(one) ?? one);
    act(() => {
      store.dispatch(blockSelected('load'));
      store.dispatch(channelSelected(1));
    });
    const region = screen.getByRole('region', { name: 'Load fields' });
    expect(within(region).queryByRole('combobox', { name: 'Kind of load' })).toBeNull();
    expect(region.textContent).toContain('of all stages');
    const hand = userEvent.setup({ delay: null });
    const slug = within(region).getByRole('textbox', { name: /^Projectile diameter/ });
    await hand.clear(slug);
    await hand.type(slug, '11 mm');
    for (const k of [0, 1]) expect(blockIn(inChannel(present().rig, k), 'load').fields['ds']).toMatchObject({ text: '11 mm' });
  });
});
