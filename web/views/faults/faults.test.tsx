// @vitest-environment jsdom
import { fireEvent, screen, within } from '@testing-library/react';
import Papa from 'papaparse';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { quantityAt, type RigDocument } from '@vast-surge/core/rig';
import { faultStudy, type Fault } from '@vast-surge/core/study';
import { clear, page } from '../../test/render.tsx';
import { demoDocument } from '../../test/demo.ts';
import { FaultDetail } from './fault-detail.tsx';
import { faultsCsv } from './faults-csv.ts';

beforeEach(() => {
  // Colours of plots ask whether the device is dark.
  vi.stubGlobal('matchMedia', () => ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }));
});
afterEach(clear);

function shown(document: RigDocument, id: string): { fault: Fault; present: () => RigDocument } {
  const fault = faultStudy(document.rig, document.name).faults.find((one) => one.id === id);
  if (!fault) throw new Error(`no fault ${id}`);
  const { drawn, present, rigId } = page(document);
  vi.stubGlobal('matchMedia', () => ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }));
  drawn(<FaultDetail fault={fault} rig={document.rig} id={rigId} name={document.name} />);
  return { fault, present };
}

describe('a fault with what would contain it', () => {
  test('a remedy goes into the rig as it says, once, and the person hears of it', () => {
    const { fault, present } = shown(demoDocument('thimble'), 'store.capacitor-short');
    const resistor = fault.remedies.find(({ id }) => id === 'resistor');
    const item = screen.getByText('Series resistor per capacitor.').closest('li');
    if (!item || !resistor) throw new Error('a bank has a series resistor to offer');
    fireEvent.click(within(item).getByRole('button', { name: 'Put it into the rig' }));
    expect(quantityAt(present().rig, 'store.Rs')?.value?.value).toBeCloseTo(resistor.sets[0]?.value ?? NaN, 9);
    expect(within(item).getByRole('status').textContent).toMatch(/undo takes it out/);
    expect(within(item).getByRole<HTMLButtonElement>('button').disabled).toBe(true);
  });

  test('what cannot be had says why and offers no button; what is left says who takes it down', () => {
    shown(demoDocument('anvil'), 'store.capacitor-short');
    const fuse = screen.getByText('Fuse per capacitor.').closest('li');
    expect(fuse?.textContent).toMatch(/Not here: .*no fuse tells the two apart/);
    expect(fuse && within(fuse).queryByRole('button')).toBeNull();
    clear();
    shown(demoDocument('anvil'), 'bleeder.open');
    expect(screen.getByRole('region', { name: 'What a person would meet' }).textContent).toMatch(
      /1\.94 kV, 972 J; it can kill.*stick, meter, strap/,
    );
  });
});

test('the table as a file has every fault once with the numbers of the page, and what was not worked out', () => {
  const document = demoDocument('cricket');
  const study = faultStudy(document.rig, document.name);
  const { data, errors } = Papa.parse<Record<string, string>>(faultsCsv(study), { header: true });
  expect(errors).toEqual([]);
  expect(data).toHaveLength(study.faults.length + study.blind.length);
  study.faults.forEach((fault, i) => {
    expect(data[i]?.['fault']).toBe(fault.title);
    expect(Number(data[i]?.['store, most / V'])).toBe(fault.top);
    if (fault.into) expect(Number(data[i]?.['energy into it, most / J'])).toBe(fault.into.high);
  });
});
