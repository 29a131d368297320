import { fold } from '../tokens'
import { KINDS } from '../kinds'
import { FIELD_BY_NAME, FIELDS, FLAG_NAMES, STATES } from './fields'
import { conditionIn, quoted } from './lex'

/** Words of this library that can be offered. */
export interface Vocabulary {
  readonly tags: readonly string[]
  readonly sources: readonly string[]
  readonly packs: readonly string[]
}

/** What the piece at the caret could become. */
export interface Completion {
  /** What stands in its place then. */
  readonly text: string
  readonly does: string
  /** False where more must follow, as after `length<`. */
  readonly isWhole: boolean
}

/** The piece of a text that a caret stands in or behind, without a `-` before it. */
export interface PieceAtCaret {
  readonly text: string
  readonly from: number
  readonly to: number
}

const MOST = 9

/** The piece of a text that ends at a caret: what is being typed. */
export function pieceAt(text: string, caret: number): PieceAtCaret {
  let from = caret
  let isQuoted = (text.slice(0, caret).match(/"/g)?.length ?? 0) % 2 === 1
  while (from > 0 && (isQuoted || !/[\s()]/.test(text[from - 1]!))) {
    from--
    if (text[from] === '"') isQuoted = !isQuoted
  }
  if (text[from] === '-' && from < caret) from++
  return { text: text.slice(from, caret), from, to: caret }
}

/** What is offered for a piece: values of its condition, or conditions and kinds that begin like it. */
export function completions(piece: string, vocabulary: Vocabulary): Completion[] {
  if (piece.startsWith('"')) return []
  const condition = conditionIn(piece)
  if (condition) return valuesFor(condition, vocabulary).slice(0, MOST)
  const typed = fold(piece)
  if (typed === '') return []
  const fields = FIELDS.filter(field => [field.name, ...field.also ?? []].some(name => name.startsWith(typed)) && field.takes !== 'sound')
    .map(field => ({ text: `${field.name}${field.takes === 'number' ? '' : '='}`, does: field.does, isWhole: false }))
  const kinds = KINDS.filter(kind => begins(kind.path, typed) || begins(kind.label, typed))
    .map(kind => ({ text: `kind=${kind.path}`, does: kind.label, isWhole: true }))
  const states = [...STATES.map(({ name }) => name), ...FLAG_NAMES].filter(name => name.startsWith(typed)).map(name => ({ text: `is=${name}`, does: stateDoes(name), isWhole: true }))
  const tags = vocabulary.tags.filter(tag => begins(tag, typed)).slice(0, 3).map(tag => ({ text: `tag=${quoted(tag)}`, does: 'tag', isWhole: true }))
  return [...fields.slice(0, 3), ...kinds.slice(0, 4), ...states.slice(0, 2), ...tags].slice(0, MOST)
}

function valuesFor({ name, sign, value }: { name: string, sign: string, value: string }, vocabulary: Vocabulary): Completion[] {
  const field = FIELD_BY_NAME.get(name)
  if (!field || sign !== '=') return []
  const comma = value.lastIndexOf(',') + 1
  const typed = fold(value.slice(comma).replaceAll('"', ''))
  const head = `${name}=${value.slice(0, comma)}`
  const offer = (values: readonly { value: string, does: string }[]) => values
    .filter(entry => begins(entry.value, typed) || begins(entry.does, typed)).map(entry => ({ text: head + quoted(entry.value), does: entry.does, isWhole: true }))
  switch (field.name) {
    case 'kind':
      return offer([...KINDS.map(kind => ({ value: kind.path, does: kind.label })), { value: 'unknown', does: 'Kind not known' }])
    case 'is':
      return offer([...STATES.map(({ name: state }) => state), ...FLAG_NAMES].map(state => ({ value: state, does: stateDoes(state) })))
    case 'tag':
      return offer(vocabulary.tags.map(tag => ({ value: tag, does: 'tag' })))
    case 'source':
      return offer(vocabulary.sources.map(source => ({ value: source, does: 'source' })))
    case 'pack':
    case 'in':
      return offer(vocabulary.packs.map(pack => ({ value: pack, does: 'pack' })))
    case 'channels':
      return offer(['mono', 'stereo'].map(channels => ({ value: channels, does: 'channels' })))
    case 'since':
      return offer([['today', 'the last day'], ['7d', 'the last week'], ['30d', 'the last month']].map(([since, does]) => ({ value: since!, does: does! })))
    default:
      return []
  }
}

function stateDoes(name: string): string {
  return STATES.find(state => state.name === name)?.does ?? 'a flag'
}

function begins(text: string, typed: string): boolean {
  return fold(text).split(/[\s./]+/).some(word => word.startsWith(typed)) || fold(text).startsWith(typed)
}
