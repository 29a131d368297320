import type { Kit } from '../kit/document'

/** A file of an export: its path below the folder of the export, with `/`, and its bytes. */
export interface WrittenFile {
  readonly path: string
  readonly bytes: Uint8Array
}

/** A sample as it is to be written. */
export interface MadeSample {
  /** Without an ending; unique among the samples of its kit. */
  readonly name: string
  readonly channels: readonly Float32Array[]
  readonly sampleRate: number
  readonly depth: 16 | 24 | 'float'
}

/**
 * A kit fitted to its target: every layer's sound is one of the samples, by its id, played whole or trimmed as the kit says.
 * What the target has no words for is in the samples already.
 */
export interface MadeKit {
  readonly kit: Kit
  readonly samples: ReadonlyMap<string, MadeSample>
}

/** A text as UTF-8. */
export function utf8(text: string): Uint8Array {
  return new TextEncoder().encode(text)
}

/** A seed for the dither of a sample, told from its name, so that the same kit gives the same bytes. */
export function ditherSeed(name: string): number {
  // FNV-1a (Fowler, Noll, Vo), 32 bit.
  return [...utf8(name)].reduce((hash, byte) => Math.imul(hash ^ byte, 0x01000193), 0x811C9DC5 | 0)
}
