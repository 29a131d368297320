import { tpdfDither } from '../audio/dither'
import type { Kit } from '../kit/document'

/** A file of an export: its path below the folder of the export, with `/`, and its bytes. */
export interface WrittenFile {
  readonly path: string
  readonly bytes: Uint8Array
}

/** How the samples of a target are stored, from the best: 32-bit float, or integers of so many bits. */
export const SAMPLE_DEPTHS = ['float', 24, 16, 12, 8] as const
export type SampleDepth = typeof SAMPLE_DEPTHS[number]

/** Bytes of a sample: those of 12 bits lie in the upper end of two. */
export function bytesOfDepth(depth: SampleDepth): number {
  return depth === 'float' ? 4 : Math.ceil(depth / 8)
}

/** A sample as it is to be written. */
export interface MadeSample {
  /** Without an ending; unique among the samples of its kit. */
  readonly name: string
  /** What the kit calls the sound that it was made of. */
  readonly title: string
  readonly channels: readonly Float32Array[]
  readonly sampleRate: number
  readonly depth: SampleDepth
}

/**
 * A kit fitted to its target: every layer's sound is one of the samples, by its id, played whole or trimmed as the kit says.
 * What the target has no words for is in the samples already.
 */
export interface MadeKit {
  readonly kit: Kit
  readonly samples: ReadonlyMap<string, MadeSample>
}

/** The dither that a sample is rounded with: of 16 bits and less, always the same for the same name. */
export function ditherFor({ depth, name }: Pick<MadeSample, 'depth' | 'name'>): (() => number) | undefined {
  return depth !== 'float' && depth <= 16 ? tpdfDither(ditherSeed(name)) : undefined
}

/** A text as UTF-8. */
export function utf8(text: string): Uint8Array {
  return new TextEncoder().encode(text)
}

/** A seed for the dither of a sample, told from its name, so that the same kit gives the same bytes. */
function ditherSeed(name: string): number {
  // FNV-1a (Fowler, Noll, Vo), 32 bit.
  return [...utf8(name)].reduce((hash, byte) => Math.imul(hash ^ byte, 0x01000193), 0x811C9DC5 | 0)
}
