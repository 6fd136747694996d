// What can be said without running anything: types (core and contract without the DOM and without Node, once more with their tests and
// all that runs on Node, and the page), lint, format, walls. Two at a time, the longest first; each says what it found when it is done.
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';

const bin = (name) => `node_modules/${name}`;
// The compiler in machine code says the same in a third of the time; where a machine has none, the other one does it. Lint, the
// finder of what is left over and the mutations ask the other one, which can be asked from JavaScript.
const isNative = existsSync(bin(`@typescript/typescript-${process.platform}-${process.arch}`));
const compiler = bin(`${isNative ? 'typescript-native' : 'typescript'}/bin/tsc`);
const tsc = (name, project) => ({ name: `types of ${name}`, args: [compiler, '-p', project] });
const checks = [
  { name: 'lint', args: [bin('eslint/bin/eslint.js'), '.', '--max-warnings', '0'] },
  tsc('the page', 'web'),
  tsc('what runs on Node', 'tsconfig.node.json'),
  tsc('the core by itself', 'tsconfig.pure.json'),
  { name: 'format', args: [bin('prettier/bin/prettier.cjs'), '--check', '.', '--log-level', 'warn'] },
  {
    name: 'walls',
    args: [
      bin('dependency-cruiser/bin/dependency-cruise.mjs'),
      ...['--config', '.dependency-cruiser.cjs', '--output-type', 'err'],
      ...['core', 'contract', 'server', 'web', 'cli', 'e2e'],
    ],
  },
  { name: 'nothing left over', args: [bin('knip/bin/knip.js'), '--no-progress'] },
];
const wanted = process.argv[2] === 'types' ? checks.filter(({ name }) => name.startsWith('types')) : checks;

const check = ({ args }) =>
  new Promise((resolve) => {
    const run = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    run.stdout.on('data', (text) => (said += text));
    run.stderr.on('data', (text) => (said += text));
    run.on('close', (code) => resolve({ code, said }));
  });

const failed = [];
const open = [...wanted];
async function worker() {
  for (let next = open.shift(); next !== undefined; next = open.shift()) {
    const { code, said } = await check(next);
    if (code === 0) continue;
    failed.push(next.name);
    console.error(`\n${next.name}:\n${said}`);
  }
}
await Promise.all([worker(), worker()]);

if (failed.length > 0) {
  console.error(`Not so: ${failed.join(', ')}`);
  process.exitCode = 1;
} else console.log(`${wanted.length} checks hold.`);
