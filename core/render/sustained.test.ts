import { describe, expect, it } from 'vitest'
import { sine } from '../../tests/helpers/audio'
import { mulberry32 } from '../audio/dither'
import { emptyKit, type Kit } from '../kit/document'
import { placeSounds, setPads } from '../kit/edits'
import { KitEngine } from './engine'

/** A low rate, so that ten minutes are over soon; the engine counts in frames whatever it is. */
const RATE = 8_000
const BLOCK = 128
const BLOCKS = Math.round(10 * 60 * RATE / BLOCK)
const PADS = 16
const LOWEST_NOTE = 36

const id = (n: number) => String(n).padStart(64, '0')

function engineWith(frames: number, soundOf: (pad: number) => Float32Array, change: (kit: Kit) => Kit = kit => kit): KitEngine {
  const sounds = Array.from({ length: PADS }, (_, i) => ({ sound: { id: id(i + 1), name: `S${i + 1}`, frames, sampleRate: RATE, channels: 1 }, kind: null }))
  const engine = new KitEngine(RATE)
  engine.setKit(change(placeSounds(emptyKit('Long'), 0, sounds).kit))
  for (let i = 0; i < PADS; i++) engine.setSound(id(i + 1), { channels: [soundOf(i)], sourceRate: RATE })
  return engine
}

function next(engine: KitEngine): Float32Array {
  const left = new Float32Array(BLOCK)
  engine.process([[left, new Float32Array(BLOCK)]])
  return left
}

describe('ten minutes of play without a pause', () => {
  it('each of more than ten thousand hits is heard once, on its frame, at its level, and nothing else is', () => {
    const random = mulberry32(7)
    // A click, of another height on each pad.
    const engine = engineWith(64, pad => Float32Array.from({ length: 64 }, (_, i) => i === 0 ? (pad + 1) / 32 : 0))
    let hits = 0
    for (let block = 0; block < BLOCKS; block++) {
      const played = random() < 0.3 ? Math.floor(random() * PADS) : undefined
      const at = Math.floor(random() * BLOCK)
      if (played !== undefined) engine.schedule([{ frame: engine.frame + at, note: LOWEST_NOTE + played, velocity: 127 }])
      const heard = next(engine)
      const sounding = [...heard.keys()].filter(frame => heard[frame] !== 0)
      if (played === undefined) expect(sounding).toEqual([])
      else {
        hits++
        expect(sounding).toEqual([at])
        expect(heard[at]).toBeCloseTo((played + 1) / 32, 6)
      }
    }
    expect(hits).toBeGreaterThan(10_000)
    next(engine)
    expect(engine.idle).toBe(true)
  })

  it('as many notes sound as are held, and none hangs when all are let go', () => {
    const random = mulberry32(11)
    const engine = engineWith(60 * RATE, pad => sine(200 + 20 * pad, RATE, 60 * RATE, 0.05), kit => setPads(kit, Array.from({ length: PADS }, (_, i) => i), { play: 'gated' }))
    // The release of a plain envelope is over within two blocks.
    const held = new Set<number>()
    let pressed = 0
    for (let block = 0; block < BLOCKS; block++) {
      if (block % 4 === 0) {
        const pad = Math.floor(random() * PADS)
        const isDown = held.delete(pad)
        if (!isDown) {
          held.add(pad)
          pressed++
        }
        engine.schedule([{ frame: engine.frame, note: LOWEST_NOTE + pad, velocity: isDown ? 0 : 100 }])
      }
      next(engine)
      if (block % 4 === 3) expect(engine.voiceCount).toBe(held.size)
    }
    expect(pressed).toBeGreaterThan(4_000)
    engine.schedule([...held].map(pad => ({ frame: engine.frame, note: LOWEST_NOTE + pad, velocity: 0 })))
    for (let i = 0; i < 4; i++) next(engine)
    expect(engine.idle).toBe(true)
    expect([...next(engine)].every(sample => sample === 0)).toBe(true)
  })
})
