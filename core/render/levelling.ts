import { envelopeOf } from '../audio/analysis/envelope'
import { truePeak } from '../audio/analysis/truePeak'
import { fromDb, toDb } from '../audio/level'

/** What is rendered to be played elsewhere is no higher than this: converters and lossy codecs pass the samples by as much (EBU R 128). */
export const CEILING_DBTP = -1

/** Less than this above the ceiling is the rounding of what was measured. */
const ROUNDING_DB = 0.01

/** By how much something is lowered as a whole, in dB, so that it keeps to the ceiling; 0 or less. */
export function loweringFor(truePeakDb: number): number {
  const over = truePeakDb - CEILING_DBTP
  return over < ROUNDING_DB ? 0 : -over
}

/** Brings rendered channels as a whole down to the ceiling where they pass it. Gives by how much, in dB; 0 or less. */
export function levelled(channels: readonly Float32Array[], sampleRate: number): { readonly channels: readonly Float32Array[], readonly loweredDb: number } {
  const loweredDb = loweringFor(toDb(truePeak(channels, envelopeOf(channels, sampleRate))))
  if (loweredDb === 0) return { channels, loweredDb }
  const gain = fromDb(loweredDb)
  return { channels: channels.map(channel => channel.map(value => value * gain)), loweredDb }
}
