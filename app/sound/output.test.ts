import { beforeEach, describe, expect, it, vi } from 'vitest'

/** A device that opens so long after it may be used. */
let opensAfterMs = 0
let mayPlay = true

class Context {
  state = 'suspended'
  createGain = () => ({ connect: () => undefined, gain: { value: 1 } })
  createAnalyser = () => ({ connect: () => undefined })
  resume = () => new Promise<void>((resolve) => {
    if (!mayPlay) return
    setTimeout(() => {
      this.state = 'running'
      resolve()
    }, opensAfterMs)
  })
}

/** Whether the audio runs, and after how many milliseconds that is known. */
async function woken(hasBeenActive: boolean): Promise<[boolean, number]> {
  vi.resetModules()
  vi.stubGlobal('AudioContext', Context)
  vi.stubGlobal('navigator', { userActivation: { hasBeenActive } })
  const { wake } = await import('./output')
  const start = Date.now()
  let known: [boolean, number] | undefined
  void wake().then(isRunning => known = [isRunning, Date.now() - start])
  for (let i = 0; i < 1000 && !known; i++) await vi.advanceTimersByTimeAsync(10)
  return known!
}

beforeEach(() => {
  vi.useFakeTimers()
  mayPlay = true
  opensAfterMs = 0
  return () => vi.useRealTimers()
})

describe('waking the audio', () => {
  it('waits for a device that is slow to open, once somebody has pressed something', async () => {
    opensAfterMs = 1500
    expect(await woken(true)).toEqual([true, 1500])
  })

  it('tells soon that a gesture is needed', async () => {
    mayPlay = false
    expect(await woken(false)).toEqual([false, 200])
  })

  it('needs no gesture where the browser asks for none', async () => {
    opensAfterMs = 50
    expect(await woken(false)).toEqual([true, 50])
  })

  it('does not wait without end for a device that never opens', async () => {
    mayPlay = false
    const [isRunning, afterMs] = await woken(true)
    expect([isRunning, afterMs >= 1000]).toEqual([false, true])
  })
})

describe('the volume', () => {
  it('holds for a device that opens later, and for one that is open', async () => {
    vi.resetModules()
    vi.stubGlobal('AudioContext', Context)
    const { setVolume, useOutput } = await import('./output')
    setVolume(0.5)
    expect(useOutput().input.gain.value).toBe(0.25)
    setVolume(0)
    expect(useOutput().input.gain.value).toBe(0)
  })
})
