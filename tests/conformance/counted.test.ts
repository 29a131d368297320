import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { counted, listed, signed } from '../../core/wording'

const NOUNS = ['hit', 'sound', 'pad', 'sample', 'file', 'kit', 'layer', 'note', 'bar', 'beat', 'preset', 'source', 'folder', 'octave', 'step', 'slice', 'zone', 'region', 'take', 'tag', 'pattern', 'part', 'group', 'voice', 'bank', 'target', 'choice', 'point', 'alternate', 'turn']
/** A count in a sentence, followed by a noun in the plural: `${rows.length} sounds`. Constants are never 1. */
const BARE = new RegExp(`\\$\\{(?!counted\\()(?![A-Z_]+\\})[^{}]*(?:length|count|Count|size|total)[^{}]*\\} (?:${NOUNS.map(noun => `${noun}s`).join('|')})\\b`)
/** Where the same line sees to it that there are several. */
const SEEN_TO = /=== 1 \?|> 1 \?|> 1\)|> MOST|\.length > /

function sources(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter(entry => entry.isFile() && /\.(ts|vue)$/.test(entry.name) && !entry.name.endsWith('.test.ts'))
    .map(entry => join(entry.parentPath, entry.name))
}

describe('counted nouns', () => {
  it.each([[0, '0 hits'], [1, '1 hit'], [2, '2 hits'], [12_345, '12,345 hits']])('%i of them agree', (count, said) => {
    expect(counted(count, 'hit')).toBe(said)
  })

  it('lists end in "and", and count what they leave out; signs are shown', () => {
    expect(listed([])).toBe('')
    expect(listed(['A'])).toBe('A')
    expect(listed(['A', 'B', 'C', 'D'], 2)).toBe('A, B and 2 more')
    expect([signed(-2), signed(0), signed(3)]).toEqual(['-2', '0', '+3'])
  })

  it('are written through the helper wherever there may be one', () => {
    const bare = ['app', 'core', 'server', 'cli'].flatMap(sources).flatMap(path => readFileSync(path, 'utf8').split('\n').flatMap((line, i) => BARE.test(line) && !SEEN_TO.test(line) ? [`${path}:${i + 1}: ${line.trim().slice(0, 160)}`] : []))
    expect(bare).toEqual([])
  })
})
