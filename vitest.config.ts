import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,contract,server,cli,web,scripts}/**/*.test.ts'],
    exclude: ['**/node_modules/**', '**/dist/**'],
    testTimeout: 30_000,
    // One file at a time: some tests put a broken file into the tree for a moment, and two cores are few.
    fileParallelism: false,
    reporters: ['default', ['json', { outputFile: 'test-results/vitest.json' }]],
    coverage: {
      provider: 'v8',
      include: ['core/**/*.ts', 'contract/**/*.ts', 'server/**/*.ts', 'cli/**/*.ts'],
      exclude: ['**/*.test.ts', '**/test/**', '**/index.ts'],
      reporter: ['text-summary', 'json-summary'],
    },
  },
});
