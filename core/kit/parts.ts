import { kindInText } from '../search/kindFromName'
import { readName, withoutMarks } from '../search/naming'
import { wholeLayer, type Layer } from './document'
import type { SoundToPlace } from './edits'
import { velocityRanges, type ValueRange } from './ranges'

/** What is known of a sound that decides where it goes. */
export interface KnownSound extends SoundToPlace {
  /** Where it lies, with `/` between the parts. */
  readonly folder: string
  /** Loudness of its hit in LUFS. */
  readonly hitLufs: number | null
  /** Pitch as a note number with cents as its fraction. */
  readonly pitchNote: number | null
  /** The note that its file states. */
  readonly statedNote: number | null
}

/** A sound as the library finds it. */
export interface FoundSound {
  readonly hash: string
  readonly name: string
  readonly folder: string
  readonly frames: number
  readonly sampleRate: number
  readonly channels: number
  readonly kind: string | null
  readonly hitLufs: number | null
  readonly pitchNote: number | null
  readonly statedNote: number | null
}

/** A sound of the library as something that can be put on a pad. */
export function knownSound({ hash: id, name, folder, frames, sampleRate, channels, kind, hitLufs, pitchNote, statedNote }: FoundSound): KnownSound {
  return { sound: { id, name, frames, sampleRate, channels }, folder, kind, hitLufs, pitchNote, statedNote }
}

/** Sounds that go onto one pad: one alone, or the strokes of one instrument. */
export interface Part {
  /** The one that stands for all: the hardest stroke. */
  readonly lead: KnownSound
  readonly sounds: readonly KnownSound[]
}

/** Strokes of one instrument share this; undefined for a sound whose name has neither a stroke nor a take. */
export function familyOf({ sound, folder, kind }: KnownSound): string | undefined {
  const family = readName(`${folder}/${sound.name}.wav`).family
  return family === undefined ? undefined : `${kind ?? ''}/${family}`
}

/** Every sound by itself. */
export function singleParts(sounds: readonly KnownSound[]): Part[] {
  return sounds.map(sound => ({ lead: sound, sounds: [sound] }))
}

/** Strokes and takes of one instrument together, told by their names; each family where its first sound was. */
export function familyParts(sounds: readonly KnownSound[]): Part[] {
  const parts = new Map<string, KnownSound[]>()
  sounds.forEach((sound, i) => {
    const key = familyOf(sound) ?? `alone ${i}`
    const known = parts.get(key)
    if (known) known.push(sound)
    else parts.set(key, [sound])
  })
  return [...parts.values()].map(part => ({ lead: softFirst(part).at(-1)!, sounds: part }))
}

/**
 * What a pad with several sounds is called: what their names are without strokes and takes, or the folder that they lie in where
 * that is all they tell. Undefined where they are called differently.
 */
export function sharedName(sounds: readonly KnownSound[]): string | undefined {
  const names = new Set(sounds.map(({ sound, folder }) => withoutMarks(sound.name) || nameOfFolder(folder)))
  const [name] = names
  return names.size === 1 && sounds.length > 1 && name ? name : undefined
}

/** The folder's own name, after that of the nearest one above that says a kind where its own says none: `Rack tom 12 Close`. */
function nameOfFolder(folder: string): string {
  const parts = folder.split('/')
  const named = parts.findLastIndex(part => kindInText(part) !== undefined)
  return parts.slice(named < 0 ? -1 : named).join(' ')
}

/** The layers of a family: strokes over velocity from soft to hard, takes of one stroke in turn. */
export function familyLayers(sounds: readonly KnownSound[]): Layer[] {
  if (sounds.length === 1) return [wholeLayer(sounds[0]!.sound)]
  const strokes = new Map<number | undefined, { sound: KnownSound, take: number }[]>()
  for (const sound of sounds) {
    const { velocity, take = 0 } = readName(`${sound.sound.name}.wav`)
    strokes.set(velocity, [...strokes.get(velocity) ?? [], { sound, take }])
  }
  const softToHard = [...strokes].sort(([a = 100], [b = 100]) => a - b).map(([, takes]) => takes.sort((a, b) => a.take - b.take))
  const ranges = velocityRanges(softToHard.length)
  return softToHard.flatMap((takes, i) => takes.map(({ sound }, turn): Layer => ({
    ...wholeLayer(sound.sound), lowVelocity: ranges[i]!.low, highVelocity: ranges[i]!.high, turn: takes.length > 1 ? turn + 1 : null,
  })))
}

/** Sounds from soft to loud: by the strokes that their names tell of where all do, else by how loud they are. */
export function softFirst<T extends KnownSound>(sounds: readonly T[]): T[] {
  const strokes = sounds.map(({ sound }) => readName(`${sound.name}.wav`).velocity)
  const isNamed = strokes.every(stroke => stroke !== undefined)
  return sounds.map((sound, i) => ({ sound, loudness: isNamed ? strokes[i]! : sound.hitLufs ?? -Infinity })).sort((a, b) => a.loudness - b.loudness || 0).map(({ sound }) => sound)
}

/**
 * Velocity ranges by measured level: a sound is meant for the velocity whose gain is as far below full as the sound is below
 * the loudest, and ranges meet half way between. Equal ranges where a level is not known. The gain of a velocity is that of
 * SFZ v1, (v / 127)^2.
 *
 * @param loudness of each sound in LUFS, soft to loud
 */
export function rangesByLevel(loudness: readonly (number | null)[]): ValueRange[] {
  const known = loudness.filter(value => value !== null)
  const loudest = Math.max(...known)
  if (known.length < loudness.length || loudness.length > 127) return velocityRanges(loudness.length)
  const meant = known.map(value => velocityOfGainDb(value - loudest))
  let low = 1
  return meant.map((velocity, i) => {
    const next = meant[i + 1]
    const room = 127 - (meant.length - 1 - i)
    const high = next === undefined ? 127 : Math.min(room, Math.max(low, Math.round((velocity + next) / 2)))
    const range = { low, high }
    low = high + 1
    return range
  })
}

/** The velocity, with a fraction, that is played so many dB below full: its gain is (v / 127)^2. */
function velocityOfGainDb(db: number): number {
  return Math.max(1, 127 * 10 ** (db / 40))
}
