import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

const shown: string[] = []
vi.stubGlobal('ElMessage', ({ message }: { message: string }) => void shown.push(message))

describe('messages', () => {
  beforeEach(() => {
    shown.length = 0
    vi.useFakeTimers()
    vi.resetModules()
  })
  afterEach(() => void vi.useRealTimers())

  it('come one a second, in order, the first at once', async () => {
    const { say, sayError } = await import('./useSay')
    const { EmporionError } = await import('../../core/errors')
    say('One.')
    sayError(new EmporionError('limit', 'Two.'))
    say('Three.')
    await vi.advanceTimersByTimeAsync(1)
    expect(shown).toEqual(['One.'])
    await vi.advanceTimersByTimeAsync(1000)
    expect(shown).toEqual(['One.', 'Two.'])
    await vi.advanceTimersByTimeAsync(1000)
    expect(shown).toEqual(['One.', 'Two.', 'Three.'])
  })

  it('are not shown of what was cancelled', async () => {
    const { saying } = await import('./useSay')
    const { EmporionError } = await import('../../core/errors')
    expect(await saying(() => Promise.reject(new EmporionError('cancelled', 'Cancelled.')))).toBeUndefined()
    await vi.advanceTimersByTimeAsync(2000)
    expect(shown).toEqual([])
  })
})
