import path from 'node:path';
import { defineConfig } from '@playwright/test';
import { chromiumPath } from '../scripts/chromium.mjs';

const PORT = Number(process.env.E2E_PORT ?? 4317);
const root = path.resolve(import.meta.dirname, '..');

/** Drives the built app in Debian's Chromium, served as it is for people. */
export default defineConfig({
  testDir: import.meta.dirname,
  globalSetup: path.join(import.meta.dirname, 'support/globalSetup.ts'),
  timeout: 120000,
  expect: { timeout: 20000 },
  fullyParallel: true,
  workers: 2,
  // A machine under load may miss a time limit: one more try there, and the runner says which test needed it.
  retries: process.env.CI ? 1 : 0,
  reporter: [['list'], ['json', { outputFile: path.join(root, 'test-results/e2e.json') }]],
  outputDir: path.join(root, 'test-results/e2e'),
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // What is kept for later visits is tried where a test asks for it; elsewhere it would only take time.
    serviceWorkers: 'block',
    // Recording every test costs as much time as running it: only a second try is recorded.
    trace: 'on-first-retry',
    launchOptions: {
      executablePath: chromiumPath(),
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
  webServer: {
    command: `node server/dist/server.js --port ${PORT}`,
    cwd: root,
    url: `http://127.0.0.1:${PORT}/health`,
    reuseExistingServer: false,
  },
});
