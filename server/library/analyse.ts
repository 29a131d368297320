import { createHash } from 'node:crypto'
import { measure, type Figures } from '../../core/audio/analysis/figures'
import { decodeAudio, LARGEST_FILE_BYTES } from '../../core/audio/decode'
import type { DecodedAudio, EmbeddedData, FileTags } from '../../core/audio/decoded'
import { keptEmbedded } from '../../core/audio/embedded'
import { formerForms } from '../../core/audio/formerForms'
import { identityBytes } from '../../core/audio/identity'
import { OVERVIEW_COLUMNS, waveformOverview } from '../../core/audio/overview'
import { trainedNetworks } from '../../core/audio/kinds/model'
import { classProbabilities } from '../../core/audio/kinds/network'
import { readTags } from '../../core/audio/tags'
import { EmporionError, messageOf } from '../../core/errors'
import { kindFromAudio } from '../../core/search/kindFromAudio'
import { keepable } from '../../core/text'
import { readUserFile, readUserFileSync } from '../base/opener'
import type { KindGuess } from '../../core/search/kindFromName'

/** What is known of a sound from its audio alone. */
export interface SoundFacts {
  readonly hash: string
  /** Its identity to earlier versions, where they read its file otherwise. */
  readonly formerHash: string | null
  readonly container: string
  readonly codec: string
  readonly sampleRate: number
  readonly bitDepth: number
  readonly channels: number
  readonly frames: number
  readonly lengthSeconds: number
  readonly peak: number
  readonly overview: Uint8Array
  readonly embedded: EmbeddedData
  readonly warnings: readonly string[]
  readonly figures: Figures
  /** What sounds are compared by; null for silence. */
  readonly features: Uint8Array | null
  /** What the audio alone says of its kind. */
  readonly audioKind: KindGuess | null
}

/** `isOfDisk`: it could not even be read, which may pass: rights, a drive that stutters. */
export type Analysis = { readonly facts: SoundFacts } | { readonly error: string, readonly isOfDisk?: true }

/**
 * Reads and analyses one file, which lies below one of the roots. A file that can't be read gives the reason, never a thrown error. For threads that do nothing
 * else: it waits for the disk, since doing so in turns takes longer than a short file itself.
 */
export async function analyseFile(path: string, roots: readonly string[]): Promise<Analysis> {
  try {
    const bytes = readUserFileSync(path, roots, LARGEST_FILE_BYTES)
    const audio = await decodeAudio(bytes)
    return { facts: factsOf(audio, await readTags(bytes)) }
  }
  catch (thrown) {
    if (thrown instanceof EmporionError) return { error: keepable(thrown.message) }
    return { error: `The file could not be read: ${keepable(messageOf(thrown))}.`, ...isOfDisk(thrown) ? { isOfDisk: true } : {} }
  }
}

function isOfDisk(thrown: unknown): boolean {
  return thrown instanceof Error && 'syscall' in thrown
}

/** Decodes the file at a path. @throws EmporionError, or the file system's own error */
export async function decodeFile(path: string, roots: readonly string[]): Promise<DecodedAudio> {
  return decodeAudio(await readUserFile(path, roots, LARGEST_FILE_BYTES))
}

/** The identity of decoded audio: SHA-256 over its samples, in hex. */
export function identityOf(audio: Pick<DecodedAudio, 'channels' | 'sampleRate' | 'frames'>): string {
  const hash = createHash('sha256')
  for (const piece of identityBytes(audio)) hash.update(piece)
  return hash.digest('hex')
}

/** Whether a file that was decoded holds a sound, by the identity that it has now or had to earlier versions. */
export function isSound(audio: DecodedAudio, id: string): boolean {
  return identityOf(audio) === id || formerForms(audio).some(form => identityOf(form) === id)
}

function factsOf(audio: DecodedAudio, tags: FileTags | undefined): SoundFacts {
  const { figures, features, peak } = measure(audio.channels, audio.sampleRate)
  const overview = waveformOverview(audio.channels, OVERVIEW_COLUMNS)
  return {
    hash: identityOf(audio),
    formerHash: formerForms(audio).map(identityOf)[0] ?? null,
    container: audio.facts.container,
    codec: audio.facts.codec,
    sampleRate: audio.sampleRate,
    bitDepth: audio.facts.bitDepth,
    channels: audio.channels.length,
    frames: audio.frames,
    lengthSeconds: audio.frames / audio.sampleRate,
    peak,
    overview: new Uint8Array(overview.buffer),
    embedded: keptEmbedded(tags ? { ...audio.facts.embedded, tags } : audio.facts.embedded),
    warnings: audio.facts.warnings,
    figures,
    features,
    audioKind: features && kindFromAudio(figures, classProbabilities(features, trainedNetworks())),
  }
}
