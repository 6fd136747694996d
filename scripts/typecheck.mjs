// Type-checks every package with its own settings, so that core is checked without the DOM and without Node.
import { spawn } from 'node:child_process';

const projects = ['core', 'web', 'core/tsconfig.test.json', 'server', 'contract', 'cli', 'e2e', '.'];

const check = (project) =>
  new Promise((resolve) => {
    spawn(process.execPath, ['node_modules/typescript/bin/tsc', '-p', project], { stdio: 'inherit' }).on('exit', resolve);
  });

const failed = [];
const open = [...projects];
async function worker() {
  for (let project = open.shift(); project !== undefined; project = open.shift()) {
    if ((await check(project)) !== 0) failed.push(project);
  }
}
await Promise.all([worker(), worker()]);

if (failed.length > 0) {
  console.error(`Types do not hold in: ${failed.join(', ')}`);
  process.exit(1);
}
console.log(`Types hold in ${projects.length} projects.`);
