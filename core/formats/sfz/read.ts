import type { DecodedAudio } from '../../audio/decoded'
import { EmporionError, messageOf } from '../../errors'
import type { SoundRef } from '../../kit/document'
import type { Identify, ReadAudio, ReadKit } from '../read'
import { SoundTable } from '../soundTable'
import { counted } from '../../wording'
import { kitFromZones } from '../zones/kitFromZones'
import { writeLoopOut, type Loop } from '../zones/loops'
import { byLoss } from '../zones/zone'
import { parseSfz } from './parse'
import { Tally } from '../zones/tally'
import type { Include } from './tokens'
import { samplesOfRegions, zonesOfRegions, type KnownSample, type WantedSample } from './zones'

export interface SfzToRead {
  readonly text: string
  /** As it is named in messages. */
  readonly path: string
  /** What the kit is to be called. */
  readonly name: string
  readonly include?: Include
  /** The folder of the file, below the one that was given; the same where it is left out. */
  readonly folder?: string
  /** The audio at a path below the folder that was given, whatever the case of its letters. @throws EmporionError */
  readonly decode: (path: string) => Promise<DecodedAudio>
  readonly identify: Identify
  /** Told after each sample; may throw to end the reading. */
  readonly onSample?: (done: number, total: number, name: string) => void
}

interface Loaded {
  readonly index: number
  readonly ref: SoundRef
  readonly sample: KnownSample
}

/**
 * Reads an SFZ file and its samples into a kit. Samples that are missing are listed, and their regions left out.
 *
 * @throws EmporionError `unreadable` when there is no region, or not one sample can be read
 */
export async function readSfzKit({ text, path, name, folder = '', include, decode, identify, onSample }: SfzToRead): Promise<ReadKit> {
  const file = parseSfz(text, path, include)
  const tally = new Tally('region')
  const found = samplesOfRegions(file, folder, tally)
  const table = new SoundTable(identify)
  const loaded = new Map<string, Loaded>()
  const missing = new Map<string, string>()
  const wanted = new Map(found.map(({ wanted }) => [keyOf(wanted), wanted]))
  let done = 0
  for (const [key, one] of wanted) {
    onSample?.(++done, wanted.size, one.path)
    if (missing.has(one.path)) continue
    try {
      const audio = await decode(one.path)
      const loop = loopOf(one, audio)
      const channels = loop ? writeLoopOut(audio.channels, audio.sampleRate, loop) : audio.channels
      const ref = table.add(stemOf(one.path), { channels, sampleRate: audio.sampleRate, depth: depthOf(audio) })
      loaded.set(key, { index: loaded.size, ref, sample: { name: ref.name, frames: ref.frames, sampleRate: ref.sampleRate, channels: ref.channels, rootNote: audio.facts.embedded.rootNote, ...(channels !== audio.channels && loop ? { loop } : {}) } })
    }
    catch (thrown) {
      if (!(thrown instanceof EmporionError) || thrown.code === 'cancelled') throw thrown
      missing.set(one.path, `${one.path}: ${messageOf(thrown)}`)
    }
  }
  if (loaded.size === 0) {
    const [why] = [...missing.values(), ...byLoss(tally.list).map(({ where, what }) => `${where}: ${what}`)]
    throw new EmporionError('unreadable', { what: `${why ?? 'No region names a sample.'} So none of the ${counted(found.length, 'region')} of ${path} can be played.`, kept: 'Nothing was brought in.', next: 'Put the samples back to where the SFZ file names them.' })
  }
  const ofRegions = zonesOfRegions(found, one => loaded.get(keyOf(one)), tally)
  const made = kitFromZones({ name, ...ofRegions, sounds: [...loaded.values()].map(one => one.ref), isPercussion: false })
  return { kit: made.kit, audio: table.audio, notCarried: byLoss([...file.notCarried, ...tally.list, ...made.notCarried]), missing: [...missing.values()] }
}

function keyOf({ path, loop }: WantedSample): string {
  return `${path}\n${loop ? `${loop.startFrame} ${loop.endFrame}` : ''}`
}

/** The region's own loop, or the file's, where it goes round. */
function loopOf({ loop }: WantedSample, { facts, frames }: DecodedAudio): Loop | undefined {
  const stated = facts.embedded.loops?.[0]
  if (!loop || (loop.startFrame === null && loop.endFrame === null && !stated)) return undefined
  return { startFrame: loop.startFrame ?? stated?.startFrame ?? 0, endFrame: loop.endFrame ?? (stated ? stated.endFrame + 1 : frames) }
}

/** What keeps the audio exact. */
export function depthOf({ facts }: Pick<DecodedAudio, 'facts'>): ReadAudio['depth'] {
  const { bitDepth, codec } = facts
  return codec === 'PCM' && (bitDepth === 8 || bitDepth === 16 || bitDepth === 24) ? bitDepth : 'float'
}

/** The name of a file without its folders and its ending. */
export function stemOf(path: string): string {
  return path.slice(path.lastIndexOf('/') + 1).replace(/\.[^.]{1,5}$/, '')
}
