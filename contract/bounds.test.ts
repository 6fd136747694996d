import { expect, test } from 'vitest';
import { z } from 'zod';
import * as contract from './index.ts';

/** What the server answers with: it is made here, and its length is that of what is kept. */
const answers =
  /^(stored|kept|revision|runHead|runTail|healthSchema|faultSchema|preview|uploaded|imported|receipt|rigReceipt|created|partsReceipt|asked(Schema)?$|measured|instrument|shotFile|shotRig|rehearsed|fileTaken|bench|backups|backupRow|rigHead|rigUse|pageOf|link(Schema)|givenLink|device(Schema)|account(Schema)|session(Schema)|mine|person|people|auditEntry|auditCheck|opened|newFactor|browserOptions|passkey(Schema))/;

const schemas = (Object.entries(contract) as [string, unknown][]).filter(
  (entry): entry is [string, z.ZodType] =>
    entry[0].endsWith('Schema') && entry[1] instanceof z.ZodType && !answers.test(entry[0]),
);

type Def = {
  readonly type: string;
  readonly checks?: readonly { readonly _zod: { readonly def: { readonly check: string; readonly format?: string } } }[];
  readonly format?: string;
  readonly [key: string]: unknown;
};

const isBounded = ({ checks = [] }: Def): boolean =>
  checks.some(({ _zod }) => ['max_length', 'length_equals', 'max_size', 'less_than'].includes(_zod.def.check));

/** Formats that are as long as they are. */
const shortFormats = new Set(['uuid', 'guid', 'datetime', 'date']);

/** Paths of lists, texts and records that may be as long as they like. */
function unbounded(schema: unknown, path: string, seen: Set<unknown>): string[] {
  if (!(schema instanceof z.ZodType) || seen.has(schema)) return [];
  seen.add(schema);
  const def = schema._zod.def as unknown as Def;
  const into = (child: unknown, name: string) => unbounded(child, `${path}${name}`, seen);
  switch (def.type) {
    case 'string':
      return isBounded(def) || shortFormats.has(def.format ?? '') ? [] : [path];
    case 'array':
      return [...(isBounded(def) ? [] : [path]), ...into(def['element'], '[]')];
    case 'object':
      return Object.entries(def['shape'] as Record<string, unknown>).flatMap(([key, child]) => into(child, `.${key}`));
    case 'record':
      return [...into(def['keyType'], '{key}'), ...into(def['valueType'], '{}')];
    case 'union':
      return (def['options'] as unknown[]).flatMap((option, i) => into(option, `|${i}`));
    case 'tuple':
      return (def['items'] as unknown[]).flatMap((item, i) => into(item, `[${i}]`));
    case 'pipe':
      return [...into(def['in'], ''), ...into(def['out'], '')];
    default:
      return into(def['innerType'], '');
  }
}

test('every text and every list that a request may hold has an end', () => {
  expect(schemas.length).toBeGreaterThan(20);
  expect(schemas.flatMap(([name, schema]) => unbounded(schema, name, new Set()))).toEqual([]);
});

test('the check finds what has none', () => {
  const endless = z.object({
    a: z.string(),
    b: z.array(z.number()),
    c: z.string().max(3),
    d: z.array(z.string().max(2)).max(9).optional(),
  });
  expect(unbounded(endless, 'x', new Set())).toEqual(['x.a', 'x.b']);
});
