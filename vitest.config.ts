import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '~~': fileURLToPath(new URL('.', import.meta.url)) } },
  test: {
    include: ['core/**/*.test.ts', 'server/**/*.test.ts', 'app/**/*.test.ts', 'demo/**/*.test.ts', 'tests/conformance/**/*.test.ts', 'tests/server/**/*.test.ts'],
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
})
