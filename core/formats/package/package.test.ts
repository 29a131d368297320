import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { testSound } from '../../../tests/helpers/kit'
import { EmporionError } from '../../errors'
import { emptyKit } from '../../kit/document'
import { placeSounds } from '../../kit/edits'
import { bagProblems, manifestText, parseManifest, staysInside } from './bag'
import { readKitFile, writeKitFile } from './kitFile'
import { portableName, UniqueNames } from './names'

describe('portable names', () => {
  it('folds accents and replaces what some system refuses', () => {
    expect(portableName('Nachtfähre: Straße <1>', 'x')).toBe('Nachtfahre_ Strasse _1_')
    expect(portableName('con', 'x')).toBe('_con')
    expect(portableName('...', 'sample')).toBe('sample')
    expect(portableName('日本', 'sample')).toBe('sample')
  })

  it('are safe whatever the name, and unique even without regard to capitals', () => {
    fc.assert(fc.property(fc.array(fc.string({ unit: 'binary', maxLength: 150 }), { maxLength: 30 }), (stems) => {
      const names = new UniqueNames()
      const taken = stems.map(stem => names.take(stem, '.wav', 'sample'))
      expect(new Set(taken.map(name => name.toLowerCase())).size).toBe(stems.length)
      for (const name of taken) {
        expect(name).toMatch(/^[A-Za-z0-9_\-,+()][A-Za-z0-9 \-_.,+()]*\.wav$/)
        expect(name.length).toBeLessThan(100)
      }
    }))
  })
})

describe('manifests', () => {
  const hash = fc.stringMatching(/^[0-9a-f]{64}$/)

  it('read back as they were written, with any characters in paths', () => {
    fc.assert(fc.property(fc.dictionary(fc.string({ minLength: 1, maxLength: 30 }).map(name => `data/x${name.replace(/[/\\\0]|\.\.?$/g, '_').trimEnd()}y`), hash), (entries) => {
      const list = Object.entries(entries).map(([path, sha256]) => ({ path, sha256 }))
      expect([...parseManifest(manifestText(list))]).toEqual(list.map(({ path, sha256 }) => [path, sha256]))
    }))
  })

  it('refuse paths that leave the bag, and lines that are none', () => {
    const sum = 'a'.repeat(64)
    for (const path of ['../x', '/etc/passwd', 'data/../../x', 'C:\\x', 'data//x']) expect(() => parseManifest(`${sum}  ${path}\n`)).toThrow(EmporionError)
    expect(() => parseManifest('hello')).toThrow(/cannot be used/)
    expect(() => parseManifest(`${sum}  data/a\n${sum}  data/a\n`)).toThrow(/twice/)
  })

  it('tell missing, changed and added files', () => {
    const manifest = new Map([['data/a', '1'], ['data/b', '2'], ['data/c', '3']])
    expect(bagProblems(manifest, new Map([['data/a', '1'], ['data/b', 'x'], ['data/d', '4']]))).toEqual([
      'data/b is not what was stored: its contents have changed.', 'data/c is missing.', 'data/d is there but not listed.',
    ])
    expect(bagProblems(manifest, manifest)).toEqual([])
  })

  it('never call a path inside that is not', () => {
    fc.assert(fc.property(fc.string(), (path) => {
      if (staysInside(path)) expect(new URL(path.split(/[/\\]/).map(encodeURIComponent).join('/'), 'file:///bag/').pathname.startsWith('/bag/')).toBe(true)
    }))
  })
})

describe('kit.json', () => {
  const { kit } = placeSounds(emptyKit('Night deck'), 0, [testSound(1), testSound(2)])
  const samples = Object.fromEntries([testSound(1), testSound(2)].map(({ sound }, i) => [sound.id, { path: `samples/${i}.wav`, bytes: 10 }]))

  it('reads back as it was written', () => {
    expect(readKitFile(writeKitFile({ type: 'kit', kit, samples }))).toEqual({ type: 'kit', kit, samples })
  })

  it('must say where each sample lies, and only below its folder', () => {
    expect(() => readKitFile(writeKitFile({ type: 'kit', kit, samples: {} }))).toThrow(/Sound 1/)
    expect(() => readKitFile(writeKitFile({ type: 'kit', kit, samples: { ...samples, [testSound(1).sound.id]: { path: '../../etc/passwd', bytes: 1 } } }))).toThrow(/outside/)
  })

  it('ends damaged and random texts in a named error', () => {
    const whole = writeKitFile({ type: 'kit', kit, samples })
    fc.assert(fc.property(fc.oneof(fc.nat(whole.length - 2).map(length => whole.slice(0, length)), fc.string(), fc.json()), (text) => {
      expect(() => readKitFile(text)).toThrow(EmporionError)
    }))
  })
})
