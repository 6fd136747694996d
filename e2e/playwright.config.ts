import { fileURLToPath } from 'node:url';
import { defineConfig } from '@playwright/test';

const port = Number(process.env['E2E_PORT'] ?? 4699);
const root = fileURLToPath(new URL('..', import.meta.url));

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results/e2e',
  workers: 2,
  timeout: 120_000,
  expect: { timeout: 25_000 },
  // What flakes is mended, and not tried again.
  retries: 0,
  forbidOnly: true,
  reporter: [['list'], ['json', { outputFile: '../test-results/e2e.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    // A third of the time goes into traces: E2E_TRACE=1 for the test that one looks into.
    trace: process.env['E2E_TRACE'] ? 'retain-on-failure' : 'off',
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      // Chromium has no sandbox for root, and its background services would only knock at closed doors.
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
  webServer: {
    command: 'node e2e/serve.mjs',
    cwd: root,
    url: `http://127.0.0.1:${port}/api/health`,
    timeout: 60_000,
    env: { PORT: String(port), VAST_SURGE_RATE: '100000' },
    gracefulShutdown: { signal: 'SIGTERM', timeout: 5000 },
  },
});
