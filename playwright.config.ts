import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: 'tests/e2e',
  globalSetup: ['./tests/helpers/scratch.ts', './tests/e2e/prepare.ts'],
  workers: 2,
  fullyParallel: true,
  timeout: 360_000,
  expect: { timeout: 40_000 },
  reporter: process.env.EMPORION_REPORT ? [['list'], ['json', { outputFile: process.env.EMPORION_REPORT }]] : 'list',
  outputDir: 'test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.EMPORION_CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    },
  },
})
