import { percussionKeyOf } from '../kit/percussionMap'
import { kindLabel } from '../search/kinds'
import { barTicks, PATTERN_SCHEMA_VERSION, STRAIGHT, type Metre, type Part, type Pattern, type Swing } from './document'

/** A pattern as it is written down by hand. */
export interface WrittenPattern {
  readonly name: string
  readonly folder: string
  readonly tags: readonly string[]
  readonly tempoBpm: number
  readonly bars: number
  readonly metre?: Metre
  readonly swing?: Swing
  /** Steps of a bar; without it 16. */
  readonly steps?: number
  /** For each kind a line of steps: `.` is a rest, 1 to 9 a hit from soft to full. A short line is repeated; spaces count for nothing. */
  readonly lines: Readonly<Record<string, string>>
}

/** A digit's velocity: 9 is 127. */
function velocityOf(digit: number): number {
  return Math.round(digit * 127 / 9)
}

/** Makes the document of a pattern that is written in lines. */
export function patternFromSteps({ name, tempoBpm, bars, metre = { beats: 4, unit: 4 }, swing = STRAIGHT, steps = 16, lines }: WrittenPattern): Pattern {
  const step = barTicks(metre) / steps
  const parts = Object.entries(lines).map(([role, line], i): Part => {
    const signs = line.replaceAll(' ', '')
    return {
      id: `part-${i + 1}`,
      name: kindLabel(role),
      role,
      note: percussionKeyOf(role) ?? 60 + i,
      hits: Array.from({ length: steps * bars }, (_, at) => ({ at, digit: Number(signs[at % signs.length]!.replace('.', '0')) }))
        .filter(({ digit }) => digit > 0)
        .map(({ at, digit }) => ({ tick: Math.round(at * step), velocity: velocityOf(digit), length: Math.round(step / 2) })),
    }
  })
  return { schema: PATTERN_SCHEMA_VERSION, name, tempoBpm, metre, bars, swing, parts }
}
