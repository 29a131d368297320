const LONGEST_NAME = 80
const RESERVED = /^(con|prn|aux|nul|com\d|lpt\d)$/i
const LETTERS: Readonly<Record<string, string>> = { ß: 'ss', æ: 'ae', Æ: 'AE', ø: 'o', Ø: 'O', œ: 'oe', Œ: 'OE', đ: 'd', ł: 'l', Ł: 'L', þ: 'th' }

/**
 * A name that any file system, archive and sampler takes: plain ASCII letters, digits, spaces and `-_.,+()`, no
 * reserved word, no leading or trailing dot or space, 80 characters at most. Accents are folded, other characters
 * become `_`.
 */
export function portableName(name: string, fallback: string): string {
  const ascii = name
    .replace(/[ßæÆøØœŒđłŁþ]/g, letter => LETTERS[letter]!)
    .normalize('NFKD').replace(/\p{M}/gu, '')
    .replace(/[^A-Za-z0-9 \-_.,+()]/g, '_')
    .replace(/ {2,}/g, ' ')
    .replace(/^[. ]+|[. ]+$/g, '')
    .slice(0, LONGEST_NAME)
    .replace(/[. ]+$/, '')
  const plain = /[A-Za-z0-9]/.test(ascii) ? ascii : fallback
  return RESERVED.test(plain.split('.')[0]!) ? `_${plain}` : plain
}

/** Hands out names that differ from each other even where upper and lower case count as one. */
export class UniqueNames {
  private readonly taken = new Set<string>()

  /** The portable form of `stem`, with a number behind it where it is taken; `extension` with its dot. */
  take(stem: string, extension: string, fallback: string): string {
    const base = portableName(stem, fallback)
    for (let i = 1; ; i++) {
      const name = `${i === 1 ? base : `${base} ${i}`}${extension}`
      if (!this.taken.has(name.toLowerCase())) {
        this.taken.add(name.toLowerCase())
        return name
      }
    }
  }
}
