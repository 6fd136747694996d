import { defineConfig } from 'vitest/config';

const left = ['**/node_modules/**', '**/dist/**'];
/** What has a machine to itself. */
const alone = ['scripts/**/*.test.ts', 'server/{soak,hosts}.test.ts', 'server/studies/*.test.ts', 'server/archive/harm.test.ts'];

export default defineConfig({
  test: {
    exclude: left,
    // Where the machine has other work a test takes as long as it takes: what hangs is found all the same.
    testTimeout: 120_000,
    // A database is made in a second, and in twenty where the machine has other work.
    hookTimeout: 120_000,
    // Property tests draw the same cases every time: what fails once fails again.
    setupFiles: ['core/test/setup.ts'],
    projects: [
      {
        extends: true,
        test: {
          name: 'calculation',
          include: ['{core,contract,cli,web}/**/*.test.{ts,tsx}'],
          maxWorkers: 2,
          // Nothing here keeps a state of its own, so the core is loaded once for each worker and not once for each file.
          isolate: false,
          sequence: { groupOrder: 0 },
        },
      },
      {
        extends: true,
        test: {
          name: 'system',
          include: ['server/**/*.test.ts'],
          exclude: [...left, ...alone],
          maxWorkers: 2,
          // The program is loaded once for each worker: each file makes a database and servers of its own and ends them.
          isolate: false,
          testTimeout: 180_000,
          sequence: { groupOrder: 1 },
        },
      },
      {
        extends: true,
        test: {
          name: 'alone',
          include: alone,
          // One file at a time, after all others: some put a broken file into the tree for a moment, some kill servers and wait for them.
          fileParallelism: false,
          isolate: false,
          testTimeout: 180_000,
          sequence: { groupOrder: 2 },
        },
      },
    ],
    coverage: {
      provider: 'v8',
      include: ['core/**/*.ts', 'contract/**/*.ts', 'server/**/*.ts', 'cli/**/*.ts', 'web/**/*.{ts,tsx}'],
      exclude: ['**/*.test.ts', '**/test/**', '**/index.ts', 'web/dist/**'],
      reporter: ['text-summary', 'json-summary'],
    },
  },
});
