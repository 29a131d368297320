/** Containers that Emporion reads. */
export type Container = 'WAVE' | 'Wave64' | 'AIFF' | 'CAF' | 'AU' | 'FLAC' | 'MP3' | 'MPEG' | 'Ogg' | 'WavPack'

/** A loop as a file states it, in frames; `endFrame` is the last frame that sounds. */
export interface StatedLoop {
  readonly startFrame: number
  readonly endFrame: number
  /** Times to play; 0 means for ever. */
  readonly count: number
}

/** A marked place in a file. */
export interface CuePoint {
  readonly id: number
  readonly frame: number
  readonly label?: string
}

/** What the tags of a file say, each part only where they do. */
export interface FileTags {
  /** Texts by plain names: "title", "genre", "comment" and the like. */
  readonly texts: Readonly<Record<string, string>>
  readonly bpm?: number
  readonly key?: string
}

/** What a file says of itself beside the audio. Every part is there only if the file states it. */
export interface EmbeddedData {
  /** MIDI note at which the sample sounds at its own pitch. */
  readonly rootNote?: number
  /** Cents above `rootNote`, 0 to 100. */
  readonly rootCents?: number
  readonly gainDb?: number
  readonly lowNote?: number
  readonly highNote?: number
  readonly lowVelocity?: number
  readonly highVelocity?: number
  readonly loops?: readonly StatedLoop[]
  readonly cues?: readonly CuePoint[]
  /** Texts such as `INAM` or `NAME`, by the container's own four-character name. */
  readonly info?: Readonly<Record<string, string>>
  /** ID3 tags and Vorbis comments. */
  readonly tags?: FileTags
}

/** The facts of the file that the audio came from. */
export interface SourceFacts {
  readonly container: Container
  /** In words: "PCM", "float", "A-law" ... */
  readonly codec: string
  /** Bits a sample as stored; for lossy codecs 0. */
  readonly bitDepth: number
  readonly embedded: EmbeddedData
  /** Plain sentences on what was wrong with the file though it could be read. */
  readonly warnings: readonly string[]
}

/** Audio in memory, the form used everywhere: one array a channel, full scale at +-1. */
export interface DecodedAudio {
  readonly channels: readonly Float32Array[]
  readonly sampleRate: number
  readonly frames: number
  readonly facts: SourceFacts
}

/** Length in seconds. */
export function lengthSeconds(audio: { readonly frames: number, readonly sampleRate: number }): number {
  return audio.frames / audio.sampleRate
}
