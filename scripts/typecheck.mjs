// Type-checks every package with its own settings, so that core is checked without the DOM and without Node.
import { spawnSync } from 'node:child_process';

const projects = ['.', 'core', 'core/tsconfig.test.json', 'contract', 'server', 'web', 'cli', 'e2e'];
const failed = projects.filter((project) => {
  const { status } = spawnSync('npx', ['--no-install', 'tsc', '-p', project], { stdio: 'inherit' });
  return status !== 0;
});
if (failed.length > 0) {
  console.error(`Types do not hold in: ${failed.join(', ')}`);
  process.exit(1);
}
console.log(`Types hold in ${projects.length} projects.`);
