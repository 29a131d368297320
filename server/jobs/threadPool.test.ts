import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { threadPool } from './threadPool'

const folder = mkdtempSync(join(tmpdir(), 'emporion-threads-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

describe('a pool of threads', () => {
  it('does not load ES modules by require, in which Node can\'t be ended', async () => {
    writeFileSync(join(folder, 'other.mjs'), 'export const loaded = true')
    writeFileSync(join(folder, 'task.mjs'), `
      import { createRequire } from 'node:module'
      export default (file) => {
        try { return createRequire(import.meta.url)(file) } catch (thrown) { return thrown.code }
      }`)
    const pool = threadPool<string, unknown>({ filename: join(folder, 'task.mjs'), maxThreads: 1 })
    try {
      expect(await pool.run('./other.mjs')).toBe('ERR_REQUIRE_ESM')
    }
    finally {
      await pool.destroy()
    }
  })
})
