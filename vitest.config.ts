import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const shared = {
  globalSetup: ['tests/helpers/scratch.ts'],
  testTimeout: 120_000,
  hookTimeout: 120_000,
  // Test files share what they load: that alone was a third of the time of the unit tests.
  isolate: false,
}

export default defineConfig({
  resolve: { alias: { '~~': fileURLToPath(new URL('.', import.meta.url)) } },
  test: {
    // By itself it leaves one core of two idle.
    maxWorkers: 2,
    // In another order each time, by a seed that is printed: what one file leaves in a decoder or a store must not matter to another.
    sequence: { shuffle: { files: true, tests: false }, seed: Number(process.env.EMPORION_ORDER_SEED ?? Date.now() % 1_000_000) },
    projects: [
      { extends: true, test: { ...shared, name: 'unit', include: ['bin/**/*.test.ts', 'core/**/*.test.ts', 'server/**/*.test.ts', 'cli/**/*.test.ts', 'demo/**/*.test.ts', 'tests/conformance/**/*.test.ts'] } },
      // Those of the app have stores, and stand-ins for what a browser gives, each file its own.
      { extends: true, test: { ...shared, name: 'app', isolate: true, include: ['app/**/*.test.ts'] } },
      { extends: true, test: { ...shared, name: 'server', include: ['tests/server/**/*.test.ts'], globalSetup: [...shared.globalSetup, 'tests/helpers/globalSetup.ts'] } },
    ],
  },
})
