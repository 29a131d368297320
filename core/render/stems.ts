import { kindOfPad } from '../groove/assign'
import type { PlayedPattern } from '../groove/played'
import { kindLabel, topKind } from '../search/kinds'
import type { Kit } from '../kit/document'
import { padLabel } from '../kit/padLabel'
import { NOTES } from '../kit/joinKits'
import { notesOf } from '../kit/noteEdits'
import { soundsOn } from '../kit/voices'
import { listed } from '../wording'

export const STEM_WAYS = ['pad', 'kind', 'output'] as const
export type StemWay = typeof STEM_WAYS[number]

/** One stem: what it is called, and what is known of it for its file's name. */
export interface Stem {
  readonly name: string
  readonly kind: string
  readonly pad: string
  readonly note: string
  /** The kit whose pads it is made of, or those, where several play. */
  readonly kit: string
}

/** Stems in the order of the kit, and the stem of each pad by its index; -1 for pads that are not played. */
export interface StemPlan {
  readonly stems: readonly Stem[]
  readonly of: readonly number[]
}

/**
 * Which stems a pattern on a kit comes apart into: one for each pad, kind or output that is played, in the order of the rows.
 *
 * @param kits names of the kits that were joined into this one; see `joinKits`
 */
export function planStems(kit: Kit, pattern: Pick<PlayedPattern, 'notes'>, way: StemWay, kits: readonly string[] = [kit.name]): StemPlan {
  const played = [...new Set(pattern.notes)]
  const stems: Stem[] = []
  const kitsOf: Set<string>[] = []
  const places = new Map<string, number>()
  const of = kit.pads.map((pad, index) => {
    if (pad.layers.length === 0 || !played.some(note => soundsOn(pad, note))) return -1
    const kind = kindOfPad(pad)
    const key = way === 'pad' ? String(index) : way === 'kind' ? topKind(kind ?? 'other') : pad.output
    const known = places.get(key)
    const kitNumber = Math.floor(pad.note / NOTES)
    const kitName = kits[kitNumber] ?? kit.name
    if (known !== undefined) {
      kitsOf[known]!.add(kitName)
      return known
    }
    const label = padLabel(index - kit.pads.findIndex(one => Math.floor(one.note / NOTES) === kitNumber))
    const kindWord = kind === null ? 'Other' : kindLabel(way === 'kind' ? topKind(kind) : kind)
    const output = kit.outputs.find(candidate => candidate.id === pad.output)?.name ?? pad.output
    stems.push({
      name: way === 'pad' ? pad.name || label : way === 'kind' ? kindWord : output,
      kind: way === 'output' ? '' : kindWord,
      pad: way === 'pad' ? label : '',
      note: way === 'pad' ? String(pad.note % NOTES) : '',
      kit: '',
    })
    kitsOf.push(new Set([kitName]))
    places.set(key, stems.length - 1)
    return stems.length - 1
  })
  return { stems: stems.map((stem, index) => ({ ...stem, kit: listed([...kitsOf[index]!]) })), of }
}

/** Frames that are mixed in the time that one is encoded and written. */
const MIXED_A_WRITTEN = 6

/**
 * Shares stems out among threads, so that each has about as much to do: what a stem costs is its length, and that of the sounds of
 * all its hits. The dearest first, each to whoever has least so far.
 *
 * @param frames length of the stems
 * @param shares how many threads there are; there may be fewer stems
 * @returns the stems of each, by their places in the plan
 */
export function shareStems(kit: Kit, { notes }: Pick<PlayedPattern, 'notes'>, plan: StemPlan, frames: number, shares: number): number[][] {
  const hits = new Map<number, number>()
  for (const note of notes) hits.set(note, (hits.get(note) ?? 0) + 1)
  const costs = plan.stems.map(() => frames * MIXED_A_WRITTEN)
  plan.of.forEach((stem, index) => {
    const pad = kit.pads[index]!
    if (stem >= 0) costs[stem]! += notesOf(pad).reduce((sum, note) => sum + (hits.get(note) ?? 0), 0) * Math.max(...pad.layers.map(layer => layer.endFrame - layer.startFrame))
  })
  const shared = Array.from({ length: Math.max(1, Math.min(shares, plan.stems.length)) }, () => ({ cost: 0, stems: [] as number[] }))
  for (const stem of [...costs.keys()].sort((a, b) => costs[b]! - costs[a]!)) {
    const least = shared.reduce((found, share) => share.cost < found.cost ? share : found)
    least.stems.push(stem)
    least.cost += costs[stem]!
  }
  return shared.map(share => share.stems.sort((a, b) => a - b))
}

/** What the name of an exported file can be made of. */
export const NAME_PARTS = ['number', 'pattern', 'kit', 'pad', 'name', 'kind', 'note', 'tempo'] as const
export type NamePart = typeof NAME_PARTS[number]

/** Parts that are words. One whose words another part contains is left out of the name. */
const WORDS: ReadonlySet<NamePart> = new Set(['pattern', 'kit', 'name', 'kind'])

/** The name of a stem's file, without its ending: those parts that are known, in the order that was chosen. */
export function stemFileName(parts: readonly NamePart[], stem: Stem, about: { readonly index: number, readonly count: number, readonly pattern: string, readonly bpm: number }): string {
  const words: Readonly<Record<NamePart, string>> = {
    number: String(about.index + 1).padStart(Math.max(2, String(about.count).length), '0'),
    pattern: about.pattern,
    kit: stem.kit,
    pad: stem.pad,
    name: stem.name,
    kind: stem.kind,
    note: stem.note,
    tempo: `${Number(about.bpm.toFixed(2))} BPM`,
  }
  const kept = parts.filter((part, at) => !WORDS.has(part) || !parts.some((other, place) => WORDS.has(other) && place !== at && holds(words[other], words[part]) && (!holds(words[part], words[other]) || place < at)))
  return kept.map(part => words[part]).filter(Boolean).join(' ') || words.number
}

/** Whether a name says another one word for word. */
function holds(name: string, other: string): boolean {
  const plain = (text: string) => ` ${text.toLowerCase().split(/[^\p{L}\p{N}]+/u).filter(Boolean).join(' ')} `
  return plain(name).includes(plain(other))
}
