import { fold } from './tokens'

/** One part of a name and what it was understood to be. */
export interface NamePart {
  /** As it stands in the name. */
  readonly text: string
  readonly means: 'velocity' | 'take' | 'tempo' | 'note' | 'key' | 'number'
}

/** What the name of a file says beside its kind. */
export interface NameFacts {
  readonly parts: readonly NamePart[]
  /** Loudness of the stroke: place on a scale of its own, lower is softer. */
  readonly velocity?: number
  /** Which of several equal strokes it is. */
  readonly take?: number
  readonly bpm?: number
  /** A note name, as written: makers differ in what C3 is. */
  readonly note?: string
  /** A key, as written: "Amin", "C#maj". */
  readonly key?: string
  /**
   * The name without its velocity and take: strokes of one instrument share it. Undefined where the name has neither,
   * since numbers alone (`Kick 07`) count sounds and not strokes.
   */
  readonly family?: string
}

/** Strokes from soft to loud as people write them (common practice). */
const DYNAMICS: Readonly<Record<string, number>> = {
  ghost: 8, ppp: 16, pp: 33, pianissimo: 33, low: 40, lo: 40, p: 49, soft: 49, mp: 64, mid: 72, med: 72, medium: 72, mf: 80, mezzoforte: 80, f: 96, forte: 96,
  hard: 104, loud: 104, high: 108, hi: 108, ff: 112, fortissimo: 112, accent: 116, fff: 126,
}

interface Pattern {
  readonly means: NamePart['means']
  readonly at: RegExp
}

const END = String.raw`(?![\p{L}\p{N}#])`

const part = (means: NamePart['means'], body: string): Pattern => ({ means, at: new RegExp(`(?:${body})${END}`, 'giu') })

/** Strokes that are hardly anything else, so that a number may follow at once: `Soft2` is the second take of the soft one. */
const STROKES = 'ghost|ppp|pp|pianissimo|soft|mp|medium|med|mf|mezzoforte|forte|hard|loud|ff|fortissimo|accent|fff'
/** How velocity is written before its number, where takes are `r2`. */
const BESIDE_TAKE = String.raw`(?:v|vel|vl|l|lyr)[\s_-]?\d{1,3}`

/** In the order in which they claim their part of the name. */
const PATTERNS: readonly Pattern[] = [
  part('tempo', String.raw`\d{2,3}(?:\.\d{1,2})?[\s_-]?bpm|bpm[\s_-]?\d{2,3}(?:\.\d{1,2})?`),
  part('take', String.raw`(?:rr|round[\s_-]?robin|take|tk|alt|hit|stroke|variation|var)[\s_-]?\d{1,3}`),
  part('take', String.raw`(?<=(?<![\p{L}\p{N}])${BESIDE_TAKE}[\s_-])r\d{1,2}|r\d{1,2}(?=[\s_-]${BESIDE_TAKE}${END})`),
  part('velocity', String.raw`(?:v|vel|vl|velocity|dyn|layer|lyr)[\s_-]?\d{1,3}|l\d{1,3}(?=[\s_-]r\d{1,2}${END})|(?<=r\d{1,2}[\s_-])l\d{1,3}`),
  part('velocity', String.raw`(?:low|lo|mid|med|high|hi)[\s_-]?vel(?:ocity)?|vel(?:ocity)?[\s_-]?(?:low|lo|mid|med|high|hi)`),
  part('velocity', `p|f|${STROKES}`),
  { means: 'velocity', at: new RegExp(String.raw`(?:${STROKES})(?=\d{1,2}${END})`, 'giu') },
  // Between a low and a high one "mid" is a drum; behind a number, or in brackets, it is a stroke.
  part('velocity', String.raw`(?<=\d[\s_-]|[([])mid`),
  part('key', String.raw`[A-G](?:#|b|sharp|flat)?[\s_-]?(?:minor|major|min|maj)`),
  { means: 'key', at: new RegExp(`[A-G][#b]?m${END}`, 'gu') },
  part('note', String.raw`[A-G](?:#|b|s)?-?\d`),
  part('number', String.raw`\d+`),
]

/** What tells strokes of one instrument apart. */
const MARKS_FAMILY = new Set<NamePart['means']>(['velocity', 'take'])

/** The other end of a range of tempos: a number of two digits or three, and a sign between it and this one. */
const RANGE_BEFORE = /(?<!\d)\d{2,3}\s*(?:[-–]|to)\s*$/u
const RANGE_AFTER = /^\s*(?:[-–]|to)\s*\d{2,3}(?!\d)/u

/** Words that count sounds as often as strokes of one: of a file that is called nothing else, they say nothing. */
const MAY_COUNT = /^(?:hit|stroke|alt|var)/i

interface Claim {
  readonly from: number
  readonly to: number
  readonly means: NamePart['means']
  readonly text: string
}

