import { parseNote } from '../../audio/notes'

/** No opcode means more than this; what was multiplied of larger ones would not be finite. */
const LARGEST = 1e9

/** The opcodes of one region, read as numbers, notes and words; what was asked for is known to be understood. */
export class Opcodes {
  private readonly asked = new Set<string>()

  constructor(private readonly all: ReadonlyMap<string, string>) {}

  text(...names: readonly string[]): string | undefined {
    let found: string | undefined
    for (const name of names) {
      this.asked.add(name)
      found ??= this.all.get(name)
    }
    return found
  }

  /** The first of these that is a number. */
  number(...names: readonly string[]): number | undefined {
    let found: number | undefined
    for (const name of names) {
      this.asked.add(name)
      const text = found === undefined ? this.all.get(name) : undefined
      const value = text === undefined ? NaN : Number.parseFloat(text)
      if (Number.isFinite(value)) found = bounded(value)
    }
    return found
  }

  /** A note by its number or its name; 60 is C4 in SFZ. */
  note(name: string): number | undefined {
    const text = this.text(name)
    if (text === undefined) return undefined
    const number = Number(text)
    return Number.isFinite(number) ? bounded(Math.trunc(number)) : parseNote(text, 'C4')
  }

  /** Names of something numbered, such as `locc20`, by what comes before the number. */
  numbered(before: string): string[] {
    let found: string[] | undefined
    for (const name of this.all.keys()) if (name.startsWith(before) && /^\d+$/.test(name.slice(before.length))) (found ??= []).push(name)
    return found ?? []
  }

  /** Names of all that was not asked for. */
  get rest(): string[] {
    const rest: string[] = []
    for (const name of this.all.keys()) if (!this.asked.has(name)) rest.push(name)
    return rest
  }
}

/** Within what an opcode can mean; without a negative zero. */
function bounded(value: number): number {
  return value === 0 ? 0 : Math.max(-LARGEST, Math.min(LARGEST, value))
}
