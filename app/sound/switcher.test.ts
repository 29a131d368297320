import { beforeEach, describe, expect, it, vi } from 'vitest'

/** A gain of the audio graph: what it was set to, in order. */
class FakeGain {
  readonly gain = { value: 1, set: [] as number[], cancelScheduledValues: () => undefined, setTargetAtTime: (value: number) => this.gain.set.push(value) }
  connected = false
  readonly connect = () => {
    this.connected = true
  }

  readonly disconnect = () => {
    this.connected = false
  }
}

class FakeSource {
  buffer: { channels: Float32Array[] } | null = null
  loop = false
  startedAt: number | undefined
  stoppedAt: number | undefined
  private ended: (() => void) | undefined
  readonly connect = (gain: FakeGain) => gain
  readonly start = (at: number) => this.startedAt = at
  readonly stop = (at: number) => this.stoppedAt = at
  readonly addEventListener = (_type: string, listener: () => void) => this.ended = listener
  end(): void {
    this.ended?.()
  }
}

const audio = { currentTime: 0, sources: [] as FakeSource[], gains: [] as FakeGain[] }
const context = {
  get currentTime() {
    return audio.currentTime
  },
  createBuffer: (count: number, frames: number, rate: number) => ({ duration: frames / rate, channels: Array.from({ length: count }, () => new Float32Array(frames)), copyToChannel(channel: Float32Array<ArrayBuffer>, i: number) {
    this.channels[i] = channel
  } }),
  createBufferSource: () => {
    const source = new FakeSource()
    audio.sources.push(source)
    return source
  },
  createGain: () => {
    const gain = new FakeGain()
    audio.gains.push(gain)
    return gain
  },
}
vi.mock('./output', () => ({ wake: async () => true, useOutput: () => ({ context, input: {} }) }))

const RATE = 1000
const sides = { before: [new Float32Array(2000)], after: [new Float32Array(2000), new Float32Array(2000)], difference: [new Float32Array(2000)] }
const heard = () => audio.gains.map(({ gain }) => gain.set.at(-1) ?? gain.value)

async function switcher() {
  vi.resetModules()
  return import('./switcher')
}

beforeEach(() => {
  Object.assign(audio, { currentTime: 5, sources: [], gains: [] })
})

describe('ways to hear one thing', () => {
  it('run together from one moment on, and one of them is heard', async () => {
    const { playSides, sidesPosition } = await switcher()
    expect(sidesPosition()).toBeNull()
    await playSides(sides, RATE, 'after', false, () => undefined)
    expect(audio.sources.map(source => source.startedAt)).toEqual([5, 5, 5])
    expect(audio.sources.map(source => source.buffer!.channels.length)).toEqual([1, 2, 1])
    expect(heard()).toEqual([0, 1, 0])
    audio.currentTime = 6
    expect(sidesPosition()).toBe(0.5)
  })

  it('are switched in place, without beginning anew', async () => {
    const { playSides, hearSide } = await switcher()
    await playSides(sides, RATE, 'before', false, () => undefined)
    hearSide('difference')
    expect(heard()).toEqual([0, 0, 1])
    expect(audio.sources).toHaveLength(3)
    expect(audio.sources.every(source => source.stoppedAt === undefined)).toBe(true)
  })

  it('go round when that is asked, and else stay at their end', async () => {
    const { playSides, sidesPosition } = await switcher()
    await playSides(sides, RATE, 'before', true, () => undefined)
    expect(audio.sources.every(source => source.loop)).toBe(true)
    audio.currentTime = 5 + 2 * 2.75
    expect(sidesPosition()).toBeCloseTo(0.75)
    await playSides(sides, RATE, 'before', false, () => undefined)
    audio.currentTime += 99
    expect(sidesPosition()).toBe(1)
  })

  it('that are empty or missing are left out', async () => {
    const { playSides } = await switcher()
    await playSides({ before: [new Float32Array(2000)], after: [new Float32Array(0)] }, RATE, 'before', false, () => undefined)
    expect(audio.sources).toHaveLength(1)
  })

  it('say when they end by themselves, but not when they were stopped or others took their place', async () => {
    const { playSides, stopSides, sidesPosition } = await switcher()
    const ended = vi.fn()
    await playSides(sides, RATE, 'before', false, ended)
    stopSides()
    // Faded, not cut: a click would be heard.
    expect(heard()).toEqual([0, 0, 0])
    expect(audio.sources.every(source => source.stoppedAt! > audio.currentTime)).toBe(true)
    audio.sources[0]!.end()
    await playSides(sides, RATE, 'before', false, ended)
    await playSides(sides, RATE, 'before', false, ended)
    audio.sources[3]!.end()
    expect(ended).not.toHaveBeenCalled()
    expect(sidesPosition()).not.toBeNull()
    audio.sources[6]!.end()
    expect(ended).toHaveBeenCalledOnce()
    expect(sidesPosition()).toBeNull()
    expect(audio.gains.every(gain => !gain.connected)).toBe(true)
  })

  it('that do not run are neither switched nor stopped', async () => {
    const { hearSide, stopSides } = await switcher()
    hearSide('after')
    stopSides()
    expect(audio.gains).toEqual([])
  })
})
