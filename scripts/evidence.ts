// The book of evidence: `npm run evidence` runs the tests that hold something against the outside and writes core/evidence/book.json and
// docs/evidence.md; with --check FOLDER it holds what a run of the tests left there against both, and fails where they differ.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Slot } from '../core/block/index.ts';
import { blockDefinition, blockDefinitions, changeKind } from '../core/kind/index.ts';
import { evaluateRig } from '../core/evaluation/index.ts';
import { evidenceMarkdown, gathered, type Book, type Held, type Made, type Witnessed } from '../core/evidence/index.ts';
import { readRigFile } from '../core/format/index.ts';
import { workingOf } from '../core/formula/index.ts';
import { blockIn, newRig, withBlock, type Rig } from '../core/rig/index.ts';

const root = new URL('../', import.meta.url);
const bookFile = new URL('core/evidence/book.json', root);
const document = new URL('docs/evidence.md', root);

/** The demo rigs, and a new rig with each kind of block in turn: between them every figure that can be had is had. */
function* rigs(): Generator<Rig> {
  for (const name of readdirSync(new URL('demo/', root)).filter((file) => file.endsWith('.json'))) {
    const read = readRigFile(readFileSync(new URL(`demo/${name}`, root), 'utf8'));
    if (read.ok) yield read.document.rig;
  }
  const plain = newRig();
  for (const definition of blockDefinitions) {
    const slot = definition.slot as Slot;
    const was = blockIn(plain, slot);
    yield withBlock(plain, slot, changeKind(was, blockDefinition(slot, was.kind), definition));
  }
}

function made(): Record<string, Made> {
  const all = new Map<string, { title: string; formulas: Set<string> }>();
  for (const rig of rigs())
    for (const figure of evaluateRig(rig).figures) {
      const one = all.get(figure.id) ?? { title: figure.title, formulas: new Set<string>() };
      all.set(figure.id, one);
      if (figure.ok) for (const line of workingOf(figure.worked)) one.formulas.add(line.formulaId);
    }
  const rows = [...all].sort(([a], [b]) => (a < b ? -1 : 1));
  return Object.fromEntries(rows.map(([id, { title, formulas }]) => [id, { title, formulas: [...formulas] }]));
}

const seenIn = (folder: string): Witnessed[] =>
  readdirSync(folder).flatMap((file) => JSON.parse(readFileSync(join(folder, file), 'utf8')) as Witnessed[]);

/** Tests that put something into the book name it by their import. */
function run(folder: string): void {
  const files = spawnSync('grep', ['-rlE', '--include=*.test.ts', "test/(evidence|by-hand)\\.ts'", 'core'], {
    cwd: root,
    encoding: 'utf8',
  });
  const { status } = spawnSync(
    'npx',
    ['--no-install', 'vitest', 'run', '--project', 'calculation', ...files.stdout.trim().split('\n')],
    {
      cwd: root,
      stdio: 'inherit',
      env: { ...process.env, EVIDENCE_TO: folder },
    },
  );
  if (status !== 0) throw new Error('a test failed: the book stays as it is');
}

/** Errors move in their last digits from one machine to the next; what else differs is a book that is out of date. */
function differences(was: Book, now: Book): string[] {
  const found: string[] = [];
  for (const kind of ['formula', 'model', 'figure'] as const)
    for (const id of new Set([...Object.keys(was[kind]), ...Object.keys(now[kind])])) {
      const strip = (list: readonly Held[] = []) => JSON.stringify(list.map(({ worst: _, range: __, ...rest }) => rest));
      if (strip(was[kind][id]) !== strip(now[kind][id]))
        found.push(`${kind} ${id}: held against something else than the book says`);
      else
        (was[kind][id] ?? []).forEach(({ worst }, i) => {
          const seen = now[kind][id]?.[i]?.worst ?? NaN;
          if (Math.abs(seen - worst) > 0.2 * Math.max(seen, worst) + 1e-9)
            found.push(`${kind} ${id}: worst error ${seen}, the book says ${worst}`);
        });
    }
  if (JSON.stringify(was.made) !== JSON.stringify(now.made)) found.push('what the figures are made of');
  return found;
}

const at = process.argv.indexOf('--check');
if (at > 0) {
  const now: Book = { ...gathered(seenIn(process.argv[at + 1] ?? '')), made: made() };
  const was = JSON.parse(readFileSync(bookFile, 'utf8')) as Book;
  const found = differences(was, now);
  if (readFileSync(document, 'utf8') !== evidenceMarkdown(was))
    found.push('docs/evidence.md is not what core/evidence/book.json says');
  for (const line of found) console.error(line);
  if (found.length > 0) {
    console.error('The book of evidence is out of date: npm run evidence writes it anew.');
    process.exitCode = 1;
  } else console.error(`The book of evidence is what the tests saw.`);
} else {
  const folder = mkdtempSync(join(tmpdir(), 'evidence-'));
  try {
    run(folder);
    const now: Book = { ...gathered(seenIn(folder)), made: made() };
    writeFileSync(bookFile, `${JSON.stringify(now, null, 1)}\n`);
    writeFileSync(document, evidenceMarkdown(now));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
