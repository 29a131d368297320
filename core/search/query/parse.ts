import type { MiddleC } from '../../audio/notes'
import { queryWords } from '../words'
import { FIELD_BY_NAME, FIELDS } from './fields'
import { conditionIn, lex, valuesIn, type Lexeme } from './lex'
import type { Query, QueryPart, QueryProblem, ReadQuery } from './tree'
import { isMisread, readRange, readValue } from './values'

/** Things asked at once, and brackets within brackets, that are looked at. */
const MOST_LEAVES = 100
const DEEPEST = 24

/**
 * Reads a search text. Things side by side must all be so; `or` joins its two neighbours alone, and so binds closer;
 * `-` before something asks that it is not so; brackets group. Never throws: what can't be understood is reported as a problem,
 * with its place.
 *
 * @param middleC which note names are meant
 */
export function parseQuery(text: string, middleC: MiddleC = 'C3'): ReadQuery {
  return new Parser(text, middleC).read()
}

class Parser {
  private readonly lexemes: readonly Lexeme[]
  private readonly problems: QueryProblem[] = []
  private at = 0
  private leaves = 0
  private depth = 0

  constructor(text: string, private readonly middleC: MiddleC) {
    this.lexemes = lex(text)
  }

  read(): ReadQuery {
    const parts: QueryPart[] = []
    while (this.at < this.lexemes.length) {
      const part = this.either()
      if (part) parts.push(part)
    }
    return { query: { type: 'all', of: parts.map(part => part.query) }, parts, problems: this.problems }
  }

  /** Something, or one of several joined by `or`. */
  private either(): QueryPart | undefined {
    const first = this.one()
    const others: QueryPart[] = []
    while (this.peek()?.type === 'or') {
      const or = this.next()
      const other = this.peek() && this.peek()!.type !== 'close' ? this.one() : undefined
      if (!first || !other) this.complain('"or" stands between two things. To look for the word itself, write "or" in quotation marks.', or)
      if (other) others.push(other)
    }
    if (!first || others.length === 0) return first ?? others[0]
    return { query: { type: 'any', of: [first, ...others].map(part => part.query) }, from: first.from, to: others.at(-1)!.to, isExcluded: false }
  }

  private one(): QueryPart | undefined {
    const lexeme = this.next()
    switch (lexeme.type) {
      case 'not': {
        const of = this.peek() && this.peek()!.type !== 'close' ? this.one() : undefined
        return of && { ...of, query: { type: 'not', of: of.query }, from: lexeme.from, isExcluded: !of.isExcluded }
      }
      case 'open':
        return this.group(lexeme)
      case 'close':
        this.complain('This bracket closes nothing.', lexeme)
        return undefined
      case 'or':
        this.complain('"or" stands between two things. To look for the word itself, write "or" in quotation marks.', lexeme)
        return undefined
      case 'phrase':
        return this.words(lexeme, true)
      default:
        return this.condition(lexeme) ?? this.words(lexeme, false)
    }
  }

  private group(open: Lexeme): QueryPart | undefined {
    const of: QueryPart[] = []
    if (++this.depth > DEEPEST) this.complain(`Brackets lie more than ${DEEPEST} deep.`, open)
    while (this.peek() && this.peek()!.type !== 'close' && this.depth <= DEEPEST) {
      const part = this.either()
      if (part) of.push(part)
    }
    this.depth--
    const close = this.peek()?.type === 'close' ? this.next() : undefined
    if (of.length === 0) return undefined
    const to = close?.to ?? of.at(-1)!.to
    return of.length === 1 ? { ...of[0]!, from: open.from, to } : { query: { type: 'all', of: of.map(part => part.query) }, from: open.from, to, isExcluded: false }
  }

  private words(lexeme: Lexeme, isPhrase: boolean): QueryPart | undefined {
    const words = queryWords(lexeme.text, isPhrase)
    if (words.length === 0) {
      if (!/^[-"\s]*$/.test(lexeme.text)) this.complain(`"${lexeme.text}" holds no letter or digit to look for.`, lexeme)
      return undefined
    }
    return this.leaf(lexeme, isPhrase ? { type: 'phrase', words } : allOf(words.map(word => ({ type: 'word', word }))))
  }

  private condition(lexeme: Lexeme): QueryPart | undefined {
    const condition = conditionIn(lexeme.text)
    if (!condition) return undefined
    const { sign, value, valueFrom } = condition
    const field = FIELD_BY_NAME.get(condition.name)
    const name = field?.name ?? condition.name
    if (!field) {
      this.complain(`There is no condition "${name}". There are ${FIELDS.map(known => known.name).join(', ')}. To look for the words, write them in quotation marks.`, lexeme)
      return this.nothing(lexeme, name)
    }
    if (field.takes !== 'number' && sign !== '=') {
      this.complain(`"${name}" has no order: write ${field.example}.`, lexeme)
      return this.nothing(lexeme, name)
    }
    const read = valuesIn(value).flatMap((part) => {
      const found = field.takes === 'number' ? readRange(field, sign, part.value, this.middleC) : readValue(field, part.value)
      if (!isMisread(found)) return [found]
      const from = lexeme.from + valueFrom + part.from
      this.problems.push({ message: found.problem, from: part.value === '' ? lexeme.from : from, to: lexeme.from + valueFrom + part.to })
      return []
    })
    return read.length === 0 ? this.nothing(lexeme, name) : this.leaf(lexeme, anyOf(read), name)
  }

  /** Stands in the line as it was written, and asks for nothing. */
  private nothing(lexeme: Lexeme, field: string): QueryPart {
    return { query: { type: 'all', of: [] }, from: lexeme.from, to: lexeme.to, field, isExcluded: false }
  }

  private leaf(lexeme: Lexeme, query: Query, field?: string): QueryPart | undefined {
    if (++this.leaves > MOST_LEAVES) {
      if (this.leaves === MOST_LEAVES + 1) this.complain(`More than ${MOST_LEAVES} things are asked at once.`, lexeme)
      return undefined
    }
    return { query, from: lexeme.from, to: lexeme.to, field, isExcluded: false }
  }

  private complain(message: string, { from, to }: Lexeme): void {
    this.problems.push({ message, from, to })
  }

  private peek(): Lexeme | undefined {
    return this.lexemes[this.at]
  }

  private next(): Lexeme {
    return this.lexemes[this.at++]!
  }
}

function allOf(of: readonly Query[]): Query {
  return of.length === 1 ? of[0]! : { type: 'all', of }
}

function anyOf(of: readonly Query[]): Query {
  return of.length === 1 ? of[0]! : { type: 'any', of }
}
