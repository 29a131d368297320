import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { sumOf } from './build.mjs'
import { whyNoReset } from './serve.mjs'

const root = mkdtempSync(join(tmpdir(), 'emp-build-'))
afterAll(() => rmSync(root, { recursive: true }))

it('a build is made anew when a source changes, comes or is renamed, and not for a test', () => {
  mkdirSync(join(root, 'core', 'deep'), { recursive: true })
  const file = (name: string, text: string) => writeFileSync(join(root, name), text)
  const sum = () => sumOf(root, ['core'], ['lock'])
  file('lock', '1')
  file('core/a.ts', 'a')
  const first = sum()
  file('core/a.test.ts', 'changed')
  expect(sum()).toBe(first)
  file('core/deep/b.ts', 'b')
  const second = sum()
  expect(second).not.toBe(first)
  file('core/a.ts', 'c')
  const third = sum()
  expect(third).not.toBe(second)
  file('lock', '2')
  expect(sum()).not.toBe(third)
})

it('deletes nothing but what the demo made', () => {
  const data = mkdtempSync(join(root, 'data-'))
  expect(whyNoReset('start', data, '/demo', {})).toMatch(/for the demo only/)
  expect(whyNoReset('demo', data, '/demo', { DATABASE_URL: 'postgres://x' })).toMatch(/DATABASE_URL is set/)
  expect(whyNoReset('demo', data, '/demo', {})).toBeUndefined()
  writeFileSync(join(data, 'kit'), '')
  expect(whyNoReset('demo', data, '/demo', {})).toMatch(/was not made for the demo alone/)
  expect(whyNoReset('demo', data, data, {})).toBeUndefined()
  writeFileSync(join(data, 'only-demo'), '')
  expect(whyNoReset('demo', data, '/demo', {})).toBeUndefined()
})
