import { spawnSync } from 'node:child_process'
import { cpSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { beforeEach, describe, expect, it } from 'vitest'
import { readWave } from '../../core/audio/wave/read'
import { blueprintOf } from '../../core/kit/blueprint'
import { emptyKit, type Kit } from '../../core/kit/document'
import { placeSounds, setLayer, type SoundToPlace } from '../../core/kit/edits'
import { checkBag } from '../../tests/conformance/bagit'
import { peakOf } from '../../tests/helpers/audio'
import { freshFolder, put, waveOf } from '../../tests/helpers/folder'
import { analyseFile } from '../library/analyse'
import { realDisk, type Disk } from '../base/disk'
import { readPreset, readRevision, readVault } from './read'
import { storePreset, type StoreRequest } from './store'

let folder: string
let vaultDir: string
let places: Map<string, string>

beforeEach(() => {
  folder = freshFolder()
  vaultDir = join(folder, 'vault')
  places = new Map()
})

async function sound(path: string, bytes: Uint8Array): Promise<SoundToPlace> {
  const whole = put(folder, path, bytes)
  const analysis = await analyseFile(whole, [folder])
  if ('error' in analysis) throw new Error(analysis.error)
  const { hash, frames, sampleRate, channels } = analysis.facts
  places.set(hash, whole)
  return { sound: { id: hash, name: path.replace(/^.*\/|\.[^.]*$/g, ''), frames, sampleRate, channels }, kind: null }
}

async function kitOfThree(): Promise<Kit> {
  const sounds = [await sound('a/Möwe.wav', waveOf(200)), await sound('b/Möwe.wav', waveOf(300)), await sound('c/MÖWE.WAV', waveOf(400))]
  return setLayer(placeSounds(emptyKit('Night deck'), 0, sounds).kit, 2, 0, { reverse: true, startFrame: 100, endFrame: 1100 })
}

function store(kit: Kit, request: Partial<StoreRequest> = {}, disk: Disk = realDisk, signal = new AbortController().signal) {
  return storePreset({ kit, name: 'Night deck', presetId: null, type: 'kit', ...request }, {
    vaultDir, disk, signal, locate: async id => places.get(id), onSample: () => undefined, now: new Date('2026-03-01T12:00:00Z'),
  })
}

describe('storing a preset', () => {
  it('writes a bag that keeps the rules of RFC 8493, with copies bit for bit under unique names', async () => {
    const stored = await store(await kitOfThree())
    expect(checkBag(stored.path)).toEqual([])
    expect(stored).toMatchObject({ revision: 1, pads: 3, samples: 3, path: join(vaultDir, 'Night deck', 'revision-1') })
    const names = readdirSync(join(stored.path, 'data', 'samples'))
    expect(names.toSorted()).toEqual(['MOWE 3.wav', 'MOWE reversed.wav', 'Mowe 2.wav', 'Mowe.wav'])
    expect(readFileSync(join(stored.path, 'data', 'samples', 'Mowe 2.wav'))).toEqual(Buffer.from(waveOf(300)))
    const preview = readWave(readFileSync(join(stored.path, 'data', 'preview.wav')))
    expect(peakOf(preview.channels[0]!)).toBeCloseTo(0.5 * (100 / 127) ** 2, 1)
  })

  it('writes the reversed part of a sample for samplers that cannot reverse', async () => {
    const stored = await store(await kitOfThree())
    const baked = readWave(readFileSync(join(stored.path, 'data', 'samples', 'MOWE reversed.wav')))
    const whole = readWave(waveOf(400))
    expect([...baked.channels[0]!]).toEqual([...whole.channels[0]!.slice(100, 1100).reverse()])
    expect(readFileSync(join(stored.path, 'data', 'kit.sfz'), 'utf8')).toContain('sample=samples/MOWE reversed.wav')
  })

  it('writes a part that fades as it is heard, and a blueprint with no samples at all', async () => {
    const kit = setLayer(await kitOfThree(), 0, 0, { endFrame: 1000, fadeOutFrames: 500 })
    const stored = await store(kit)
    const faded = readWave(readFileSync(join(stored.path, 'data', 'samples', 'Mowe faded.wav'))).channels[0]!
    const whole = readWave(waveOf(200)).channels[0]!
    expect(faded).toHaveLength(1000)
    expect(faded[100]).toBe(whole[100])
    expect(faded[999]).toBeCloseTo(0, 6)
    expect(faded[749]).toBeCloseTo(whole[749]! / 2, 3)
    const blueprint = await store(blueprintOf(kit), { name: 'Roles', type: 'blueprint' })
    expect(checkBag(blueprint.path)).toEqual([])
    expect((await readRevision(vaultDir, 'Roles', 1)).file).toMatchObject({ type: 'blueprint', samples: {} })
  })

  it('a preview keeps to -1 dBTP, lowered as a whole, and says by how much; solos left on count as asked for', async () => {
    const kit = await kitOfThree()
    const hot: Kit = { ...kit, gainDb: 24 }
    const loud = await store(hot, { name: 'Hot' })
    expect(loud.previewLoweredDb).toBeLessThan(-5)
    const { channels } = readWave(readFileSync(join(loud.path, 'data', 'preview.wav')))
    // Nothing is flat at full scale.
    expect(channels[0]!.filter(value => Math.abs(value) > 0.999)).toHaveLength(0)
    const read = spawnSync('ffmpeg', ['-hide_banner', '-nostats', '-i', join(loud.path, 'data', 'preview.wav'), '-af', 'ebur128=peak=true', '-f', 'null', '-'], { encoding: 'utf8' }).stderr
    // EBU R 128 by ffmpeg (outside reference).
    expect(Number(/True peak:\s+Peak:\s+(-?[\d.]+) dBFS/.exec(read)?.[1])).toBeCloseTo(-1, 0)
    expect((await store(kit, { name: 'Plain' })).previewLoweredDb).toBe(0)

    const soloed: Kit = { ...kit, pads: kit.pads.map((pad, index) => index === 12 ? { ...pad, soloed: true } : pad) }
    expect(await store(soloed, { name: 'As heard', heard: 'as heard' })).toMatchObject({ previewSilent: true })
    expect(await store(soloed, { name: 'All pads', heard: 'all pads' })).toMatchObject({ previewSilent: false })
    expect((await readRevision(vaultDir, 'All pads', 1)).file?.kit.pads[12]!.soloed).toBe(true)
  })

  it('never stores over a name that exists, and makes the next revision when asked to', async () => {
    const kit = await kitOfThree()
    const first = await store(kit)
    const before = readFileSync(join(first.path, 'manifest-sha256.txt'), 'utf8')
    await expect(store(kit, { name: ' night DECK ' })).rejects.toThrow(/already/)
    const second = await store(placeSounds(kit, 5, [await sound('d/x.wav', waveOf(500))]).kit, { presetId: first.presetId })
    expect(second.revision).toBe(2)
    expect(checkBag(second.path)).toEqual([])
    expect(checkBag(first.path)).toEqual([])
    expect(readFileSync(join(first.path, 'manifest-sha256.txt'), 'utf8')).toBe(before)
  })

  it('two stores of one preset at the same moment become two revisions', async () => {
    const kit = await kitOfThree()
    const { presetId } = await store(kit)
    const both = await Promise.all([store(kit, { presetId }), store(kit, { presetId })])
    expect(both.map(one => one.revision).toSorted()).toEqual([2, 3])
  })

  it('refuses a sample that is away or was changed after it was brought in, and stores nothing', async () => {
    const kit = await kitOfThree()
    const [id, path] = [...places][0]!
    writeFileSync(path, waveOf(999))
    await expect(store(kit)).rejects.toThrow(/no longer holds the sound "Möwe"/)
    places.delete(id)
    await expect(store(kit)).rejects.toThrow(/nowhere to be found: "Möwe"/)
    expect(readdirSync(vaultDir)).toEqual([])
  })

  it('is found again from the disk alone', async () => {
    const kit = await kitOfThree()
    const stored = await store(kit)
    put(vaultDir, 'notes.txt', 'not a preset')
    const { presets, others } = await readVault(vaultDir)
    expect(others).toBe(1)
    expect(presets).toEqual([{ id: stored.presetId, name: 'Night deck', folder: 'Night deck', revisions: [1] }])
    const revision = await readRevision(vaultDir, 'Night deck', 1)
    expect(revision).toMatchObject({ pads: 3, samples: 3, problem: null, bytes: stored.bytes })
    expect(revision.file?.kit.pads).toEqual(kit.pads)
  })

  it('a folder that was copied by hand is a preset of its own, whatever it sorts before', async () => {
    const stored = await store(await kitOfThree())
    for (const copy of ['A copy of it', 'Night deck, copied', `${'Long '.repeat(20)}1`, `${'Long '.repeat(20)}2`]) cpSync(join(vaultDir, 'Night deck'), join(vaultDir, copy), { recursive: true })
    const { presets } = await readVault(vaultDir)
    expect(presets.map(preset => preset.name)).toEqual(['A copy of it', `${'Long '.repeat(20)}1`, `${'Long '.repeat(20)}2`, 'Night deck', 'Night deck, copied'])
    expect(presets[3]!.id).toBe(stored.presetId)
    expect(new Set(presets.map(preset => preset.id)).size).toBe(5)
    const again = await store(await kitOfThree(), { presetId: presets[0]!.id })
    expect(again.path).toBe(join(vaultDir, 'A copy of it', 'revision-2'))
    expect((await readVault(vaultDir)).presets.map(preset => preset.revisions)).toEqual([[1, 2], [1], [1], [1], [1]])
  })

  it('says of a damaged preset what is wrong, and still lists it', async () => {
    const stored = await store(await kitOfThree())
    writeFileSync(join(stored.path, 'data', 'kit.json'), '{')
    expect((await readPreset(vaultDir, 'Night deck'))?.revisions).toEqual([1])
    expect((await readRevision(vaultDir, 'Night deck', 1)).problem).toMatch(/damaged/)
  })
})

describe('a disk that fails', () => {
  /** The real disk, failing at its n-th step with this code. */
  function failingAt(step: number, code: string): { disk: Disk, reached: () => boolean } {
    let count = 0
    const guard = <A extends unknown[], R>(work: (...args: A) => Promise<R>) => (...args: A): Promise<R> => {
      if (count++ === step) return Promise.reject(Object.assign(new Error(code), { code }))
      return work(...args)
    }
    const { makeFolder, readFile, writeFile, flushFolder, rename, remove } = realDisk
    return {
      disk: { makeFolder: guard(makeFolder), readFile: guard(readFile), writeFile: guard(writeFile), flushFolder: guard(flushFolder), rename: guard(rename), remove },
      reached: () => count > step,
    }
  }

  it('full at any step leaves the old revision intact, nothing half-written, and a clear message', async () => {
    const kit = await kitOfThree()
    const first = await store(kit)
    let steps = 0
    for (;; steps++) {
      const { disk, reached } = failingAt(steps, 'ENOSPC')
      const error: unknown = await store(kit, { presetId: first.presetId }, disk).then(() => undefined, thrown => thrown)
      if (!reached()) break
      const revisions = (await readPreset(vaultDir, 'Night deck'))!.revisions
      for (const number of revisions) expect(checkBag(join(vaultDir, 'Night deck', `revision-${number}`))).toEqual([])
      expect(readdirSync(vaultDir)).toEqual(['Night deck'])
      if (error !== undefined && steps > 0) expect(String(error)).toMatch(/disk is full.*unharmed.*Free some space/)
    }
    expect(steps).toBeGreaterThan(12)
  })

  it('full at any step of a first store leaves an empty vault or a whole preset', async () => {
    const kit = await kitOfThree()
    for (let step = 1; step < 16; step++) {
      const { disk } = failingAt(step, 'ENOSPC')
      await store(kit, { name: `Kit ${step}` }, disk).catch(() => undefined)
      for (const { folder: name } of (await readVault(vaultDir)).presets) expect(checkBag(join(vaultDir, name, 'revision-1'))).toEqual([])
    }
  })

  it('cancelled on the way, nothing is left', async () => {
    const cancelling = new AbortController()
    cancelling.abort()
    await expect(store(await kitOfThree(), {}, realDisk, cancelling.signal)).rejects.toThrow()
    expect(statSync(vaultDir).isDirectory() && readdirSync(vaultDir)).toEqual([])
  })
})
