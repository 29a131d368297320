import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { EmporionError } from '../../core/errors'
import type { FitPlan, PlanRow, Wishes } from '../../core/fit/plan'
import type { Target } from '../../core/fit/target'
import { emptyKit, type Kit } from '../../core/kit/document'
import { placeSounds } from '../../core/kit/edits'
import { testSound } from '../../tests/helpers/kit'
import { kitServer } from '../../tests/helpers/kitServer'
import { freshStores, asRequest, type Ask } from '../../tests/helpers/stores'
import { useFit } from './fit'
import { useFitHearing } from './fitHearing'
import { useKit } from '../bench/kit'

let kits = kitServer()
/** Stored presets by their id, and what the server was asked to measure. */
const server = vi.hoisted(() => ({ presets: new Map<string, unknown>(), jobs: new Map<string, object>(), measured: [] as { kit: unknown, target: { id: string } }[], measuring: undefined as Promise<void> | undefined, fails: undefined as Error | undefined, heard: 0 }))
/** Plans that were asked for, and sounds that were made. */
const fitter = vi.hoisted(() => ({ plans: [] as { kit: unknown, target: unknown, wishes: unknown }[], sounds: [] as { at: number, resolve: (sound: unknown) => void, reject: (error: Error) => void }[] }))
const ways = vi.hoisted(() => ({ played: [] as unknown[][], switched: [] as string[], stops: 0, end: undefined as (() => void) | undefined }))

/** A job that has ended already. */
function ended(id: string, result: object): object {
  server.jobs.set(id, { id, state: 'done', result })
  return server.jobs.get(id)!
}

const ask: Ask = async (path, options) => {
  if (path === '/api/fit/measures') {
    await server.measuring
    if (server.fails) throw server.fails
    server.measured.push(structuredClone(options!.body) as typeof server.measured[0])
    return ended(`measure-${server.measured.length}`, { id: `m${server.measured.length}` })
  }
  if (path === '/api/fit/hear') return ended(`hear-${++server.heard}`, { id: `h${server.heard}`, seconds: 4, matchedDb: -1, differenceDb: -30 })
  if (path.startsWith('/api/jobs/')) return server.jobs.get(path.slice('/api/jobs/'.length))
  if (path.startsWith('/api/fit/measures/')) return []
  if (path.startsWith('/api/vault/')) return { revision: server.presets.get(path.slice('/api/vault/'.length)) ?? { file: null, problem: 'it is gone' } }
  return kits.ask(path, options)
}

vi.mock('../parts/useApi', () => ({ api: (...all: Parameters<typeof asRequest>) => ask(...asRequest(...all)), toEmporionError: (thrown: unknown) => thrown }))
vi.mock('../parts/useServerEvents', () => ({ onServerEvent: () => undefined, onReconnected: () => undefined, tabId: 'own' }))
vi.mock('../parts/useSay', () => ({ say: () => undefined, sayError: () => undefined }))
vi.mock('../sound/fitter', () => ({
  planOf: async (kit: Kit, target: Target, _measures: unknown, wishes: Wishes) => {
    fitter.plans.push({ kit, target, wishes: structuredClone(wishes) })
    const rows = kit.pads.flatMap((pad, padIndex) => pad.layers.map((_, at) => ({ padIndex, at, state: 'kept' })))
    return { targetId: target.id, rows, pads: [] } as unknown as FitPlan
  },
  fittedSound: (_kit: unknown, _target: unknown, row: PlanRow) => new Promise((resolve, reject) => fitter.sounds.push({ at: row.padIndex, resolve, reject })),
}))
vi.mock('../sound/decoder', () => ({ decodeUrl: async (url: string) => ({ channels: [new Float32Array(4)], sampleRate: 44_100, frames: 4, outline: new Int8Array(2), url }) }))
vi.mock('../sound/switcher', () => ({
  playSides: async (sides: object, rate: number, side: string, isLooped: boolean, onEnd: () => void) => {
    ways.played.push([Object.keys(sides), rate, side, isLooped])
    ways.end = onEnd
  },
  hearSide: (side: string) => ways.switched.push(side),
  stopSides: () => ways.stops++,
  sidesPosition: () => null,
}))
vi.mock('../sound/output', () => ({ useOutput: () => ({ context: { state: 'running', sampleRate: 48_000 } }), setVolume: () => undefined, wake: async () => true }))
vi.mock('../sound/audition', () => ({ stopAudition: () => undefined, startAudition: () => undefined, setAuditionGain: () => undefined, auditionSeconds: () => null }))
vi.mock('../sound/bufferCache', () => ({ loadSound: async () => undefined, readySound: () => undefined }))
vi.mock('../sound/kitPlayer', () => ({ KitPlayer: class { setKit = () => undefined; stop = () => undefined; setOnce = () => undefined; setMetronome = () => undefined } }))

const filled = (name: string, count: number): Kit => placeSounds(emptyKit(name), 0, Array.from({ length: count }, (_, i) => testSound(i + 1))).kit
const rest = async () => {
  for (let i = 0; i < 12; i++) await new Promise(resolve => setTimeout(resolve))
}

