import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Least and greatest voltage of each node, V. */
export type Extremes = Readonly<Record<string, readonly [number, number]>>;

/** Whether the general-purpose simulator is installed. */
export const hasNgspice = (): boolean => spawnSync('ngspice', ['--version']).status === 0;

/** A deck as it is, run by ngspice, with commands behind it that print what is asked for. */
export function ngspiceExtremes(deck: string, nodes: readonly string[]): Extremes {
  const folder = mkdtempSync(join(tmpdir(), 'deck-'));
  try {
    const asks = nodes.flatMap((node, i) => [
      `let h${i}=vecmax(v(${node}))`,
      `let l${i}=vecmin(v(${node}))`,
      `print l${i} h${i}`,
    ]);
    const control = ['.control', 'run', ...asks, 'let tend=vecmax(time)', 'print tend', 'quit', '.endc', '.end', ''].join('\n');
    writeFileSync(join(folder, 'deck.cir'), deck.replace(/\.end\s*$/, control));
    const { stdout, stderr } = spawnSync('ngspice', ['-b', join(folder, 'deck.cir')], { encoding: 'utf8', timeout: 120_000 });
    const until = Number(/^\.tran \S+ (\S+)/m.exec(deck)?.[1] ?? NaN);
    const reached = Number(/^tend = (\S+)/m.exec(stdout)?.[1] ?? NaN);
    if (!(reached > 0.999 * until)) throw new Error(`ngspice stopped at ${reached} s of ${until} s: ${stderr.slice(0, 400)}`);
    return Object.fromEntries(
      nodes.map((node, i) => {
        const read = (letter: 'l' | 'h') => Number(new RegExp(`^${letter}${i} = (\\S+)`, 'm').exec(stdout)?.[1] ?? NaN);
        const pair = [read('l'), read('h')] as const;
        if (pair.some(Number.isNaN)) throw new Error(`ngspice did not run to the end: ${stderr.slice(0, 400)}`);
        return [node, pair];
      }),
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A deck with commands that measure, run by ngspice: what each came to, by its name. */
export function ngspiceMeasures(deck: string, names: readonly string[]): Readonly<Record<string, number>> {
  const folder = mkdtempSync(join(tmpdir(), 'deck-'));
  try {
    writeFileSync(join(folder, 'deck.cir'), deck);
    const { stdout, stderr } = spawnSync('ngspice', ['-b', join(folder, 'deck.cir')], { encoding: 'utf8', timeout: 120_000 });
    return Object.fromEntries(
      names.map((name) => {
        const value = Number(new RegExp(`^${name}\\s+=\\s+(\\S+)`, 'm').exec(stdout)?.[1] ?? NaN);
        if (Number.isNaN(value)) throw new Error(`ngspice measured no ${name}: ${stderr.slice(0, 400)}`);
        return [name, value];
      }),
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
