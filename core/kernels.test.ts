import { readdirSync, readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { describe, expect, it } from 'vitest'
import wabt from 'wabt'

const sources = readdirSync('core', { recursive: true, encoding: 'utf8' }).filter(path => path.endsWith('.wat')).map(path => `core/${path}`)

describe('the modules in WebAssembly', () => {
  it.each(sources)('%s is the source of the module beside it', async (source) => {
    const { parseWat } = await wabt()
    const { buffer } = parseWat(source, readFileSync(source, 'utf8'), { simd: true }).toBinary({})
    const made = await import(resolve(source.replace('.wat', 'Kernel.ts'))) as Record<string, Uint8Array>
    expect(Object.values(made)).toEqual([buffer])
  })
})
