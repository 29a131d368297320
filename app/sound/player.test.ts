import { beforeEach, describe, expect, it, vi } from 'vitest'
import { EmporionError } from '~~/core/errors'
import { madeRow } from '../../tests/helpers/rows'
import { freshStores } from '../../tests/helpers/stores'
import { usePlayer } from './player'
import { useSettings } from '../parts/settings'

/** What is heard, in place of the browser's audio. */
const heard: { url: string, gainDb: number, fromSeconds: number, untilSeconds: number, semitones: number }[] = []
const gains: number[] = []
let ready = new Set<string>()
let loads = new Map<string, { resolve: () => void, reject: (error: Error) => void }>()
const sound = (url: string) => ({ url, buffer: { duration: 2 }, outline: new Int8Array() })

vi.mock('./audition', () => ({
  startAudition: ({ url }: { url: string }, how: { gainDb: number, fromSeconds: number, untilSeconds: number, semitones: number }) => void heard.push({ url, gainDb: how.gainDb, fromSeconds: how.fromSeconds, untilSeconds: how.untilSeconds, semitones: how.semitones }),
  setAuditionGain: (gain: number) => void gains.push(gain),
  stopAudition: () => undefined,
  auditionSeconds: () => null,
}))
vi.mock('./bufferCache', () => ({
  readySound: (url: string) => ready.has(url) ? sound(url) : undefined,
  loadSound: (url: string) => new Promise((resolve, reject) => loads.set(url, { resolve: () => resolve(sound(url)), reject })),
}))
vi.mock('./decoder', () => ({ soundUrl: (hash: string) => hash, cancelAheadBut: () => undefined }))
vi.mock('./output', () => ({ useOutput: () => ({ context: { state: 'running' } }), setVolume: () => undefined, wake: () => Promise.resolve(true) }))

const loud = madeRow(1, { hitLufs: -10, truePeakDb: -3 })
const quiet = madeRow(2, { hitLufs: -34, truePeakDb: -25, hits: [{ startSeconds: 0.1, endSeconds: 0.4 }, { startSeconds: 1, endSeconds: 1.5 }] })
const soon = () => new Promise(done => setTimeout(done))

beforeEach(() => {
  freshStores()
  heard.length = gains.length = 0
  ready = new Set([loud.hash])
  loads = new Map()
})

describe('playing sounds at one loudness', () => {
  it('a sound that is still heard while the next is on its way keeps its level', async () => {
    const player = usePlayer()
    await player.playRow(loud)
    const coming = player.playRow(quiet)
    await soon()
    expect(gains).toEqual([])
    loads.get(quiet.hash)!.resolve()
    await coming
    expect(heard.map(({ url }) => url)).toEqual([loud.hash, quiet.hash])
    expect(heard[1]!.gainDb - heard[0]!.gainDb).toBeCloseTo(24, 5)
  })

  it('follows the reference while it plays, and plays files as they are when matching is off', async () => {
    const player = usePlayer()
    const settings = useSettings()
    await player.playRow(loud)
    settings.referenceLufs -= 6
    await soon()
    expect(gains).toEqual([expect.closeTo(heard[0]!.gainDb - 6, 5)])
    settings.matchLevels = false
    await soon()
    expect(gains.at(-1)).toBe(0)
    await player.playRow(loud)
    expect(heard.at(-1)!.gainDb).toBe(0)
  })

  it('takes a sound whose loudness is not known as it is', async () => {
    const player = usePlayer()
    expect(player.gainOf(madeRow(3, { hitLufs: null }))).toBe(0)
  })
})

describe('one sound after the other', () => {
  it('of several that are asked for while they are on their way only the last is heard', async () => {
    const player = usePlayer()
    ready = new Set()
    const first = player.playRow(loud)
    const second = player.playRow(quiet)
    loads.get(quiet.hash)!.resolve()
    loads.get(loud.hash)!.resolve()
    expect(await Promise.all([first, second])).toEqual([true, true])
    expect(heard.map(({ url }) => url)).toEqual([quiet.hash])
  })

  it('says that one can\'t be played, and why; one that is no longer wanted is not held to be broken', async () => {
    const player = usePlayer()
    const broken = player.playRow(quiet)
    loads.get(quiet.hash)!.reject(new EmporionError('not-found', 'Its file is gone.'))
    expect(await broken).toBe(false)
    expect(player.problem).toBe('Its file is gone.')
    expect(player.broken.get(quiet.hash)).toBe('Its file is gone.')
    ready = new Set()
    const dropped = player.playRow(loud)
    loads.get(loud.hash)!.reject(new EmporionError('cancelled', 'No longer wanted.'))
    await dropped
    expect(player.broken.has(loud.hash)).toBe(false)
    ready.add(quiet.hash)
    await player.playRow(quiet)
    expect(player.broken.has(quiet.hash)).toBe(false)
  })

  it('goes from hit to hit, plays one of them alone, and as another note', async () => {
    const player = usePlayer()
    ready.add(quiet.hash)
    await player.playRow(quiet)
    player.toHit(1)
    await soon()
    expect(heard.at(-1)!.fromSeconds).toBe(0.1)
    player.toHit(1)
    await soon()
    expect(heard.at(-1)!.fromSeconds).toBe(1)
    player.firstHitOnly = true
    player.playFrom(0)
    await soon()
    expect(heard.at(-1)).toMatchObject({ fromSeconds: 0.1, untilSeconds: 0.4 })
    player.transpose(7)
    player.transpose(1)
    await soon()
    expect(player.semitones).toBe(8)
    expect(heard.at(-1)!.semitones).toBe(8)
  })

  it('remembers the last sixteen, each once, the latest first', async () => {
    const player = usePlayer()
    const rows = Array.from({ length: 20 }, (_, i) => madeRow(i + 10))
    ready = new Set(rows.map(row => row.hash))
    for (const row of [...rows, rows[15]!]) await player.playRow(row)
    expect(player.heard.map(row => row.id)).toEqual([25, ...[29, 28, 27, 26, 24, 23, 22, 21, 20, 19, 18, 17, 16, 15, 14]])
  })

  it('hands sounds over while something else takes them', async () => {
    const player = usePlayer()
    const taken: number[] = []
    player.takenBy = (row) => {
      taken.push(row.id)
      return true
    }
    await player.playRow(loud)
    expect([taken, heard]).toEqual([[1], []])
    // What it looks like is shown all the same.
    loads.get(loud.hash)!.resolve()
    await soon()
    expect(player.outline).toBeInstanceOf(Int8Array)
  })
})
