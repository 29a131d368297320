import type { Kit } from '../kit/document'
import type { NotCarried } from './zones/zone'

/** Audio that a format held in itself, as it came: exact in so many bits. */
export interface ReadAudio {
  readonly channels: readonly Float32Array[]
  readonly sampleRate: number
  readonly depth: 8 | 16 | 24 | 32 | 'float'
}

/** A kit read from a format of another sampler: self-contained with the audio of its sounds, by their ids. */
export interface ReadKit {
  readonly kit: Kit
  readonly audio: ReadonlyMap<string, ReadAudio>
  readonly notCarried: readonly NotCarried[]
  /** Samples that the format names but that could not be found or read, each with its reason. */
  readonly missing: readonly string[]
}

/** Names a sound by its audio: the SHA-256 of `identityBytes`. Handed in, since hashing differs by place. */
export type Identify = (audio: { readonly channels: readonly Float32Array[], readonly sampleRate: number, readonly frames: number }) => string
