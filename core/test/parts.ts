import { readQuantityText } from '../field/index.ts';
import { newPart, partKinds, type MeterReading, type Part } from '../part/index.ts';

export const reading = (measure: string, value: number, element = 1): MeterReading => ({
  measure,
  element,
  value,
  at: '2026-03-01T08:00:00.000Z',
  instrument: 'bridge',
  under: null,
  by: '',
});

/** A part with its label typed as on paper, and readings. */
export function labelledPart(
  kind: string,
  label: Readonly<Record<string, string>>,
  readings: readonly MeterReading[] = [],
): Part {
  const bare = newPart(kind, 'from the shelf', 'X-1');
  const fields = Object.fromEntries(
    Object.entries(label).map(([id, text]) => {
      const field = partKinds.find((k) => k.kind === kind)?.fields[id];
      if (field?.type !== 'quantity') return [id, text];
      const read = readQuantityText(field, text);
      if (!read.ok) throw new Error(`${id} ${read.reason}`);
      return [id, read.value];
    }),
  );
  return { ...bare, fields: { ...bare.fields, ...fields }, readings };
}
