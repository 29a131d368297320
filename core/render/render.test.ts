import { ConverterType, create } from '@alexanderolsen/libsamplerate-js'
import { describe, expect, it } from 'vitest'
import { magnitudeAt, peakOf, sine } from '../../tests/helpers/audio'
import { fromDb } from '../audio/level'
import { emptyKit, PLAIN_ENVELOPE, type Envelope, type Filter, type Kit } from '../kit/document'
import { placeSounds, setLayer, setPads, type PadSettings } from '../kit/edits'
import { KitEngine } from './engine'
import { renderKit, renderOutputs, type TimedNote } from './offline'
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

  it('a voice that is taken on the frame on which it began is never heard: the other alone, to the sample', () => {
    const two = kitWith(RATE / 2, 2)
    const sounds = soundsWith(sine(997, RATE, RATE / 2), sine(440, RATE, RATE / 2))
    for (const kit of [{ ...two, polyphony: 1 }, setPads(two, [0, 1], { chokeGroup: 1 })]) {
      const both = render(kit, sounds, { atSeconds: 0.1, note: 36, velocity: 127 }, { atSeconds: 0.1, note: 37, velocity: 127 })
      const alone = render(kit, sounds, { atSeconds: 0.1, note: 37, velocity: 127 })
      expect([...both.left]).toEqual([...alone.left])
    }
  })

  it('never sounds more voices than the polyphony, beside those that fade', () => {
    const kit: Kit = { ...kitWith(RATE), polyphony: 4 }
    const engine = new KitEngine(RATE)
    engine.setKit(kit)
    engine.setSound('1'.padStart(64, '0'), { channels: [sine(100, RATE, RATE)], sourceRate: RATE })
    engine.schedule(Array.from({ length: 20 }, (_, i) => ({ frame: i * 480, note: 36, velocity: 100 })))
    const block = () => engine.process([[new Float32Array(480), new Float32Array(480)]])
    for (let i = 0; i < 22; i++) block()
    expect(engine.voiceCount).toBe(4)
  })
})

describe('rendered envelopes', () => {
  const flat = () => soundsWith(new Float32Array(2 * RATE).fill(0.5))
  const shaped = (envelope: Partial<Envelope>, more: PadSettings = {}) => setPads(kitWith(2 * RATE), [0], { envelope: { ...PLAIN_ENVELOPE, ...envelope }, ...more })
  const at = (samples: Float32Array, seconds: number) => 20 * Math.log10(samples[Math.round(seconds * RATE)]! / 0.5)

  it('rises in a straight line, holds, then falls by 60 dB in the decay, evenly in dB', () => {
    const { left } = render(shaped({ attackSeconds: 0.1, holdSeconds: 0.2, decaySeconds: 0.6 }), flat(), { atSeconds: 0, note: 36, velocity: 127 })
    expect(left[0]).toBe(0)
    expect(left[Math.round(0.05 * RATE)]).toBeCloseTo(0.25, 3)
    expect(at(left, 0.1)).toBeCloseTo(0, 2)
    expect(at(left, 0.3)).toBeCloseTo(0, 2)
    expect(at(left, 0.5)).toBeCloseTo(-20, 1)
    expect(at(left, 0.9)).toBeCloseTo(-60, 1)
    // Over at 100 dB down: 0.3 + 0.6 x 100 / 60 = 1.3 s.
    expect(left.length / RATE).toBeCloseTo(1.3, 2)
  })

  it('a gated pad falls by 60 dB in the release once it is let go', () => {
    const { left } = render(shaped({ releaseSeconds: 0.3 }, { play: 'gated' }), flat(), { atSeconds: 0, note: 36, velocity: 127, lengthSeconds: 0.5 })
    expect(at(left, 0.49)).toBeCloseTo(0, 5)
    expect(at(left, 0.6)).toBeCloseTo(-20, 1)
    expect(at(left, 0.8)).toBeCloseTo(-60, 1)
  })
})

