import { describe, expect, it } from 'vitest'
import { emptyKit, wholeLayer, type Kit, type Pad } from '../kit/document'
import { renderKit, type TimedNote } from './offline'

const RATE = 48_000
const FRAMES = 4800
const ref = (n: number) => ({ id: String(n).padStart(64, '0'), name: `Level ${n}`, frames: FRAMES, sampleRate: RATE, channels: 1 })
/** Sounds of one steady level each, in tenths of full scale: what plays can be read off. */
const sounds = new Map([1, 2, 4].map(n => [ref(n).id, { channels: [new Float32Array(FRAMES).fill(n / 10)], sourceRate: RATE }]))

function kitOf(pads: readonly Partial<Pad>[], settings: Partial<Kit> = {}): Kit {
  const kit = emptyKit('K')
  return { ...kit, ...settings, pads: kit.pads.map((pad, i) => ({ ...pad, ...pads[i] })) }
}

/** The level in tenths shortly after each time. */
function levels(kit: Kit, notes: readonly TimedNote[], at: readonly number[]): number[] {
  const { left } = renderKit(kit, sounds, notes, { sampleRate: RATE, longestSeconds: 4 })
  return at.map(seconds => Math.round((left[Math.round((seconds + 0.01) * RATE)] ?? 0) * 10))
}

describe('articulations as they are rendered', () => {
  const on = (articulation: string, n: number): Partial<Pad> => ({ note: 36, articulation, layers: [wholeLayer(ref(n))] })
  const articulations = [{ id: 'open', name: 'Open', key: null, whileHeld: false }, { id: 'a', name: 'A', key: 10, whileHeld: true }, { id: 'b', name: 'B', key: 11, whileHeld: true }]
  const kit = kitOf([on('open', 1), on('a', 2), on('b', 4)], { articulations })
  const hit = (atSeconds: number): TimedNote => ({ atSeconds, note: 36, velocity: 127 })

  it('last while their key is held; with two keys held the later one counts, whichever is released first', () => {
    const inner = [hit(0), { atSeconds: 0.15, note: 10, velocity: 100, lengthSeconds: 0.6 }, hit(0.2), { atSeconds: 0.35, note: 11, velocity: 100, lengthSeconds: 0.2 }, hit(0.4), hit(0.6), hit(0.8)]
    expect(levels(kit, inner, [0, 0.2, 0.4, 0.6, 0.8])).toEqual([1, 2, 4, 2, 1])
    const crossed = [{ atSeconds: 0, note: 10, velocity: 100, lengthSeconds: 0.4 }, { atSeconds: 0.1, note: 11, velocity: 100, lengthSeconds: 0.5 }, hit(0.2), hit(0.45), hit(0.7)]
    expect(levels(kit, crossed, [0.2, 0.45, 0.7])).toEqual([4, 4, 1])
  })

  it('stay until another key where they are not held', () => {
    const kept = { ...kit, articulations: articulations.map(one => ({ ...one, whileHeld: false })) }
    expect(levels(kept, [{ atSeconds: 0, note: 11, velocity: 100, lengthSeconds: 0.1 }, hit(0.2)], [0.2])).toEqual([4])
  })
})

describe('chokes as they are rendered', () => {
  it('fade over the time that the pad has, and only the way that it names', () => {
    const kit = kitOf([{ note: 36, chokeGroup: 1, chokedBy: [], layers: [{ ...wholeLayer(ref(1)), endFrame: 48 }] }, { note: 37, chokeGroup: 2, chokedBy: [1], chokeSeconds: 0.04, layers: [wholeLayer(ref(4))] }])
    const { left } = renderKit(kit, sounds, [{ atSeconds: 0, note: 37, velocity: 127 }, { atSeconds: 0.02, note: 36, velocity: 127 }], { sampleRate: RATE, longestSeconds: 1 })
    expect(left[Math.round(0.04 * RATE)]).toBeCloseTo(0.2, 2)
    expect(left[Math.round(0.061 * RATE)] ?? 0).toBe(0)
    expect(levels(kit, [{ atSeconds: 0, note: 36, velocity: 127 }, { atSeconds: 0.0005, note: 37, velocity: 127 }], [0.05])).toEqual([4])
  })
})
