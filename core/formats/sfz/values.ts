import { parseNote } from '../../audio/notes'

/** No opcode means more than this; what was multiplied of larger ones would not be finite. */
const LARGEST = 1e9

/** The opcodes of one region, read as numbers, notes and words; what was asked for is known to be understood. */
export class Opcodes {
  private readonly asked = new Set<string>()

  constructor(private readonly all: ReadonlyMap<string, string>) {}

  text(...names: readonly string[]): string | undefined {
    for (const name of names) this.asked.add(name)
    return names.map(name => this.all.get(name)).find(value => value !== undefined)
  }

  /** The first of these that is a number. */
  number(...names: readonly string[]): number | undefined {
    for (const name of names) this.asked.add(name)
    const found = names.map(name => Number.parseFloat(this.all.get(name) ?? '')).find(value => Number.isFinite(value))
    return found === undefined ? undefined : bounded(found)
  }

  /** A note by its number or its name; 60 is C4 in SFZ. */
  note(name: string): number | undefined {
    const text = this.text(name)
    if (text === undefined) return undefined
    const number = Number(text)
    return Number.isFinite(number) ? bounded(Math.trunc(number)) : parseNote(text, 'C4')
  }

  /** Names that match a pattern. */
  matching(pattern: RegExp): string[] {
    return [...this.all.keys()].filter(name => pattern.test(name))
  }

  /** Names of all that was not asked for. */
  get rest(): string[] {
    return [...this.all.keys()].filter(name => !this.asked.has(name))
  }
}

/** Within what an opcode can mean; without a negative zero. */
function bounded(value: number): number {
  return value === 0 ? 0 : Math.max(-LARGEST, Math.min(LARGEST, value))
}
