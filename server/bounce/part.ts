import { decodeAudio } from '../../core/audio/decode'
import type { StereoDepth } from '../../core/audio/wave/stereoEncoder'
import { EmporionError, messageOf, type ErrorCode } from '../../core/errors'
import type { SoundRef } from '../../core/kit/document'
import { bounceBlocks, type BounceRequest } from '../../core/render/bounce'
import { prepareSound, silentSound } from '../../core/render/prepare'
import type { PreparedSound } from '../../core/render/voice'
import { realDisk } from '../base/disk'
import { WaveFile } from './waveFile'
import { bounceError } from './words'

/** A sound of a bounce, and where its file is. */
export type BouncedSound = SoundRef & { readonly path: string }

/** What one thread renders of a bounce: some of its stems, or its mix. The others' voices run along unheard. */
export interface BouncePart {
  readonly request: Omit<BounceRequest, 'sounds'>
  readonly sounds: readonly BouncedSound[]
  /** Those of the sounds that are heard in this part. */
  readonly heard: ReadonlySet<string>
  /** Where the stems of the request go, in their order. */
  readonly files: readonly { readonly path: string, readonly seed: number }[]
  readonly depth: StereoDepth
  readonly gain: number
  /** Shared by all parts: whether they are to stop, and how many frames each has rendered, at its `place`. */
  readonly state: Int32Array
  readonly place: number
}

/** A file as a part has written it. */
export interface WrittenFile {
  readonly bytes: number
  readonly frames: number
  /** Before the gain, full scale at 1: the highest sample, and what it comes to between samples where that is above the ceiling. */
  readonly highest: number
  readonly truePeak: number
}

/** Errors lose their class and code between threads. */
export type PartResult = { readonly files: readonly WrittenFile[] } | { readonly failed: { readonly code: ErrorCode, readonly message: string } }

/** Place of the state in which all parts are told to stop. */
export const STOP = 0

/** Renders a part of a bounce into its files. Of one that was stopped nothing is of use. */
export async function renderPart(part: BouncePart): Promise<PartResult> {
  try {
    return { files: await render(part) }
  }
  catch (thrown) {
    const error = bounceError(thrown)
    return { failed: { code: error instanceof EmporionError ? error.code : 'broken', message: messageOf(error) } }
  }
}

async function render({ request, sounds, heard, files: wanted, depth, gain, state, place }: BouncePart): Promise<WrittenFile[]> {
  const prepared = new Map<string, PreparedSound>()
  for (const sound of sounds) {
    prepared.set(sound.id, heard.has(sound.id) ? prepareSound(await decodeAudio(await realDisk.readFile(sound.path)), request.sampleRate) : silentSound(sound, request.sampleRate))
    if (Atomics.load(state, STOP) !== 0) return []
  }
  const files: WaveFile[] = []
  try {
    for (const { path, seed } of wanted) files.push(new WaveFile(path, { sampleRate: request.sampleRate, depth, gain, seed }))
    for (const block of bounceBlocks({ ...request, sounds: prepared })) {
      for (const [i, file] of files.entries()) file.add(block[i]!)
      Atomics.store(state, place, files[0]!.length)
      if (Atomics.load(state, STOP) !== 0) return []
    }
    // All at once: the disk flushes several files faster than one after the other.
    return await Promise.all(files.map(async file => ({ bytes: await file.finish(), frames: file.length, highest: file.highest, truePeak: file.truePeak })))
  }
  finally {
    for (const file of files) await file.close()
  }
}
