import { describe, expect, it } from 'vitest'
import { envelopeOf } from '../audio/analysis/envelope'
import { truePeak } from '../audio/analysis/truePeak'
import { fromDb, toDb } from '../audio/level'
import { CEILING_DBTP, levelled, loweringFor } from './levelling'

const tone = (level: number) => Float32Array.from({ length: 4800 }, (_, i) => level * Math.sin(i * 0.9) * Math.sin(Math.PI * i / 4800))

describe('what is rendered', () => {
  it('is lowered to the ceiling where it passes it, both sides by as much', () => {
    const { channels, loweredDb } = levelled([tone(1.6), tone(0.4)], 48_000)
    expect(loweredDb).toBeCloseTo(-1 - toDb(1.6), 1)
    expect(toDb(truePeak(channels, envelopeOf(channels, 48_000)))).toBeCloseTo(CEILING_DBTP, 2)
    expect(channels[1]![100]! / tone(0.4)[100]!).toBeCloseTo(channels[0]![100]! / tone(1.6)[100]!, 5)
  })

  it('is left as it is below, and where it stands at the ceiling but for rounding', () => {
    const quiet = [tone(0.5)]
    expect(levelled(quiet, 48_000)).toEqual({ channels: quiet, loweredDb: 0 })
    for (const peak of [fromDb(CEILING_DBTP), Math.fround(fromDb(CEILING_DBTP)), 0]) expect(loweringFor(toDb(peak))).toBe(0)
    expect(loweringFor(-0.5)).toBe(-0.5)
  })
})
