import { describe, expect, it } from 'vitest'
import { peakOf, sine } from '../../tests/helpers/audio'
import { fromDb } from '../audio/level'
import { emptyKit, type Kit } from '../kit/document'
import { placeSounds, setLayer, setPads } from '../kit/edits'
import { KitEngine } from './engine'
import { renderKit, type TimedNote } from './offline'
import { prepareSound } from './prepare'
import type { PreparedSound } from './voice'

const RATE = 48_000

function kitWith(frames: number, pads = 1): Kit {
  const sounds = Array.from({ length: pads }, (_, i) => ({ sound: { id: String(i + 1).padStart(64, '0'), name: `S${i + 1}`, frames, sampleRate: RATE, channels: 1 }, kind: null }))
  return placeSounds(emptyKit('K'), 0, sounds).kit
}

function soundsWith(...channels: Float32Array[]): Map<string, PreparedSound> {
  return new Map(channels.map((channel, i) => [String(i + 1).padStart(64, '0'), { channels: [channel], sourceRate: RATE }]))
}

function render(kit: Kit, sounds: ReadonlyMap<string, PreparedSound>, ...notes: TimedNote[]) {
  return renderKit(kit, sounds, notes, { sampleRate: RATE, longestSeconds: 10 })
}

describe('rendered level', () => {
  it('a full-scale sine at -6.02 dB and velocity 127 peaks at half scale, on both sides', () => {
    const kit = setPads(kitWith(RATE), [0], { gainDb: -6.0206 })
    const { left, right } = render(kit, soundsWith(sine(997, RATE, RATE)), { atSeconds: 0, note: 36, velocity: 127 })
    expect(peakOf(left)).toBeCloseTo(0.5, 3)
    expect(peakOf(right)).toBeCloseTo(0.5, 3)
  })

  it('lower velocity is lower by its square, and a pad panned hard right leaves the left silent', () => {
    const kit = setPads(kitWith(RATE), [0], { pan: 1 })
    const { left, right } = render(kit, soundsWith(sine(997, RATE, RATE, 0.5)), { atSeconds: 0, note: 36, velocity: 64 })
    expect(peakOf(left)).toBeLessThan(1e-6)
    expect(peakOf(right)).toBeCloseTo(0.5 * Math.SQRT2 * (64 / 127) ** 2, 3)
  })
})

describe('rendered time', () => {
  it('starts to the sample where its note is, and is the sample itself when nothing is changed', () => {
    const sample = Float32Array.from({ length: 700 }, (_, i) => Math.sin(i * i * 0.001) * 0.9)
    const { left } = render(kitWith(700), soundsWith(sample), { atSeconds: 777 / RATE, note: 36, velocity: 127 })
    expect(left.slice(0, 777).every(value => value === 0)).toBe(true)
    expect([...left.slice(777, 777 + 700)]).toEqual([...sample])
    expect(left.slice(777 + 700).every(value => value === 0)).toBe(true)
  })

  it('plays only from start to end, and backwards when reversed', () => {
    const sample = Float32Array.from({ length: 100 }, (_, i) => (i + 1) / 100)
    const kit = setLayer(kitWith(100), 0, 0, { startFrame: 10, endFrame: 14, reverse: true })
    const { left } = render(kit, soundsWith(sample), { atSeconds: 0, note: 36, velocity: 127 })
    expect([...left.slice(0, 6)].map(value => Math.round(value * 100))).toEqual([14, 13, 12, 11, 0, 0])
  })

  it('an octave up is half as long and keeps its level', () => {
    const kit = setPads(kitWith(RATE), [0], { tuneCents: 1200 })
    const { left } = render(kit, soundsWith(sine(500, RATE, RATE, 0.8)), { atSeconds: 0, note: 36, velocity: 127 })
    const wanted = sine(1000, RATE, RATE / 2, 0.8)
    let worst = 0
    for (let i = 200; i < RATE / 2 - 200; i++) worst = Math.max(worst, Math.abs(left[i]! - wanted[i]!))
    expect(20 * Math.log10(worst)).toBeLessThan(-80)
    expect(peakOf(left.slice(RATE / 2 + 64))).toBe(0)
  })

  it('played two octaves up, what would alias is held down by 60 dB', () => {
    const kit = setPads(kitWith(RATE), [0], { tuneCents: 2400 })
    const { left } = render(kit, soundsWith(sine(9000, RATE, RATE, 0.8)), { atSeconds: 0, note: 36, velocity: 127 })
    expect(peakOf(left.slice(500, RATE / 4 - 500))).toBeLessThan(0.8 * fromDb(-60))
  })
})

