import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll } from 'vitest';
import { run } from '../run.ts';

const folder = mkdtempSync(join(tmpdir(), 'surge-systems-'));
afterAll(() => {
  rmSync(folder, { recursive: true });
});

/** What a command prints. @throws Error with what it complains of, where it ends with exit code 2 */
export function surge(...args: string[]): string {
  let [out, err] = ['', ''];
  const code = run(args, { out: (text) => (out += text), err: (text) => (err += text) });
  if (code === 2) throw new Error(err);
  return out;
}

type Fields = Readonly<Record<string, string>>;
export interface Block {
  readonly kind: string;
  readonly fields: Fields;
}
export const block = (kind: string, fields: Fields = {}): Block => ({ kind, fields });

interface Answer {
  readonly figures: Readonly<Record<string, { readonly value: number | null }>>;
  readonly limits: readonly { readonly id: string; readonly utilisation: number | null }[];
  readonly problems: readonly { readonly severity: string; readonly text: string }[];
}

let made = 0;

/** A rig file of one channel, and what the terminal says of it. */
export class System {
  readonly path: string;
  readonly name: string;
  private readonly supply: Block;
  private readonly charging: Block;
  private readonly channel: Readonly<Record<string, Block>>;

  constructor(name: string, supply: Block, charging: Block, channel: Readonly<Record<string, Block>>) {
    [this.name, this.supply, this.charging, this.channel] = [name, supply, charging, channel];
    this.path = join(folder, `${(made += 1)}.json`);
    const rig = { supply, charging, channels: [channel] };
    writeFileSync(this.path, JSON.stringify({ format: 'vast-surge-rig', version: 8, name, note: '', rig }));
  }

  /** The same with some fields typed anew: `load.d`. */
  with(typed: Fields): System {
    const all: Record<string, Block> = { supply: this.supply, charging: this.charging, ...this.channel };
    for (const [path, text] of Object.entries(typed)) {
      const [slot = '', field = ''] = path.split('.');
      const old = all[slot];
      if (!old) throw new Error(`no ${slot}`);
      all[slot] = { ...old, fields: { ...old.fields, [field]: text } };
    }
    const { supply, charging, ...channel } = all as Record<string, Block> & { supply: Block; charging: Block };
    return new System(`${this.name} again`, supply, charging, channel);
  }

  private known: Answer | null = null;
  answer(): Answer {
    this.known ??= JSON.parse(surge('evaluate', this.path, '--json')) as Answer;
    return this.known;
  }
  figure(id: string): number {
    return this.answer().figures[id]?.value ?? NaN;
  }
  used(id: string): number {
    return this.answer().limits.find((l) => l.id === id)?.utilisation ?? NaN;
  }
  says(): string {
    return this.answer()
      .problems.map(({ text }) => text)
      .join('\n');
  }
  errors(): string[] {
    return this.answer().problems.flatMap(({ severity, text }) => (severity === 'error' ? [text] : []));
  }
  ask(command: string, ...more: string[]): string {
    return surge(command, this.path, ...more);
  }
}

export const bleeder = (R: string, n = '1', V = '') => block('permanent', { R, n, ...(V === '' ? {} : { V }) });
export const held = (R: string, n: string, V: string) => block('switched', { R, n, V });
export const stick = (R: string, n: string, V: string, P: string, E: string) => block('resistor-tool', { R, n, V, P, E });
export const probe = block('divider', { V: '40 kV', R1: '2 GΩ' });
export const voltmeter = (V: string) => block('voltmeter', { V, R: '10 MΩ' });
export const ball = (D: string, d: string, more: Fields = {}) =>
  block('spark-gap', { mode: 'self-break', geometry: 'sphere', D, d, ...more });
