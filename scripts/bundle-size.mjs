// What a page loads, against its budget: npm run build first. Whoever needs more raises the number here, and says why.
import { readdirSync, readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';

/** kB, compressed as the server sends them. Before the first number of the list of rigs comes what it stands on, with all that this imports. */
// Studies of a rig, and core's reading of it many times: 20 kB of all scripts.
// Campaigns with their next shot, answer and book: 20 kB of all scripts.
// With what sets formulas, which comes when the first is shown: 77 kB.
// In a hundred files instead of one, all scripts compress a little worse: 1150 before they were parted.
const budget = { 'scripts before the first number': 260, 'all scripts': 1680, styles: 20 };

const dist = new URL('../web/dist/', import.meta.url);
const manifest = JSON.parse(readFileSync(new URL('.vite/manifest.json', dist), 'utf8'));
const sizeOf = (file) => gzipSync(readFileSync(new URL(file, dist))).length / 1000;
const needed = new Set();
const need = (part) => {
  if (needed.has(part)) return;
  needed.add(part);
  manifest[part].imports?.forEach(need);
};
need('index.html');
need('views/rigs/rigs-view.tsx');
const assets = readdirSync(new URL('assets/', dist)).map((name) => `assets/${name}`);
const sum = (files) => files.reduce((kB, file) => kB + sizeOf(file), 0);
const found = {
  'scripts before the first number': sum([...needed].map((part) => manifest[part].file)),
  'all scripts': sum(assets.filter((name) => name.endsWith('.js'))),
  styles: sum(assets.filter((name) => name.endsWith('.css'))),
};
for (const [what, most] of Object.entries(budget)) {
  console.log(`${what}: ${found[what].toFixed(0)} of ${most} kB`);
  // Nothing at all is no page, and no budget kept.
  if (!(found[what] > 0 && found[what] <= most)) process.exitCode = 1;
}
