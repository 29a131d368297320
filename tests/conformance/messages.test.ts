import { describe, expect, it } from 'vitest'
import { filesOfWords, LONG_NAME, messagesOf, type Rendered } from '../helpers/messages'

const AREAS = ['app', 'contract', 'core', 'server', 'cli', 'demo']
const PLURALS = 'hits|sounds|pads|samples|files|kits|layers|notes|bars|beats|presets|sources|folders|octaves|steps|slices|zones|regions|takes|tags|patterns|parts|groups|voices|banks|targets|points|alternates|turns|lines|names|copies|minutes|seconds|settings|things|searches|favourites'

/** What is wrong with a text as a person reads it. */
const FAULTS: readonly (readonly [what: string, pattern: RegExp])[] = [
  ['a count of one with a plural', new RegExp(`(?<![\\d.,])\\b1 (?:(?!million)\\w+ )?(?:${PLURALS})\\b`)],
  ['a count of none or two with a singular', new RegExp(`(?<![\\d.,])\\b[02] (?:${PLURALS.replaceAll('ies|', 'y|').replaceAll('s|', '|').replace(/s$/, '')})\\b(?! (?:${PLURALS}))`)],
  ['one that are', /(?<![\d.,])\b1 [a-z]+ (?:are|were|have|do|lie|need|differ)\b/],
  ['several that is', /(?<![\d.,])\b[02] [a-z]+s (?:is|was|has|does|lies|needs|differs)\b/],
  ['two spaces', / {2}/],
  ['a space before a mark', /\w [.,;!?](?:\s|$)/],
  ['two full stops', /[^.]\.\.(?:\s|$)/],
  ['an empty place', /\(\)|""|: \.|undefined|NaN|\[object/],
  ['words of no one', /\b(?:at hand|as they came|of now|what becomes of|in some way|is told|are told|is said|are said|took place)\b/i],
]

/** Columns set out with spaces, and code of another language. */
const isNoProse = (text: string): boolean => text.startsWith('<') || text.startsWith('(Get-') || /\d? {3}| {2}"|^ |^\S+ {2}\S+$| {2}.* {2}/.test(text) || text.replaceAll(LONG_NAME, '').trim().length < 4
const isWhole = (text: string): boolean => (/^(?:["“(A-Z0-9-]|\w+\.json )/.test(text) || text.startsWith(LONG_NAME)) && (/[.?!…:]["”)]?$/.test(text) || text.endsWith(LONG_NAME))

const rendered = (count: number): Rendered[] => AREAS.flatMap(area => filesOfWords([area])).flatMap(path => messagesOf(path, count))

/** Sentences long enough to be changed in one place and forgotten in the other. */
function writtenTwice(all: readonly Rendered[]): string[] {
  const filesBySentence = new Map<string, Set<string>>()
  for (const { place, text } of all) {
    const own = text.replaceAll(LONG_NAME, '')
    if (!own.endsWith('.') || (own.match(/\p{L}{2,}/gu)?.length ?? 0) < 5) continue
    filesBySentence.set(text, (filesBySentence.get(text) ?? new Set()).add(place.slice(0, place.indexOf(':'))))
  }
  return [...filesBySentence].flatMap(([text, files]) => files.size > 1 ? [`${[...files].join(', ')}: ${text}`] : [])
}

describe.each([0, 1, 2])('every message, with %i of each thing and long names', (count) => {
  const all = rendered(count)

  it('is found by the hundred', () => {
    expect(all.length).toBeGreaterThan(1500)
    expect(all.filter(({ sentence }) => sentence).length).toBeGreaterThan(250)
  })

  it.each(FAULTS)('has not %s', (_what, pattern) => {
    expect(all.filter(({ text }) => pattern.test(text) && !isNoProse(text)).map(({ place, text }) => `${place}: ${text}`)).toEqual([])
  })

  it('is written in one place', () => {
    expect(writtenTwice(all)).toEqual([])
  })

  it('is a sentence where it stands alone', () => {
    expect(all.filter(({ text, sentence }) => sentence && !isWhole(text)).map(({ place, text }) => `${place}: ${text}`)).toEqual([])
  })
})
