import { defineConfig } from '@playwright/test';
import { BROWSER } from './support/browser.ts';

const PORT = 4187;

export default defineConfig({
  testDir: './e2e',
  outputDir: '../test-results',
  // Half of a test is waiting, so two share two cores; computations then take their time, hence the patience.
  workers: 2,
  fullyParallel: true,
  timeout: 240_000,
  expect: { timeout: 30_000 },
  reporter: [['list'], ['json', { outputFile: '../test-results/e2e.json' }]],
  use: { ...BROWSER, baseURL: `http://localhost:${PORT}` },
  webServer: {
    command: `node_modules/.bin/tsx src/server/main.ts --port ${PORT}`,
    cwd: '..',
    url: `http://localhost:${PORT}/`,
    reuseExistingServer: false,
  },
});
