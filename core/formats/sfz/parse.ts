import { EmporionError } from '../../errors'
import type { NotCarried } from '../zones/zone'
import { sfzTokens, type Include } from './tokens'

/** A region with all that it inherits, its opcodes by their names in small letters. */
export interface SfzRegion {
  readonly opcodes: ReadonlyMap<string, string>
  /** What is put before the paths of its samples. */
  readonly defaultPath: string
  /** Added to every note, from `<control>`. */
  readonly noteOffset: number
}

export interface SfzFile {
  readonly regions: readonly SfzRegion[]
  /** What was not understood on this level: headers, opcodes of `<control>`, broken directives. */
  readonly notCarried: readonly NotCarried[]
}

/** Headers that hand their opcodes down, from the widest to the region itself. */
const LEVELS = ['global', 'master', 'group', 'region'] as const
const CONTROL = new Set(['default_path', 'note_offset', 'octave_offset'])
/** Of what a player shows or sets beforehand, without effect on what a region sounds like by itself. */
const MUTE_CONTROL = /^(label_|set_|hint_)/
const KEY_SETS = ['lokey', 'hikey', 'pitch_keycenter'] as const
const MOST_REGIONS = 20_000

/**
 * Reads the structure of an SFZ file: regions with what they inherit from `<group>`, `<master>` and `<global>`.
 * Source: SFZ v1 opcodes (references.md); `<master>` and `<control>` as later players have them (common practice).
 *
 * @throws EmporionError `unreadable` when there is no region in it, `limit` for one made to run away
 */
export function parseSfz(text: string, path: string, include: Include = () => undefined): SfzFile {
  const notCarried: NotCarried[] = []
  const held = LEVELS.map(() => new Map<string, string>())
  const control = new Map<string, string>()
  const regions: SfzRegion[] = []
  const others = new Map<string, number>()
  let level = -1
  let header = ''
  const set = (name: string, value: string) => {
    held[level]!.set(name, value)
    // `key` is a short form of these, and stands against those that were handed down. Source: SFZ v1, `key`.
    if (name === 'key') for (const short of KEY_SETS) held[level]!.set(short, value)
  }
  const finish = () => {
    if (level !== 3) return
    if (regions.length >= MOST_REGIONS) throw new EmporionError('limit', `The SFZ file has more than ${MOST_REGIONS} regions.`)
    const opcodes = new Map(held[0])
    for (const map of held.slice(1)) for (const [name, value] of map) opcodes.set(name, value)
    regions.push({
      opcodes,
      defaultPath: control.get('default_path') ?? '',
      noteOffset: whole(control.get('note_offset')) + 12 * whole(control.get('octave_offset')),
    })
  }
  for (const token of sfzTokens(text, path, include, notCarried)) {
    if (token.type === 'header') {
      finish()
      header = token.name
      level = LEVELS.findIndex(name => name === header)
      if (level >= 0) for (const map of held.slice(level)) map.clear()
      else if (header !== 'control') others.set(`<${header}>`, (others.get(`<${header}>`) ?? 0) + 1)
    }
    else if (level >= 0) set(token.name, token.value)
    else if (header === 'control') {
      if (CONTROL.has(token.name)) control.set(token.name, token.value)
      else if (!MUTE_CONTROL.test(token.name)) others.set(token.name, (others.get(token.name) ?? 0) + 1)
    }
    else if (header === '') others.set(token.name, (others.get(token.name) ?? 0) + 1)
  }
  finish()
  if (regions.length === 0) throw new EmporionError('unreadable', { what: `${path} holds no <region>, so there is nothing to play in it.`, next: 'Choose an SFZ file with regions.' })
  for (const [name, count] of others) notCarried.push({ where: name, what: `${name} is not understood${count > 1 ? ` (${count} times)` : ''}, and was left out.` })
  return { regions, notCarried }
}

function whole(text: string | undefined): number {
  const value = Number(text)
  return Number.isFinite(value) ? Math.trunc(value) : 0
}
