import { CircleAlert, CircleCheck, CircleHelp, CircleX } from 'lucide-react';
import type { StoredPart } from '@vast-surge/contract';
import type { FieldValue } from '@vast-surge/core/field';
import { choiceOf, labelOf, partKind, type Condition, type Part } from '@vast-surge/core/part';
import { printPercent, printQuantity } from '@vast-surge/core/quantity';
import { writeBench } from '../../app/bench.ts';

const signs = { unknown: CircleHelp, good: CircleCheck, suspect: CircleAlert, failed: CircleX } as const;
const tones: { readonly [K in Condition]: string } = {
  unknown: 'text-dim',
  good: '',
  suspect: 'bg-warning text-on-warning px-1',
  failed: 'font-bold text-over',
};

/** The condition as a sign and a word. */
export function ConditionMark({ condition }: { condition: Condition }) {
  const Sign = signs[condition];
  return (
    <span className={`inline-flex items-center gap-1 whitespace-nowrap ${tones[condition]}`}>
      <Sign size={14} aria-hidden /> {condition}
    </span>
  );
}

const optionTitle = (part: Part, field: string): string => {
  const spec = partKind(part.kind).fields[field];
  return spec?.type === 'choice' ? (spec.options.find((o) => o.value === choiceOf(part, field))?.title ?? '') : '';
};

/** What it is, short: "film capacitor", "capacitor in delta, paper in oil". */
export function kindWords(part: Part): string {
  const title = partKind(part.kind).title;
  if (part.kind !== 'capacitor') return title;
  const delta = choiceOf(part, 'connection') === 'delta' ? ', delta can' : '';
  const elements = delta === '' && (labelOf(part, 'elements') ?? 1) > 1 ? `, ${labelOf(part, 'elements')} elements` : '';
  return `${optionTitle(part, 'dielectric')} capacitor${delta}${elements}`;
}

export const signedPercent = (fraction: number): string => `${fraction < 0 ? '−' : '+'}${printPercent(Math.abs(fraction), 2)}`;

export const short = (value: number, unit: Parameters<typeof printQuantity>[1]): string =>
  printQuantity(value, unit, { digits: 4, trim: true });

/** Changes one thing of a part; nothing is sent where it is so already. */
export function editPart(stored: StoredPart, path: string, value: unknown): void {
  const { part } = stored;
  const was = path.startsWith('fields.') ? (part.fields[path.slice(7)] ?? null) : ((part[path as keyof Part] ?? null) as unknown);
  if (JSON.stringify(was) === JSON.stringify(value ?? null)) return;
  writeBench({ do: 'edit', edits: [{ id: stored.id, set: { [path]: value ?? null }, was: { [path]: was } }] });
}

export const sameValue = (a: FieldValue, b: FieldValue): boolean => JSON.stringify(a) === JSON.stringify(b);
