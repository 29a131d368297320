import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { kindFromName } from '../../core/search/kindFromName'
import { KINDS } from '../../core/search/kinds'

/** By habit of naming: paths, each with its kind or "none". */
const HABITS = readFileSync(new URL('./names.txt', import.meta.url), 'utf8').split('\n# ').slice(1).map((section) => {
  const [habit, ...lines] = section.trim().split('\n')
  return { habit: habit!, names: lines.map(line => line.split(' = ') as [string, string]) }
})

describe('kinds from names, by the habits of naming (common practice)', () => {
  it.each(HABITS)('$habit', ({ names }) => {
    const wrong = names.flatMap(([path, kind]) => {
      const found = kindFromName(path)?.path ?? 'none'
      return found === kind ? [] : [`${path}: ${found}, not ${kind}`]
    })
    expect(names.length).toBeGreaterThan(5)
    expect(wrong).toEqual([])
  })

  it('the list holds kinds of the tree alone', () => {
    const paths = new Set(['none', ...KINDS.map(kind => kind.path)])
    for (const [path, kind] of HABITS.flatMap(({ names }) => names)) expect(paths.has(kind), path).toBe(true)
  })
})