describe('rendered endings', () => {
  it('a choked voice is silent 5 ms after the note that cuts it, without a click', () => {
    const kit = setPads(kitWith(RATE, 2), [0, 1], { chokeGroup: 1 })
    const { left } = render(kit, soundsWith(sine(100, RATE, RATE, 0.9), new Float32Array(RATE)), { atSeconds: 0, note: 36, velocity: 127 }, { atSeconds: 0.5, note: 37, velocity: 127 })
    expect(peakOf(left.slice(RATE * 0.4, RATE * 0.5))).toBeCloseTo(0.9, 2)
    expect(peakOf(left.slice(RATE * 0.506))).toBe(0)
    let step = 0
    for (let i = RATE * 0.45; i < RATE * 0.52; i++) step = Math.max(step, Math.abs(left[i + 1]! - left[i]!))
    expect(step).toBeLessThan(0.03)
  })

  it('a gated pad ends with its note, a one-shot does not', () => {
    for (const [play, silent] of [['gated', true], ['one-shot', false]] as const) {
      const kit = setPads(kitWith(RATE), [0], { play })
      const { left } = render(kit, soundsWith(sine(100, RATE, RATE)), { atSeconds: 0, note: 36, velocity: 127, lengthSeconds: 0.2 })
      expect(peakOf(left.slice(RATE * 0.22)) === 0).toBe(silent)
    }
  })

  it('never sounds more voices than the polyphony, beside those that fade', () => {
    const kit: Kit = { ...kitWith(RATE), polyphony: 4 }
    const engine = new KitEngine(RATE)
    engine.setKit(kit)
    engine.setSound('1'.padStart(64, '0'), { channels: [sine(100, RATE, RATE)], sourceRate: RATE })
    engine.schedule(Array.from({ length: 20 }, (_, i) => ({ frame: i * 480, note: 36, velocity: 100 })))
    const block = () => engine.process(new Float32Array(480), new Float32Array(480))
    for (let i = 0; i < 22; i++) block()
    expect(engine.voiceCount).toBe(4)
  })
})

describe('one engine, live and offline', () => {
  it('gives the same samples whatever the size of the blocks', () => {
    const kit = setPads(kitWith(5000, 2), [1], { tuneCents: 37, chokeGroup: 2, pan: -0.4 })
    const sounds = soundsWith(sine(300, RATE, 5000, 0.5), sine(700, RATE, 5000, 0.5))
    const events = [{ frame: 100, note: 36, velocity: 90 }, { frame: 333, note: 37, velocity: 120 }, { frame: 1000, note: 37, velocity: 60 }]
    const run = (size: number) => {
      const engine = new KitEngine(RATE)
      engine.setKit(kit)
      for (const [id, sound] of sounds) engine.setSound(id, sound)
      engine.schedule(events)
      const out: number[] = []
      while (out.length < 6144) {
        const left = new Float32Array(size)
        engine.process(left, new Float32Array(size))
        out.push(...left)
      }
      return out.slice(0, 6144)
    }
    expect(run(128)).toEqual(run(2048))
  })

  it('counts start and end in the sound\'s own rate after conversion to the engine\'s', () => {
    const sound = prepareSound({ channels: [sine(1000, 44_100, 44_100)], sampleRate: 44_100 }, RATE)
    const kit = setLayer(placeSounds(emptyKit('K'), 0, [{ sound: { id: '1'.padStart(64, '0'), name: 'S', frames: 44_100, sampleRate: 44_100, channels: 1 }, kind: null }]).kit, 0, 0, { endFrame: 22_050 })
    const { left } = render(kit, new Map([['1'.padStart(64, '0'), sound]]), { atSeconds: 0, note: 36, velocity: 127 })
    expect(peakOf(left.slice(23_900, 24_000))).toBeGreaterThan(0.9)
    expect(peakOf(left.slice(24_000))).toBe(0)
  })
})
