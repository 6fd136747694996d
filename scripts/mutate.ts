/**
 * Puts one fault at a time into the code and asks whether any test sees it: npm run mutate -- limit, figure, run or runsheet.
 *
 *   --sample N    of so many faults, drawn by a fixed seed (40)
 *   --seed N      another draw
 *
 * It works in a copy of the tree, so that nobody's edit is touched; faults that no test saw are told with their place.
 */
import { spawn } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import fc from 'fast-check';
import ts from 'typescript';

const root = fileURLToPath(new URL('..', import.meta.url));

/** What tests are asked about the files of a room: those nearest to it first, the others where these see nothing. */
const asked: Readonly<Record<string, readonly string[]>> = {
  limit: ['core/limit/', 'core/evaluation/', 'core/figure/', 'core/kind/'],
  figure: ['core/figure/', 'core/kind/', 'core/evaluation/', 'core/simulate/'],
  run: ['core/run/', 'core/rehearsal/'],
  runsheet: ['core/runsheet/', 'core/rehearsal/', 'core/run/'],
};

/** A fault: the file, from where to where, and what stands there instead. */
interface Fault {
  readonly file: string;
  readonly from: number;
  readonly to: number;
  readonly instead: string;
  readonly line: number;
  readonly was: string;
}

const swapped: Readonly<Partial<Record<ts.SyntaxKind, string>>> = {
  [ts.SyntaxKind.LessThanToken]: '<=',
  [ts.SyntaxKind.LessThanEqualsToken]: '<',
  [ts.SyntaxKind.GreaterThanToken]: '>=',
  [ts.SyntaxKind.GreaterThanEqualsToken]: '>',
  [ts.SyntaxKind.EqualsEqualsEqualsToken]: '!==',
  [ts.SyntaxKind.ExclamationEqualsEqualsToken]: '===',
  [ts.SyntaxKind.AmpersandAmpersandToken]: '||',
  [ts.SyntaxKind.BarBarToken]: '&&',
  [ts.SyntaxKind.PlusToken]: '-',
  [ts.SyntaxKind.MinusToken]: '+',
  [ts.SyntaxKind.AsteriskToken]: '/',
  [ts.SyntaxKind.SlashToken]: '*',
};

/** What may be wrong at a node: another operator, another truth, a number that is one more, a condition turned round. */
function insteadOf(node: ts.Node): { at: ts.Node; text: string } | null {
  if (ts.isBinaryExpression(node)) {
    const text = swapped[node.operatorToken.kind];
    return text === undefined ? null : { at: node.operatorToken, text };
  }
  if (node.kind === ts.SyntaxKind.TrueKeyword) return { at: node, text: 'false' };
  if (node.kind === ts.SyntaxKind.FalseKeyword) return { at: node, text: 'true' };
  if (ts.isNumericLiteral(node)) return { at: node, text: String(Number(node.text) + 1) };
  if (ts.isConditionalExpression(node)) return { at: node.condition, text: `!(${node.condition.getText()})` };
  if (ts.isIfStatement(node)) return { at: node.expression, text: `!(${node.expression.getText()})` };
  return null;
}

function faultsIn(file: string): Fault[] {
  const source = ts.createSourceFile(file, readFileSync(join(root, file), 'utf8'), ts.ScriptTarget.Latest, true);
  const found: Fault[] = [];
  const visit = (node: ts.Node): void => {
    // A type is no fault that a run could show.
    if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node)) return;
    const other = insteadOf(node);
    if (other) {
      const [from, to] = [other.at.getStart(), other.at.getEnd()];
      const line = source.getLineAndCharacterOfPosition(from).line + 1;
      found.push({ file, from, to, instead: other.text, line, was: other.at.getText() });
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

const filesOf = (room: string): string[] =>
  readdirSync(join(root, 'core', room))
    .filter((name) => name.endsWith('.ts') && !name.endsWith('.test.ts') && name !== 'index.ts')
    .map((name) => `core/${room}/${name}`);

/** @returns whether every test of every one of these holds, asked one after the other */
async function holds(folder: string, [first, ...others]: readonly string[]): Promise<boolean> {
  return first === undefined || ((await allHold(folder, first)) && (await holds(folder, others)));
}

const allHold = (folder: string, tests: string): Promise<boolean> =>
  new Promise((resolve) => {
    const args = ['node_modules/vitest/vitest.mjs', 'run', '--project', 'calculation', '--bail', '1', '--reporter', 'dot', tests];
    const run = spawn(process.execPath, args, { cwd: folder, stdio: 'ignore' });
    // A fault that turns for ever is seen as well.
    const end = setTimeout(() => run.kill('SIGKILL'), 300_000);
    run.on('close', (code) => {
      clearTimeout(end);
      resolve(code === 0);
    });
  });

async function mutate(room: string, count: number, seed: number): Promise<number> {
  const tests = asked[room];
  if (!tests) throw new Error(`a room is one of ${Object.keys(asked).join(', ')}`);
  const all = filesOf(room).flatMap(faultsIn);
  const [drawn = []] = fc.sample(
    fc.shuffledSubarray(all, { minLength: Math.min(count, all.length), maxLength: Math.min(count, all.length) }),
    {
      numRuns: 1,
      seed,
    },
  );
  const folder = mkdtempSync(join(tmpdir(), 'surge-mutate-'));
  try {
    for (const name of [
      'core',
      'contract',
      'demo',
      'docs',
      'package.json',
      'vitest.config.ts',
      'tsconfig.json',
      'tsconfig.base.json',
    ])
      cpSync(join(root, name), join(folder, name), { recursive: true, filter: (path) => !path.includes('node_modules') });
    symlinkSync(join(root, 'node_modules'), join(folder, 'node_modules'));
    if (!(await holds(folder, tests))) throw new Error('the tests fail without any fault');
    let seen = 0;
    for (const [k, { file, from, to, instead, line, was }] of drawn.entries()) {
      const text = readFileSync(join(root, file), 'utf8');
      writeFileSync(join(folder, file), text.slice(0, from) + instead + text.slice(to));
      const isSeen = !(await holds(folder, tests));
      writeFileSync(join(folder, file), text);
      if (isSeen) seen += 1;
      else console.log(`not seen: ${file}:${line}  ${was} as ${instead}`);
      console.log(`${k + 1} of ${drawn.length}, seen ${seen}`);
    }
    console.log(
      `${room}: ${((100 * seen) / drawn.length).toFixed(0)} % of ${drawn.length} faults seen, of ${all.length} there are; seed ${seed}`,
    );
    return 0;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const [room = '', ...options] = process.argv.slice(2);
const option = (name: string, usual: number) => {
  const at = options.indexOf(name);
  return at < 0 ? usual : Number(options[at + 1]);
};
process.exitCode = await mutate(room, option('--sample', 40), option('--seed', 20_261_129));
