// Prints what ran, the coverage, and the share of test code; the last line is the count that CI reads.
import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';

const json = (path) => JSON.parse(readFileSync(new URL(`../${path}`, import.meta.url), 'utf8'));

const units = readdirSync(new URL('../test-results', import.meta.url))
  .filter((name) => name.startsWith('unit'))
  .map((name) => json(`test-results/${name}`));
const count = (key) => units.reduce((sum, unit) => sum + unit[key], 0);
const unit = { numPassedTests: count('numPassedTests'), numFailedTests: count('numFailedTests') };
const browser = json('test-results/e2e.json').stats;
const coverage =
  process.env.VAST_SURGE_LONG === '1' && existsSync(new URL('../coverage/coverage-summary.json', import.meta.url))
    ? json('coverage/coverage-summary.json').total
    : null;

const files = execFileSync('git', ['ls-files', '*.ts', '*.tsx', '*.mjs'], { encoding: 'utf8' }).trim().split('\n');
const lines = (names) => names.reduce((sum, name) => sum + readFileSync(name, 'utf8').split('\n').length, 0);
const isTest = (name) => /\.(test|spec)\.tsx?$|(^|\/)(test|e2e)\//.test(name);
const [testLines, allLines] = [lines(files.filter(isTest)), lines(files)];

console.log(
  `Unit tests: ${unit.numPassedTests} passed, ${unit.numFailedTests} failed. In a browser: ${browser.expected} passed, ${browser.flaky} at the second attempt only, ${browser.unexpected} failed.`,
);
if (coverage) console.log(`Coverage: ${coverage.lines.pct} % of lines, ${coverage.branches.pct} % of branches.`);
console.log(`Test code: ${testLines} of ${allLines} lines, ${((100 * testLines) / allLines).toFixed(0)} %.`);
const failed = unit.numFailedTests + browser.unexpected;
console.log(`${unit.numPassedTests + browser.expected + browser.flaky} passed, ${failed} failed`);
process.exitCode = failed > 0 ? 1 : 0;
