import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const shared = {
  testTimeout: 120_000,
  hookTimeout: 120_000,
}

export default defineConfig({
  resolve: { alias: { '~~': fileURLToPath(new URL('.', import.meta.url)) } },
  test: {
    // By itself it leaves one core of two idle.
    maxWorkers: 2,
    projects: [
      { extends: true, test: { ...shared, name: 'unit', include: ['core/**/*.test.ts', 'server/**/*.test.ts', 'app/**/*.test.ts', 'demo/**/*.test.ts', 'tests/conformance/**/*.test.ts'] } },
      { extends: true, test: { ...shared, name: 'server', include: ['tests/server/**/*.test.ts'], globalSetup: 'tests/helpers/globalSetup.ts' } },
    ],
  },
})
