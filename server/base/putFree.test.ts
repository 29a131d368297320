import { mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { numbered, putFree } from './putFree'

function folders(): { work: string, target: string } {
  const root = mkdtempSync(join(tmpdir(), 'emporion-put-'))
  for (const name of ['work', 'target']) mkdirSync(join(root, name))
  return { work: join(root, 'work'), target: join(root, 'target') }
}

const NUMBERS = Array.from({ length: 12 }, (_, i) => i)

describe('names for what is put into a folder', () => {
  it('files that come at once each get their own, and what is there stays', async () => {
    const { work, target } = folders()
    writeFileSync(join(target, 'MIX.wav'), 'older')
    for (const i of NUMBERS) writeFileSync(join(work, `${i}`), `${i}`)
    const names = await Promise.all(NUMBERS.map(i => putFree(join(work, `${i}`), target, numbered('Mix', '.wav'), false)))
    expect(new Set(names)).toEqual(new Set(NUMBERS.map(i => `Mix ${i + 2}.wav`)))
    expect(names.map(name => readFileSync(join(target, name), 'utf8'))).toEqual(NUMBERS.map(String))
    expect(readFileSync(join(target, 'MIX.wav'), 'utf8')).toBe('older')
    expect(readdirSync(work)).toEqual([])
  })

  it('so do folders', async () => {
    const { work, target } = folders()
    for (const i of NUMBERS) {
      mkdirSync(join(work, `${i}`))
      writeFileSync(join(work, `${i}`, 'stem.wav'), `${i}`)
    }
    const names = await Promise.all(NUMBERS.map(i => putFree(join(work, `${i}`), target, numbered('Stems'), true)))
    expect(names.map(name => readFileSync(join(target, name, 'stem.wav'), 'utf8'))).toEqual(NUMBERS.map(String))
    expect(readdirSync(work)).toEqual([])
  })

  it('what cannot be put there says why', async () => {
    const { work, target } = folders()
    await expect(putFree(join(work, 'nothing'), target, numbered('Mix', '.wav'), false)).rejects.toThrow('ENOENT')
    expect(readdirSync(target)).toEqual([])
  })
})
