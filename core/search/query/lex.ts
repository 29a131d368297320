/** A piece of a search text. */
export interface Lexeme {
  readonly type: 'open' | 'close' | 'not' | 'or' | 'phrase' | 'plain'
  /** Without the quotation marks of a phrase; a plain one as it stands. */
  readonly text: string
  readonly from: number
  readonly to: number
}

const CONDITION = /^([a-z]+)(<=|>=|=|<|>)/i

/**
 * Cuts a search text at spaces and brackets; within quotation marks nothing is cut. A mark that is not closed reaches to the
 * end, as it does while somebody types.
 */
export function lex(text: string): Lexeme[] {
  const found: Lexeme[] = []
  let at = 0
  while (at < text.length) {
    const sign = text[at]!
    if (/\s/.test(sign)) at++
    else if (sign === '(' || sign === ')') {
      found.push({ type: sign === '(' ? 'open' : 'close', text: sign, from: at, to: at + 1 })
      at++
    }
    else if (sign === '-' && !/[\s)]/.test(text[at + 1] ?? ' ')) {
      found.push({ type: 'not', text: sign, from: at, to: at + 1 })
      at++
    }
    else if (sign === '"') {
      const to = endOfQuote(text, at)
      found.push({ type: 'phrase', text: unquoted(text.slice(at, to)), from: at, to })
      at = to
    }
    else {
      const to = endOfPlain(text, at)
      const piece = text.slice(at, to)
      found.push({ type: piece.toLowerCase() === 'or' ? 'or' : 'plain', text: piece, from: at, to })
      at = to
    }
  }
  return found
}

/** The name, the sign and the value of a condition; undefined for a plain word. */
export function conditionIn(text: string): { name: string, sign: string, value: string, valueFrom: number } | undefined {
  const match = CONDITION.exec(text)
  if (!match) return undefined
  return { name: match[1]!.toLowerCase(), sign: match[2]!, value: text.slice(match[0].length), valueFrom: match[0].length }
}

/** A text between quotation marks without them. */
export function unquoted(text: string): string {
  return text.startsWith('"') ? text.slice(1, text.length > 1 && text.endsWith('"') ? -1 : undefined) : text
}

/** A value as it is written in a condition: in quotation marks where a space or sign would end it. */
export function quoted(value: string): string {
  return value !== '' && /^[^\s()",-][^\s()",]*$/.test(value) && value.toLowerCase() !== 'or' ? value : `"${value.replaceAll('"', '')}"`
}

/** Values parted by commas outside quotation marks, with where each stands in the text. */
export function valuesIn(text: string): { value: string, from: number, to: number }[] {
  const found: { value: string, from: number, to: number }[] = []
  let from = 0
  let isQuoted = false
  for (let at = 0; at <= text.length; at++) {
    if (text[at] === '"') isQuoted = !isQuoted
    if (at < text.length && (isQuoted || text[at] !== ',')) continue
    found.push({ value: unquoted(text.slice(from, at)), from, to: at })
    from = at + 1
  }
  return found
}

function endOfQuote(text: string, from: number): number {
  const end = text.indexOf('"', from + 1)
  return end < 0 ? text.length : end + 1
}

function endOfPlain(text: string, from: number): number {
  const isCondition = CONDITION.test(text.slice(from, from + 24))
  let at = from
  while (at < text.length && !/[\s()]/.test(text[at]!)) {
    if (text[at] === '"') {
      if (!isCondition) break
      at = endOfQuote(text, at)
    }
    else at++
  }
  return at
}
