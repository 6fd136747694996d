import { randomUUID } from 'node:crypto';
import { newPart } from '@vast-surge/core/part';

/** A body of at most ten megabytes that is small to send and was once long to answer. */
export interface HostileBody {
  readonly title: string;
  readonly path: string;
  body(): string;
  readonly status: number;
  readonly words: RegExp;
}

const mib = 1024 * 1024;
const zeros = (bytes: number) => `[${'0,'.repeat(bytes / 2)}0]`;
const parts = (count: number) =>
  Array.from({ length: count }, (_, i) => ({ id: randomUUID(), part: newPart('capacitor', `Can ${i}`, `L-${i}`) }));

export const hostileBodies: readonly HostileBody[] = [
  {
    title: 'ten megabytes of noughts for parts',
    path: '/api/parts',
    body: () => `{"parts": ${zeros(9.9 * mib)}}`,
    status: 400,
    words: /holds more than 3000000 values/,
  },
  {
    title: 'a million noughts for parts',
    path: '/api/parts',
    body: () => `{"parts": ${zeros(2 * mib)}}`,
    status: 400,
    words: /parts/,
  },
  {
    title: 'twenty thousand parts that are none',
    path: '/api/parts',
    body: () => JSON.stringify({ parts: Array(20_000).fill({ a: 1 }) }),
    status: 400,
    words: /parts\[0\]/,
  },
  {
    title: 'a million readings of one part',
    path: '/api/parts',
    body: () => JSON.stringify({ parts: parts(1) }).replace('"readings":[]', `"readings":${zeros(2 * mib)}`),
    status: 400,
    words: /parts\[0\] holds more than 12000 values/,
  },
  {
    title: 'ten megabytes of brackets',
    path: '/api/shots',
    body: () => '['.repeat(5 * mib) + ']'.repeat(5 * mib),
    status: 400,
    words: /nested deeper than 40 levels/,
  },
  {
    title: 'a quarter of a megabyte of nulls for events',
    path: `/api/runs/${randomUUID()}/events`,
    body: () => `{"events": [${'null,'.repeat(50_000)}null]}`,
    status: 400,
    words: /holds more than 25000 values/,
  },
  {
    title: 'keys without end',
    path: '/api/rigs',
    body: () => `{${Array.from({ length: 20_000 }, (_, i) => `"k${i}":0`).join()}}`,
    status: 400,
    words: /not known: k0/,
  },
  {
    title: 'six megabytes of good parts',
    path: '/api/parts',
    body: () => JSON.stringify({ parts: parts(12_000) }),
    status: 201,
    words: /^$/,
  },
];
