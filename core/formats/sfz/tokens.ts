import { EmporionError } from '../../errors'
import type { NotCarried } from '../zones/zone'

/** What an SFZ text is made of once directives and comments are resolved. */
export type SfzToken =
  | { readonly type: 'header', readonly name: string }
  | { readonly type: 'opcode', readonly name: string, readonly value: string }

/** Gives the text of an included file by its path as written, or undefined where there is none. */
export type Include = (path: string) => string | undefined

const DEEPEST_INCLUDE = 16
const MOST_INCLUDES = 512
const MOST_TOKENS = 1_000_000
const LONGEST_TEXT = 32_000_000
const LONGEST_LINE = 100_000

const HEADER = /<(\w+)>/y
const OPCODE = /([A-Za-z_][\w$]*)[^\S\r\n]*=/y
const DEFINE = /#define\s+\$(\w+)\s+(\S+)/y
const WORD = /\S+/y
const INCLUDE = /#include\s+"([^"]*)"/y
/** Where a value ends: before the next opcode, header or directive. Spaces may stand before its `=`, but not in a path or a name, which may hold such words. */
const NEXT = /(?<!\s)\s+(?=[A-Za-z_$][\w$]*\s*=)|(?=<\w+>)|(?<!\s)\s+(?=#(?:define|include)\b)/g
const NEXT_AFTER_TEXT = /(?<!\s)\s+(?=[A-Za-z_$][\w$]*=)|(?=<\w+>)|(?<!\s)\s+(?=#(?:define|include)\b)/g
const TEXTS = /^(sample|default_path|\w+_label|sw_label|label_\w+)$/

/** Goes through texts and what they include, counting what it met, so that no text runs away. */
class Lexer {
  private readonly defines = new Map<string, string>()
  private names: string[] = []
  private tokens = 0
  private includes = 0
  private length = 0

  constructor(private readonly include: Include, private readonly problems: NotCarried[]) {}

  *run(text: string, path: string, within: readonly string[]): Generator<SfzToken> {
    this.length += text.length
    if (this.length > LONGEST_TEXT) throw new EmporionError('limit', `The SFZ text has more than ${LONGEST_TEXT / 1e6} million characters with what it includes.`)
    let where = 0
    for (const line of withoutComments(text).split(/\r\n|\r|\n/)) {
      where++
      if (line.length > LONGEST_LINE) throw new EmporionError('unreadable', `Line ${where} of ${path} is longer than ${LONGEST_LINE} characters: this is no SFZ text.`)
      yield* this.line(line, `${path}, line ${where}`, [...within, path])
    }
  }

  private *line(line: string, where: string, within: readonly string[]): Generator<SfzToken> {
    let at = 0
    while (at < line.length) {
      if (/\s/.test(line[at]!)) {
        at++
        continue
      }
      const define = match(DEFINE, line, at)
      if (define) {
        this.defines.set(define[1]!, this.filled(define[2]!))
        this.names = [...this.defines.keys()].sort((a, b) => b.length - a.length)
        at += define[0].length
        continue
      }
      const include = match(INCLUDE, line, at)
      if (include) {
        yield* this.included(this.filled(include[1]!), where, within)
        at += include[0].length
        continue
      }
      const header = match(HEADER, line, at)
      const opcode = header ? undefined : match(OPCODE, line, at)
      if (header) yield this.counted({ type: 'header', name: header[1]!.toLowerCase() })
      if (opcode) {
        const from = at + opcode[0].length
        const end = endOfValue(line, from, TEXTS.test(opcode[1]!.toLowerCase()) ? NEXT_AFTER_TEXT : NEXT)
        yield this.counted({ type: 'opcode', name: this.filled(opcode[1]!).toLowerCase(), value: this.filled(line.slice(from, end).trim()) })
        at = end
      }
      else if (header) at += header[0].length
      else {
        const [word] = match(WORD, line, at)!
        this.problems.push({ where, what: `"${word.slice(0, 60)}" is neither a header nor an opcode, and was passed over.` })
        at += word.length
      }
    }
  }

  private *included(path: string, where: string, within: readonly string[]): Generator<SfzToken> {
    const warn = (what: string) => void this.problems.push({ where, what })
    if (within.includes(path)) return warn(`"${path}" includes itself, and was not included again.`)
    if (within.length >= DEEPEST_INCLUDE) return warn(`"${path}" is included more than ${DEEPEST_INCLUDE} files deep, and was left out.`)
    if (++this.includes > MOST_INCLUDES) throw new EmporionError('limit', `The SFZ text includes more than ${MOST_INCLUDES} files.`)
    const text = this.include(path)
    if (text === undefined) return warn(`"${path}" is to be included, but it is not there.`)
    yield* this.run(text, path, within)
  }

  private counted(token: SfzToken): SfzToken {
    if (++this.tokens > MOST_TOKENS) throw new EmporionError('limit', `The SFZ text has more than ${MOST_TOKENS / 1e6} million headers and opcodes.`)
    return token
  }

  /** Puts what is defined in the place of its names, the longest name that fits first. */
  private filled(text: string): string {
    if (!text.includes('$')) return text
    return text.replace(/\$(\w+)/g, (whole, word: string) => {
      const name = this.names.find(known => word.startsWith(known))
      return name === undefined ? whole : `${this.defines.get(name)!}${word.slice(name.length)}`
    })
  }
}

/**
 * Reads an SFZ text into headers and opcodes: comments are taken out, `#define` and `#include` are followed.
 * Source: SFZ v1 opcodes (references.md), and `#define` and `#include` as later players have them (common practice).
 *
 * @param problems what could not be followed is put here
 * @throws EmporionError `limit` or `unreadable` for a text that is none, or that is made to run away
 */
export function sfzTokens(text: string, path: string, include: Include, problems: NotCarried[]): Generator<SfzToken> {
  return new Lexer(include, problems).run(text, path, [])
}

function match(pattern: RegExp, line: string, at: number): RegExpExecArray | undefined {
  pattern.lastIndex = at
  return pattern.exec(line) ?? undefined
}

function endOfValue(line: string, from: number, next: RegExp): number {
  next.lastIndex = from
  return next.exec(line)?.index ?? line.length
}

/** Whichever begins first holds what looks like the other. */
const COMMENT = /\/\/[^\r\n]*|\/\*[\s\S]*?(?:\*\/|$)/g

/** Comments become nothing; lines stay where they are. */
function withoutComments(text: string): string {
  return text.replace(COMMENT, comment => comment.replace(/[^\r\n]/g, ''))
}