/**
 * Reads the markers in a file's name: strokes, takes, tempo, notes, numbers.
 *
 * @param path relative, with `/` between its parts; the family is told apart by folder as well
 */
export function readName(path: string): NameFacts {
  const slash = path.lastIndexOf('/')
  const stem = path.slice(slash + 1).replace(/\.[^.]*$/, '').normalize('NFC')
  const claims = claimsIn(stem)
  const first = (means: NamePart['means']) => claims.find(entry => entry.means === means)?.text
  const [velocity, take, tempo] = [first('velocity'), first('take'), first('tempo')]
  const isStroke = claims.some(entry => MARKS_FAMILY.has(entry.means))
  return {
    parts: claims.map(({ text, means }) => ({ text, means })),
    ...(velocity !== undefined ? { velocity: DYNAMICS[fold(velocity).replace(/[\s_-]?vel(?:ocity)?[\s_-]?/, '')] ?? numberIn(velocity) } : {}),
    ...(take !== undefined ? { take: numberIn(take) } : {}),
    ...(tempo !== undefined ? { bpm: numberIn(tempo) } : {}),
    ...(first('note') !== undefined ? { note: first('note') } : {}),
    ...(first('key') !== undefined ? { key: first('key') } : {}),
    ...(isStroke ? { family: `${fold(path.slice(0, slash + 1))}${fold(cut(stem, claims)).replace(/[^\p{L}\p{N}#]+/gu, ' ').trim()}` } : {}),
  }
}

/** The tempo that a name states by its word, as "124 bpm", of a file without its ending, or of a folder; of "90-100 bpm" none. */
export function statedTempo(name: string): { readonly bpm: number, readonly text: string } | undefined {
  const text = name.normalize('NFC')
  const claim = claimsIn(text).find(entry => entry.means === 'tempo')
  return claim && !RANGE_BEFORE.test(text.slice(0, claim.from)) && !RANGE_AFTER.test(text.slice(claim.to)) ? { bpm: numberIn(claim.text), text: claim.text } : undefined
}

/** The numbers of a name that nothing else is known of, as they are written. */
export function statedNumbers(name: string): string[] {
  return claimsIn(name.normalize('NFC')).filter(entry => entry.means === 'number').map(entry => entry.text)
}

/** A name, of a file without its ending, without its velocity and take: what strokes of one instrument share. Empty where it says nothing else. */
export function withoutMarks(name: string): string {
  return cut(name, claimsIn(name)).replace(/[\s_.()[\]-]*\s[\s_.()[\]-]*/g, ' ').trim()
}

function cut(stem: string, claims: readonly Claim[]): string {
  let out = ''
  let at = 0
  for (const { from, to } of claims.filter(entry => MARKS_FAMILY.has(entry.means))) {
    out += `${stem.slice(at, from)} `
    at = to
  }
  return out + stem.slice(at)
}

function claimsIn(stem: string): Claim[] {
  const claims: Claim[] = []
  for (const { means, at } of PATTERNS) {
    for (const match of stem.matchAll(at)) {
      const [from, to] = [match.index, match.index + match[0].length]
      if (beginsPart(stem, from) && claims.every(other => to <= other.from || from >= other.to)) claims.push({ from, to, means, text: match[0] })
    }
  }
  claims.sort((a, b) => a.from - b.from)
  return withoutFirstWord(stem, claims).map((claim, i, all) => {
    const before = all[i - 1]
    return claim.means === 'number' && before?.means === 'velocity' && before.to === claim.from ? { ...claim, means: 'take' } : claim
  })
}

/** A first word is what the sound is called, whatever it may mean further on (`Hard Kick`), but where strokes are all that the name tells: `v3_rr2`. */
function withoutFirstWord(stem: string, claims: readonly Claim[]): readonly Claim[] {
  const [first, ...others] = claims
  if (!first || first.from > 0 || !MARKS_FAMILY.has(first.means)) return claims
  const rest = claims.reduceRight((text, { from, to }) => text.slice(0, from) + text.slice(to), stem)
  return /[\p{L}\p{N}]/u.test(rest) || MAY_COUNT.test(first.text) ? others : claims
}

/** A part begins at the name's start, at a sign, or where letters change to capitals, to digits, or digits to letters. */
function beginsPart(stem: string, at: number): boolean {
  if (at === 0) return true
  const [before, after] = [stem.slice(0, at), stem.slice(at)]
  return /[^\p{L}\p{N}]$/u.test(before) || (/\p{Ll}$/u.test(before) && /^\p{Lu}/u.test(after)) || (/\d$/.test(before) && /^\p{L}/u.test(after)) || (/\p{L}$/u.test(before) && /^\d/.test(after))
}

function numberIn(text: string): number {
  return Number(/\d+(?:\.\d+)?/.exec(text)?.[0] ?? 0)
}
