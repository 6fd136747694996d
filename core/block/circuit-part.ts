import type { Element } from '../circuit/index.ts';

/** An element of the circuit that a block becomes, with what it stands for. */
export interface CircuitPart {
  readonly element: Element;
  readonly says: string;
  /** Set on what the closed forms leave out: what is left out, and what stands there instead. A gap fires at once, its arc fallen. */
  readonly leftOut?: { readonly what: string; readonly instead: 'open' | 'short' | 'at once' | 'next to none' };
}
