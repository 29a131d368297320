import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { peakOf, sine } from '../../tests/helpers/audio'
import { emptyKit, type Kit } from '../kit/document'
import { placeSounds, setLayer, setPads } from '../kit/edits'
import { noteOff, noteOn, type RunningVoice } from '../kit/voices'
import { KitEngine } from './engine'
import { renderKit, type TimedNote } from './offline'
import type { PreparedSound } from './voice'

const RATE = 48_000
const FRAMES = 4_000
const id = (n: number) => String(n).padStart(64, '0')
const sounds = new Map<string, PreparedSound>([1, 2, 3, 4].map(n => [id(n), { channels: [sine(200 * n, RATE, FRAMES, 0.5)], sourceRate: RATE }]))

const settings = fc.record({
  gainDb: fc.double({ min: -40, max: 0, noNaN: true }),
  pan: fc.double({ min: -1, max: 1, noNaN: true }),
  tuneCents: fc.integer({ min: -2400, max: 2400 }),
  play: fc.constantFrom('one-shot' as const, 'gated' as const),
  chokeGroup: fc.option(fc.integer({ min: 1, max: 2 })),
})

const kits: fc.Arbitrary<Kit> = fc.tuple(fc.array(settings, { minLength: 4, maxLength: 4 }), fc.integer({ min: 1, max: 6 }), fc.array(fc.tuple(fc.nat(FRAMES), fc.nat(FRAMES), fc.boolean()), { minLength: 4, maxLength: 4 }))
  .map(([pads, polyphony, trims]) => {
    const placed = placeSounds(emptyKit('Any'), 0, [1, 2, 3, 4].map(n => ({ sound: { id: id(n), name: `S${n}`, frames: FRAMES, sampleRate: RATE, channels: 1 }, kind: null }))).kit
    return pads.reduce((kit, pad, i) => {
      const [startFrame, endFrame, reverse] = trims[i]!
      return setLayer(setPads(kit, [i], pad), i, 0, { startFrame, endFrame, reverse })
    }, { ...placed, polyphony })
  })

const notes: fc.Arbitrary<TimedNote[]> = fc.array(fc.record({
  atSeconds: fc.double({ min: 0, max: 0.3, noNaN: true }),
  note: fc.integer({ min: 34, max: 42 }),
  velocity: fc.integer({ min: 1, max: 127 }),
  lengthSeconds: fc.double({ min: 0.001, max: 0.2, noNaN: true }),
}), { maxLength: 20 })

const render = (kit: Kit, played: readonly TimedNote[]) => renderKit(kit, sounds, played, { sampleRate: RATE, longestSeconds: 5 })

describe('any kit playing any notes', () => {
  it('gives finite audio, no louder than its voices together, that ends', () => {
    fc.assert(fc.property(kits, notes, (kit, played) => {
      const { left, right } = render(kit, played)
      expect(left.length).toBe(right.length)
      expect(left.length).toBeLessThan(5 * RATE)
      const most = 0.5 * Math.SQRT2 * Math.min(played.length, kit.polyphony + played.length) * 1.3
      for (const side of [left, right]) {
        expect(side.every(Number.isFinite)).toBe(true)
        expect(peakOf(side)).toBeLessThanOrEqual(most + 1e-6)
      }
    }), { numRuns: 40 })
  })

  it('gives the same audio each time, and in whatever order the notes are handed over', () => {
    fc.assert(fc.property(kits, notes, (kit, played) => {
      const distinct = [...new Map(played.map(note => [Math.round(note.atSeconds * RATE), note])).values()].map(({ lengthSeconds: _length, ...note }) => note)
      const [once, again] = [render(kit, distinct), render(kit, distinct.toReversed())]
      expect(again.left).toEqual(once.left)
      expect(again.right).toEqual(once.right)
    }), { numRuns: 25 })
  })

  it('notes that no pad has are silent', () => {
    fc.assert(fc.property(kits, fc.integer({ min: 60, max: 127 }), (kit, note) => {
      const { left } = render(kit, [{ atSeconds: 0, note, velocity: 127 }])
      expect(peakOf(left)).toBe(0)
    }), { numRuns: 20 })
  })

  it('is silent for good after everything was stopped', () => {
    fc.assert(fc.property(kits, notes, (kit, played) => {
      const engine = new KitEngine(RATE)
      engine.setKit(kit)
      for (const [sound, prepared] of sounds) engine.setSound(sound, prepared)
      engine.schedule(played.map(({ atSeconds, note, velocity }) => ({ frame: Math.round(atSeconds * RATE), note, velocity })))
      const block = () => {
        const left = new Float32Array(480)
        engine.process([[left, new Float32Array(480)]])
        return left
      }
      for (let i = 0; i < 5; i++) block()
      engine.stopAll()
      block()
      expect(engine.idle).toBe(true)
      expect(peakOf(block())).toBe(0)
    }), { numRuns: 30 })
  })
})

describe('voice rules under any play', () => {
  it('never leave more running than the polyphony, never two of one choke group from different notes', () => {
    fc.assert(fc.property(kits, fc.array(fc.tuple(fc.integer({ min: 36, max: 39 }), fc.integer({ min: 0, max: 127 })), { maxLength: 60 }), (kit, events) => {
      let running: RunningVoice[] = []
      let next = 1
      for (const [note, velocity] of events) {
        if (velocity === 0) {
          const ended = noteOff(running, note)
          running = running.filter(voice => !ended.includes(voice.id))
          continue
        }
        const { starts, ...cut } = noteOn(kit, running, note, velocity)
        const stops = [...cut.chokes, ...cut.stops]
        expect(stops.every(stop => running.some(voice => voice.id === stop))).toBe(true)
        running = [...running.filter(voice => !stops.includes(voice.id)), ...starts.map(start => ({ id: next++, padIndex: start.padIndex, note: start.note, chokeGroup: start.chokeGroup, chokedBy: start.chokedBy, gated: start.gated }))]
        expect(running.length).toBeLessThanOrEqual(kit.polyphony)
        for (const group of [1, 2]) expect(new Set(running.filter(voice => voice.chokeGroup === group).map(voice => voice.note)).size).toBeLessThanOrEqual(1)
      }
    }), { numRuns: 100 })
  })
})
