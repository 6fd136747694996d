import type { z } from 'zod';
import { fieldIssues, isForbiddenKey } from '@vast-surge/core/format';
import type { Fault } from '@vast-surge/contract';
import { unhurried } from '../breath.ts';

/** What a body may be made of, judged in one pass before anything else is done with it. */
export interface Bounds {
  /** Values of any kind in it, all told. */
  readonly nodes: number;
  readonly depth: number;
}

/** Far above any rig, run or shot: a million values in a small body would hold the server for minutes. */
export const usualBounds: Bounds = { nodes: 25_000, depth: 40 };
/** Twenty thousand parts with their readings, each within bounds of its own. */
export const benchBounds: Bounds = { nodes: 3_000_000, depth: 40 };
/** A part with all the readings that it may have. */
const itemBounds: Bounds = { nodes: 12_000, depth: 20 };

type Field = Fault['fields'][number];

/** What of a parsed body goes beyond all bounds, or could reach an object's prototype; null where nothing does. */
export function outOfBounds(body: unknown, { nodes, depth }: Bounds): Field | null {
  let count = 0;
  let level: unknown[] = [body];
  for (let deep = 0; level.length > 0; deep++) {
    if (deep > depth) return { path: 'body', reason: `is nested deeper than ${depth} levels` };
    const below: unknown[] = [];
    for (const value of level) {
      if (typeof value !== 'object' || value === null) continue;
      const isList = Array.isArray(value);
      const inside = isList ? value : Object.keys(value);
      count += inside.length;
      if (count > nodes) return { path: 'body', reason: `holds more than ${nodes} values` };
      for (const key of inside) {
        if (isList) below.push(key);
        else {
          if (isForbiddenKey(key as string)) return { path: key as string, reason: 'is a key that no request has' };
          below.push((value as Record<string, unknown>)[key as string]);
        }
      }
    }
    level = below;
  }
  return null;
}

/** Deeper than any body is nested. */
const deepest = 60;

/**
 * Looks at the bytes of a body before they are parsed: millions of brackets in a row take the parser seconds.
 *
 * @returns whether they are nested deeper than any body
 */
export function isTooDeep(bytes: Uint8Array): boolean {
  let [depth, inText] = [0, false];
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i];
    if (inText) {
      if (byte === 0x5c) i += 1;
      else if (byte === 0x22) inText = false;
    } else if (byte === 0x22) inText = true;
    else if (byte === 0x5b || byte === 0x7b) {
      depth += 1;
      if (depth > deepest) return true;
    } else if (byte === 0x5d || byte === 0x7d) depth -= 1;
  }
  return false;
}

/** So many things that are wrong are told; what comes after is not even looked for. */
const mostIssues = 50;

/**
 * Checks the items of a long list one by one, letting other requests through meanwhile, and stops when enough is wrong.
 *
 * @returns the items as their schema has them, or what is wrong with them by path
 */
export async function eachItem<T extends z.ZodType>(
  schema: T,
  items: readonly unknown[],
  path: string,
): Promise<{ readonly items: z.output<T>[] } | { readonly wrong: readonly Field[] }> {
  const good: z.output<T>[] = [];
  const wrong: Field[] = [];
  for await (const [i, item] of unhurried(items.entries())) {
    const beyond = outOfBounds(item, itemBounds);
    if (beyond !== null) {
      wrong.push({ path: `${path}[${i}]`, reason: beyond.reason });
      continue;
    }
    const read = schema.safeParse(item);
    if (read.success) good.push(read.data);
    else
      for (const issue of fieldIssues(read.error))
        wrong.push({
          path: `${path}[${i}]${issue.path === 'document' ? '' : issue.path.startsWith('[') ? issue.path : `.${issue.path}`}`,
          reason: issue.reason,
        });
    if (wrong.length >= mostIssues) break;
  }
  return wrong.length > 0 ? { wrong: wrong.slice(0, mostIssues) } : { items: good };
}
