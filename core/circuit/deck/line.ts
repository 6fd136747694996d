import { BadWord, deckValue, shown, type Parameters } from './number.ts';

/** One line of a deck, put together with those that go on from it: its number, from 1, and its words. */
export interface DeckLine {
  readonly line: number;
  readonly words: readonly string[];
  readonly text: string;
}

const word = /\{[^}]*\}|'[^']*'|"[^"]*"|=|[^\s(),={}'"]+|\S/g;

/** Words of a line: brackets and commas part them as blanks do, and `IC = 4` is one word. */
export function wordsOf(text: string): string[] {
  const words: string[] = [];
  const all = (text.match(word) ?? []).filter((w) => !/^[(),]$/.test(w));
  for (let i = 0; i < all.length; i++) {
    const next = all[i] ?? '';
    if (next === '=') {
      const [key, value] = [words.pop(), all[++i]];
      words.push(`${key ?? ''}=${value ?? ''}`);
    } else words.push(next);
  }
  return words;
}

/**
 * The words behind the name of an element, taken one by one: what nobody takes is refused, so that nothing in a line goes unread.
 */
export class Words {
  private readonly plain: string[] = [];
  private readonly keys = new Map<string, string>();

  constructor(
    words: readonly string[],
    private readonly parameters: Parameters,
  ) {
    for (const one of words) {
      const at = one.indexOf('=');
      if (at < 0 || /^[{'"]/.test(one)) this.plain.push(one);
      else {
        const key = one.slice(0, at).toLowerCase();
        if (key === '' || at === one.length - 1) throw new BadWord(`"${shown(one)}" has nothing on one side of =`);
        if (this.keys.has(key)) throw new BadWord(`"${shown(one)}": ${key.toUpperCase()} stands there twice`);
        this.keys.set(key, one.slice(at + 1));
      }
    }
  }

  /** The next word, or undefined. */
  peek(): string | undefined {
    return this.plain[0];
  }

  next(what: string): string {
    const one = this.plain.shift();
    if (one === undefined) throw new BadWord(`${what} is missing`);
    return one;
  }

  /** Takes the next word where it is this one, whatever its case. */
  takes(one: string): boolean {
    if (this.plain[0]?.toLowerCase() !== one) return false;
    this.plain.shift();
    return true;
  }

  /** All words that are left and have no key. */
  rest(): string[] {
    return this.plain.splice(0);
  }

  value(what: string, initial?: number): number {
    const one = this.plain.shift();
    if (one === undefined && initial !== undefined) return initial;
    if (one === undefined) throw new BadWord(`${what} is missing`);
    return this.number(one, what);
  }

  has(key: string): boolean {
    return this.keys.has(key);
  }

  key(key: string, what: string, initial?: number): number {
    const text = this.text(key);
    if (text === null && initial !== undefined) return initial;
    if (text === null) throw new BadWord(`${key.toUpperCase()} (${what}) is missing`);
    return this.number(text, `${key.toUpperCase()} (${what})`);
  }

  /** The text behind a key, or null. */
  text(key: string): string | null {
    const text = this.keys.get(key) ?? null;
    this.keys.delete(key);
    return text;
  }

  number(text: string, what: string): number {
    try {
      return deckValue(text, this.parameters);
    } catch (error) {
      throw error instanceof BadWord ? new BadWord(`${what} is ${error.message}`) : error;
    }
  }

  /** @throws BadWord where a word was left */
  end(known: string): void {
    const [one] = [...this.plain, ...[...this.keys].map(([key, text]) => `${key.toUpperCase()}=${text}`)];
    if (one !== undefined) throw new BadWord(`"${shown(one)}" is not understood there; it takes ${known}`);
  }
}