async function opened(count = 3) {
  kits.add(filled('Night', count))
  await useKit().openLast()
  const fit = useFit()
  await fit.refresh()
  return fit
}

beforeEach(() => {
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined, removeItem: () => undefined })
  vi.stubGlobal('window', new EventTarget())
  freshStores()
  kits = kitServer()
  Object.assign(server, { presets: new Map(), measured: [], measuring: undefined, fails: undefined, heard: 0 })
  Object.assign(fitter, { plans: [], sounds: [] })
  Object.assign(ways, { played: [], switched: [], stops: 0, end: undefined })
})

// What is still being saved would reach the server of the next test.
afterEach(() => useKit().settled())

describe('a kit and a target', () => {
  it('are measured by the server, then planned', async () => {
    const fit = await opened()
    expect(server.measured).toHaveLength(1)
    expect(server.measured[0]).toMatchObject({ kit: { kit: { name: 'Night' } }, target: { id: 'lembos' } })
    expect(fit.plan!.rows.map(row => row.padIndex)).toEqual([0, 1, 2])
    expect([fit.state, fit.error, fit.kitName]).toEqual(['idle', '', 'Night'])
  })

  it('with nothing in the kit are not measured', async () => {
    const fit = await opened(0)
    expect(server.measured).toEqual([])
    expect([fit.plan, fit.state]).toEqual([undefined, 'idle'])
  })

  it('are measured anew when another target is chosen', async () => {
    const fit = await opened()
    fit.choose({ targets: ['akatos'] })
    await rest()
    expect(server.measured.map(({ target }) => target.id)).toEqual(['lembos', 'akatos'])
    expect(fit.plan!.targetId).toBe('akatos')
    fit.choose({ targets: ['holkas', 'akatos'] })
    await rest()
    expect(fit.targetId).toBe('akatos')
    expect(server.measured).toHaveLength(2)
  })

  it('are measured to the end when another target brings another order of the pads with it; a new order alone is planned anew', async () => {
    const fit = await opened()
    fit.choose({ targets: ['sfz'] })
    await rest()
    expect([fit.plan!.targetId, fit.state]).toEqual(['sfz', 'idle'])
    const plans = fitter.plans.length
    fit.choose({ way: 'role' })
    await rest()
    expect([fitter.plans.length, server.measured.length]).toEqual([plans + 1, 2])
  })

  it('may be a preset, as it is stored', async () => {
    server.presets.set('p1', { file: { kit: filled('Stored', 2) }, problem: null })
    const fit = await opened()
    fit.choose({ kits: ['p1'] })
    await rest()
    expect(server.measured[1]!.kit).toEqual({ presetId: 'p1' })
    expect([fit.kitName, fit.plan!.rows.length]).toEqual(['Stored', 2])
  })

  it('are the kit that was read in until another is opened on the bench; what was chosen stays', async () => {
    server.presets.set('p1', { file: { kit: filled('Read', 2) }, problem: null })
    const fit = await opened()
    const other = kits.add(filled('Morning', 1))
    expect(fit.followsBench).toBe(true)
    fit.fitRead('p1')
    await rest()
    expect([fit.followsBench, fit.kitName]).toEqual([false, 'Read'])
    await useKit().open(other.id)
    await rest()
    expect([fit.followsBench, fit.kitName, fit.plan!.rows.length]).toEqual([true, 'Morning', 1])
    fit.choose({ kits: ['p1'] })
    await useKit().open(kits.add(filled('Noon', 2)).id)
    await rest()
    expect([fit.followsBench, fit.kitName]).toEqual([false, 'Read'])
  })

  it('are the target of the kit, where it has one', async () => {
    kits.add({ ...filled('Night', 2), target: 'akatos' })
    await useKit().openLast()
    const fit = useFit()
    await fit.refresh()
    await rest()
    expect(fit.targetId).toBe('akatos')
    expect(new Set(server.measured.map(({ target }) => target.id))).toEqual(new Set(['akatos']))
  })

  it('of which one is new show nothing of the one before', async () => {
    const fit = await opened()
    const other = kits.add(filled('Morning', 1))
    let go: () => void = () => undefined
    server.measuring = new Promise(resolve => go = resolve)
    await useKit().open(other.id)
    const again = fit.refresh()
    await rest()
    expect([fit.kitName, fit.plan, fit.state]).toEqual(['Morning', undefined, 'measuring'])
    go()
    await again
    await rest()
    expect(fit.plan!.rows).toHaveLength(1)
  })

  it('that cannot be read are reported, and there is no plan of something else', async () => {
    const fit = await opened()
    fit.choose({ kits: ['gone'] })
    await rest()
    expect(fit.error).toBe('The preset cannot be read: it is gone')
    expect(fit.plan).toBeUndefined()
    server.fails = new EmporionError('disk-full', 'The disk is full.')
    fit.choose({ kits: ['bench'] })
    await rest()
    expect([fit.error, fit.plan, fit.state]).toEqual(['The disk is full.', undefined, 'idle'])
  })

  it('that come too late are forgotten', async () => {
    const fit = await opened()
    let goOn: (() => void) | undefined
    server.measuring = new Promise(resolve => goOn = resolve)
    fit.choose({ targets: ['akatos'] })
    await rest()
    fit.choose({ targets: ['holkas'] })
    await rest()
    expect(fit.state).toBe('measuring')
    goOn!()
    await rest()
    expect(fitter.plans.map(({ target }) => (target as Target).id)).toEqual(['lembos', 'holkas'])
    expect(fit.plan!.targetId).toBe('holkas')
  })
})