describe('rendered filters and drive', () => {
  const level = (hz: number, filter: Filter) => {
    const kit = setPads(kitWith(RATE), [0], { filter })
    return 20 * Math.log10(magnitudeAt(render(kit, soundsWith(sine(hz, RATE, RATE, 0.5)), { atSeconds: 0, note: 36, velocity: 127 }).left.slice(RATE / 2), hz, RATE) / 0.5)
  }

  // Second-order sections: -3.01 dB at the cutoff, 12 dB an octave beyond it (common textbook result).
  it('a low-pass and a high-pass are 3 dB down at their cutoff, and fall by 12 dB an octave', () => {
    for (const [type, beyond, within] of [['low-pass', 4000, 100], ['high-pass', 250, 9000]] as const) {
      expect(level(1000, { type, cutoffHz: 1000, resonanceDb: 0 })).toBeCloseTo(-3.01, 1)
      expect(level(beyond, { type, cutoffHz: 1000, resonanceDb: 0 })).toBeLessThan(-23.5)
      expect(level(within, { type, cutoffHz: 1000, resonanceDb: 0 })).toBeCloseTo(0, 1)
    }
  })

  it('resonance lifts the cutoff by its dB; a band-pass passes its middle at full level', () => {
    expect(level(1000, { type: 'low-pass', cutoffHz: 1000, resonanceDb: 12 })).toBeCloseTo(12 - 3.01, 1)
    expect(level(1000, { type: 'band-pass', cutoffHz: 1000, resonanceDb: 6 })).toBeCloseTo(0, 1)
    expect(level(100, { type: 'band-pass', cutoffHz: 1000, resonanceDb: 6 })).toBeLessThan(-20)
  })

  it('drive keeps full scale at full scale, lifts what is softer, and adds odd harmonics alone', () => {
    const driven = (amplitude: number, driveDb: number) => render(setPads(kitWith(RATE), [0], { driveDb }), soundsWith(sine(1000, RATE, RATE, amplitude)), { atSeconds: 0, note: 36, velocity: 127 }).left
    expect(peakOf(driven(1, 18))).toBeCloseTo(1, 3)
    expect(peakOf(driven(0.1, 18))).toBeGreaterThan(0.3)
    expect(peakOf(driven(0.1, 0))).toBeCloseTo(0.1, 4)
    const spectrum = (hz: number) => magnitudeAt(driven(1, 18), hz, RATE)
    expect(spectrum(3000)).toBeGreaterThan(0.1)
    expect(spectrum(2000)).toBeLessThan(1e-3)
  })
})

describe('rendered fades, outputs and turns', () => {
  it('a layer fades at its start and at its end', () => {
    const kit = setLayer(kitWith(RATE), 0, 0, { fadeInFrames: 4800, fadeOutFrames: 9600 })
    const { left } = render(kit, soundsWith(new Float32Array(RATE).fill(0.8)), { atSeconds: 0, note: 36, velocity: 127 })
    expect([left[0], left[RATE - 1]]).toEqual([0, 0])
    expect(left[2400]).toBeCloseTo(0.4, 3)
    expect(left[20_000]).toBeCloseTo(0.8, 5)
    expect(left[RATE - 1 - 4800]).toBeCloseTo(0.4, 3)
  })

  it('each output by itself adds up to the whole', () => {
    const kit = { ...setPads(kitWith(RATE / 10, 2), [1], { pan: 0.5 }), outputs: [{ id: 'main', name: 'Main' }, { id: 'two', name: 'Hats' }] }
    const split = setPads(kit, [1], { output: 'two' })
    const sounds = soundsWith(sine(200, RATE, RATE / 10, 0.4), sine(900, RATE, RATE / 10, 0.3))
    const notes = [{ atSeconds: 0, note: 36, velocity: 100 }, { atSeconds: 0.02, note: 37, velocity: 90 }]
    const outputs = renderOutputs(split, sounds, notes, { sampleRate: RATE, longestSeconds: 5 })
    const whole = render(split, sounds, ...notes)
    expect(peakOf(outputs[1]!.left.slice(0, 900))).toBe(0)
    expect(peakOf(whole.left.map((value, i) => value - outputs[0]!.left[i]! - outputs[1]!.left[i]!))).toBeLessThan(1e-6)
  })

  it('layers in turn are heard one after the other, and begin anew after a stop', () => {
    const base = kitWith(480, 2)
    const layers = [base.pads[0]!.layers[0]!, base.pads[1]!.layers[0]!].map((layer, i) => ({ ...layer, turn: i + 1 }))
    const kit = { ...base, pads: base.pads.with(0, { ...base.pads[0]!, layers }) }
    const { left } = render(kit, soundsWith(new Float32Array(480).fill(0.2), new Float32Array(480).fill(0.7)), ...[0, 1, 2].map(i => ({ atSeconds: i * 0.1, note: 36, velocity: 127 })))
    expect([left[10], left[4810], left[9610]].map(value => value!.toFixed(2))).toEqual(['0.20', '0.70', '0.20'])
  })
})

describe('interpolation', () => {
  it('a fifth up agrees with libsamplerate (reference library, best sinc) within -80 dB', async () => {
    const input = sine(440, RATE, RATE, 0.4).map((value, i) => value + 0.2 * Math.sin(2 * Math.PI * 5000 * i / RATE))
    const ratio = 3 / 2
    const reference = await create(1, RATE, RATE / ratio, { converterType: ConverterType.SRC_SINC_BEST_QUALITY })
    const wanted = reference.full(input)
    const kit = setPads(kitWith(RATE), [0], { tuneCents: 1200 * Math.log2(ratio) })
    const { left } = render(kit, soundsWith(input), { atSeconds: 0, note: 36, velocity: 127 })
    let worst = 0
    for (let i = 2000; i < wanted.length - 2000; i++) worst = Math.max(worst, Math.abs(left[i]! - wanted[i]!))
    expect(20 * Math.log10(worst)).toBeLessThan(-80)
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
        engine.process([[left, new Float32Array(size)]])
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
