import { defineConfig } from '@playwright/test';
import { BROWSER } from './support/browser.ts';

const PORT = 4187;

export default defineConfig({
  testDir: './e2e',
  outputDir: '../test-results',
  // Computations share two cores with the browser: one test at a time, and patience.
  workers: 1,
  timeout: 120_000,
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