describe('what is said of pads', () => {
  it('is planned with at once, from what was measured', async () => {
    const fit = await opened()
    fit.toggleHold(1, 'bandwidth')
    fit.setImportance(2, 'high')
    await rest()
    expect(server.measured).toHaveLength(1)
    expect(fitter.plans.at(-1)!.wishes).toEqual({ holds: { 1: { bandwidth: true } }, importance: { 2: 'high' } })
    expect(fit.holdOf(1)).toEqual({ bandwidth: true })
    fit.toggleHold(1, 'bandwidth')
    fit.letGo()
    await rest()
    expect(fitter.plans.at(-1)!.wishes).toEqual({ holds: {}, importance: {} })
  })

  it('goes round the ways to be important', async () => {
    const fit = await opened()
    const seen = Array.from({ length: 4 }, () => {
      fit.nextImportance(0)
      return fit.wishes.importance[0]
    })
    expect(new Set(seen.slice(0, 3))).toEqual(new Set(['low', 'normal', 'high']))
    expect(seen[3]).toBe(seen[0])
  })

  it('belongs to its kit', async () => {
    server.presets.set('p1', { file: { kit: filled('Stored', 2) }, problem: null })
    const fit = await opened()
    fit.toggleHold(0, 'length')
    fit.choose({ kits: ['p1', 'bench'] })
    fit.kitId = 'p1'
    await rest()
    expect(fit.wishes.holds).toEqual({})
    fit.kitId = 'bench'
    await rest()
    expect(fit.wishes.holds).toEqual({ 0: { length: true } })
  })

  it('keeps the current row within the plan', async () => {
    const fit = await opened()
    fit.moveCursor(9)
    expect(fit.row!.padIndex).toBe(2)
    fit.moveCursor(-1)
    expect(fit.row!.padIndex).toBe(1)
    fit.moveCursor(-9)
    expect(fit.cursor).toBe(0)
  })
})

describe('hearing a plan', () => {
  const side = { channels: [new Float32Array(4)], outline: new Int8Array(2), spectrum: new Float32Array(2) }
  const made = (after: object | null = side) => ({ before: side, after, difference: after, seconds: 1.5, matchedDb: -2, differenceDb: after && -40 })

  it('plays the current sample in all its ways, one of them heard, and switches in place', async () => {
    await opened()
    const hearing = useFitHearing()
    const playing = hearing.toggle('sound')
    fitter.sounds[0]!.resolve(made())
    await playing
    expect(ways.played).toEqual([[['before', 'after', 'difference'], 48_000, 'before', false]])
    expect([hearing.isPlaying, hearing.seconds, hearing.differenceDb]).toEqual([true, 1.5, -40])
    await hearing.hear('after')
    expect([ways.switched, ways.played.length]).toEqual([['after'], 1])
    ways.end!()
    expect(hearing.isPlaying).toBe(false)
  })

  it('of a sample that is dropped only what it was is there', async () => {
    await opened()
    const hearing = useFitHearing()
    await nextTick()
    const playing = hearing.hear('after')
    fitter.sounds[0]!.resolve(made(null))
    await playing
    expect([hearing.side, hearing.hasAfter]).toEqual(['before', false])
    expect(ways.played[0]![0]).toEqual(['before'])
  })

  it('forgets a sample whose row is left before it was made', async () => {
    const fit = await opened()
    const hearing = useFitHearing()
    const playing = hearing.toggle('sound')
    fit.moveCursor(1)
    await nextTick()
    fitter.sounds[0]!.resolve(made())
    await playing
    expect(ways.played).toEqual([])
    expect(hearing.isPlaying).toBe(false)
  })

  it('plays the whole kit, rendered once for a plan', async () => {
    const fit = await opened()
    const hearing = useFitHearing()
    await hearing.toggle('kit')
    await hearing.toggle('kit')
    await hearing.toggle('kit')
    expect(server.heard).toBe(1)
    expect(ways.played[0]).toEqual([['before', 'after', 'difference'], 44_100, 'before', false])
    expect([hearing.what, hearing.seconds, hearing.matchedDb]).toEqual(['kit', 4, -1])
    fit.setImportance(0, 'low')
    await rest()
    await hearing.toggle('kit')
    await hearing.toggle('kit')
    expect(server.heard).toBe(2)
  })

  it('begins anew when it is to be played in a loop', async () => {
    await opened()
    const hearing = useFitHearing()
    await hearing.toggle('kit')
    hearing.isLooped = true
    await rest()
    expect(ways.played.map(([, , , isLooped]) => isLooped)).toEqual([false, true])
  })
})
