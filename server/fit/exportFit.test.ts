import { mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { kitOf, layerOf, Sounds, target } from '../../tests/helpers/fit'
import { freshFolder } from '../../tests/helpers/folder'
import { writeWave } from '../../core/audio/wave/write'
import { SHIPPED_TARGETS } from '../../core/fit/shipped'
import type { Kit } from '../../core/kit/document'
import { anywhere } from '../base/opener'
import { realDisk, type Disk } from '../base/disk'
import { NO_WISHES, writeFit, type FitAsked } from './exportFit'
import { listForeign, readForeign } from './foreign'
import type { LoadedKit, Steering } from './loadedKit'

const sounds = new Sounds()
const kit: Kit = { ...kitOf([
  { name: 'Kick', role: 'kick', layers: [layerOf(sounds.hit('soft', 1), { highVelocity: 63 }), layerOf(sounds.hit('hard', 2), { lowVelocity: 64 })] },
  { name: 'Hat', role: 'hat.closed', chokeGroup: 1, pan: 0.4, layers: [layerOf(sounds.hit('hat', 3, { stereo: true, sampleRate: 44_100 }))] },
  { name: 'Tom', gainDb: -6, tuneCents: -200, layers: [layerOf(sounds.hit('tom', 4), { reverse: true })] },
]), name: 'Ferry' }

function loaded(missing: readonly string[] = []): LoadedKit {
  const folder = freshFolder()
  for (const [id, { channels, sampleRate }] of sounds.audio) writeFileSync(join(folder, `${id}.wav`), writeWave(channels, sampleRate, { depth: 'float' }))
  return { kit, locate: id => Promise.resolve(missing.includes(id) ? undefined : join(folder, `${id}.wav`)), remarks: [], lost: 0, missing: [], close: () => Promise.resolve() }
}

const steering: Steering = { signal: new AbortController().signal, onStep: () => undefined }
const asked = (id: string, more: Partial<FitAsked> = {}): FitAsked => ({ target: target(id), wishes: NO_WISHES, cacheDir: null, dataDir: null, ...more })

function contents(folder: string): Map<string, string> {
  return new Map(readdirSync(folder, { recursive: true, withFileTypes: true }).filter(entry => entry.isFile()).map(entry => [join(entry.parentPath, entry.name).slice(folder.length), readFileSync(join(entry.parentPath, entry.name)).toString('base64')]))
}

describe('writing a kit for a target', () => {
  it.each(SHIPPED_TARGETS.map(({ id }) => id))('%s: the same kit gives the same bytes, and reads back with as many pads', async (id) => {
    const [one, other] = [freshFolder(), freshFolder()]
    const first = await writeFit(loaded(), asked(id), one, steering)
    await writeFit(loaded(), asked(id), other, steering)
    expect(contents(one)).toEqual(contents(other))
    expect(first.files.map(file => file.path)).toContain('report.html')
    const main = first.files.find(file => /\.(sfz|sf2|dls|zip)$/.test(file.path))
    const path = main ? join(first.folder!, main.path) : first.folder!
    await listForeign(path, anywhere(path))
    const back = await readForeign(path, anywhere(path), { middleC: target(id).middleC }, steering)
    expect(back.kit.pads.filter(pad => pad.layers.length > 0)).toHaveLength(3)
    await back.close()
  })

  it('a kit package is planned by the files that it copies, each once, and refused with nothing left where it passes its limit', async () => {
    const source = loaded()
    const twice: LoadedKit = { ...source, kit: { ...kit, pads: [...kit.pads, kit.pads[0]!] } }
    const { plan, files } = await writeFit(twice, asked('package'), freshFolder(), steering)
    const paths = await Promise.all([...new Set(kit.pads.flatMap(pad => pad.layers.map(layer => layer.sound.id)))].map(id => source.locate(id)))
    expect(plan.after.bytes).toBe(paths.reduce((sum, path) => sum + statSync(path!).size, 0))
    const zip = files.find(({ path }) => path.endsWith('.zip'))!.bytes
    expect(zip).toBeGreaterThan(plan.after.bytes)
    const out = freshFolder()
    await expect(writeFit(twice, asked('package', { target: { ...target('package'), limits: { ...target('package').limits, bytes: zip - 1 } } }), out, steering)).rejects.toMatchObject({ code: 'limit' })
    expect(readdirSync(out)).toEqual([])
  })

  it('puts a second folder beside the first one, two at once too, and overwrites nothing', async () => {
    const out = freshFolder()
    await writeFit(loaded(), asked('lembos'), out, steering)
    await Promise.all([1, 2].map(() => writeFit(loaded(), asked('lembos'), out, steering)))
    expect(readdirSync(out).sort()).toEqual(['Ferry for Lembos', 'Ferry for Lembos 2', 'Ferry for Lembos 3'])
  })

  it('on a full disk leaves nothing half-written, whichever file it is', async () => {
    for (let failing = 1; failing <= 5; failing++) {
      const out = freshFolder()
      let written = 0
      const disk: Disk = { ...realDisk, writeFile: (path, bytes) => ++written === failing ? Promise.reject(Object.assign(new Error('no space'), { code: 'ENOSPC' })) : realDisk.writeFile(path, bytes) }
      await expect(writeFit(loaded(), asked('lembos'), out, steering, disk)).rejects.toMatchObject({ code: 'disk-full' })
      expect(readdirSync(out)).toEqual([])
    }
  })

  it('that is cancelled leaves nothing', async () => {
    const out = freshFolder()
    const cancelling = new AbortController()
    await expect(writeFit(loaded(), asked('samples'), out, { signal: cancelling.signal, onStep: done => done === 2 && cancelling.abort(new Error('cancelled')) })).rejects.toThrow('cancelled')
    expect(readdirSync(out)).toEqual([])
  })

  it('that cannot fit says which limit, by how much and what would be enough, and writes nothing', async () => {
    const out = freshFolder()
    const tiny = { ...target('lembos'), limits: { ...target('lembos').limits, seconds: 0.25 } }
    const held = { holds: { 0: { length: true, pad: true }, 1: { length: true, pad: true } }, importance: {} }
    await expect(writeFit(loaded(), asked('lembos', { target: tiny, wishes: held }), out, steering)).rejects.toMatchObject({ code: 'limit', message: expect.stringMatching(/at least 0\.40 s needed, Lembos has 0\.25 s \(0\.15 s too much\)\. Needed by A1 \(0\.20 s\) and A2 \(0\.20 s\)\. To make it fit, no longer hold the length of A[12]\./) as string })
    expect(readdirSync(out)).toEqual([])
  })

  it('lists missing samples, and writes the rest when that is asked for', async () => {
    const out = freshFolder()
    const away = kit.pads[1]!.layers[0]!.sound.id
    await expect(writeFit(loaded([away]), asked('sfz'), out, steering)).rejects.toMatchObject({ code: 'not-found', message: expect.stringContaining('hat') as string })
    const fitted = await writeFit(loaded([away]), asked('sfz', { withoutMissing: true }), out, steering)
    expect([fitted.kept, fitted.missing]).toEqual([3, ['hat']])
  })

  it('tells in its report what was changed, dropped and moved, without a script or a stranger\'s markup', async () => {
    const named: LoadedKit = { ...loaded(), kit: { ...kit, name: '<script>alert(1)</script>', pads: kit.pads.map((pad, i) => i === 0 ? { ...pad, name: 'Kick & <b>' } : pad) } }
    const { folder } = await writeFit(named, asked('lembos'), freshFolder(), steering)
    const [html, text] = ['report.html', 'report.txt'].map(name => readFileSync(join(folder!, name), 'utf8')) as [string, string]
    expect(html).not.toMatch(/<script|<b>/)
    expect(html).toContain('Kick &amp; &lt;b&gt;')
    expect(text).toContain('Dropped (at velocities 1 to 63)')
    expect(text).toContain('A2 is in choke group 1, which Lembos does not know')
    expect(text).toContain('45 of 48 pads of Lembos stay empty: what is on them now is erased on sending')
  })
})

describe('reading kits of other forms', () => {
  it('an SFZ finds its samples whatever the case of letters, and beside its folder, but not further out', async () => {
    const folder = freshFolder()
    mkdirSync(join(folder, 'kit', 'Samples'), { recursive: true })
    const wave = writeWave(sounds.audio.get(kit.pads[0]!.layers[0]!.sound.id)!.channels, 48_000, { depth: 24 })
    writeFileSync(join(folder, 'kit', 'Samples', 'Kick One.WAV'), wave)
    writeFileSync(join(folder, 'outside.wav'), wave)
    writeFileSync(join(folder, 'kit', 'k.sfz'), '<region> sample=samples\\kick one.wav key=36\n<region> sample=../outside.wav key=37\n<region> sample=../../far.wav key=38')
    const notesIn = async (path: string, preset?: string) => {
      const read = await readForeign(path, anywhere(folder), { middleC: 'C3', ...(preset ? { preset } : {}) }, steering)
      await read.close()
      return { notes: read.kit.pads.filter(pad => pad.layers.length > 0).map(pad => pad.note), remarks: read.remarks.join(), lost: read.lost }
    }
    expect(await notesIn(join(folder, 'kit', 'k.sfz'))).toMatchObject({ notes: [36, 37], remarks: expect.stringContaining('../../far.wav leaves the folder') as string, lost: 1 })
    expect(await notesIn(join(folder, 'kit'))).toMatchObject({ notes: [36], lost: 2 })
  })

  it('SFZ files are found at any depth, of several the one that is asked for, with its samples in a folder beside', async () => {
    const folder = freshFolder()
    const wave = writeWave(sounds.audio.get(kit.pads[0]!.layers[0]!.sound.id)!.channels, 48_000, { depth: 24 })
    for (const name of ['Programs/old', 'Samples']) mkdirSync(join(folder, 'Pack', name), { recursive: true })
    writeFileSync(join(folder, 'Pack', 'Samples', 'a.wav'), wave)
    writeFileSync(join(folder, 'Pack', 'Programs', 'first.sfz'), '<region> sample=../Samples/a.wav key=40')
    // Latin-1, as older editors wrote it.
    writeFileSync(join(folder, 'Pack', 'Programs', 'old', 'second.sfz'), Buffer.from('<group> group_label=Fähre\n<region> sample=../../Samples/a.wav key=41', 'latin1'))
    const listing = await listForeign(folder, anywhere(folder))
    expect(listing).toMatchObject({ format: 'SFZ', choices: [{ name: 'first', place: 'Pack/Programs/first.sfz' }, { name: 'second', place: 'Pack/Programs/old/second.sfz' }] })
    const padOf = async (preset?: string) => {
      const read = await readForeign(folder, anywhere(folder), { middleC: 'C3', ...(preset ? { preset } : {}) }, steering)
      await read.close()
      const [pad] = read.kit.pads.filter(one => one.layers.length > 0)
      return [pad!.note, pad!.name]
    }
    expect(await padOf()).toEqual([40, 'a'])
    expect(await padOf('2')).toEqual([41, 'Fähre'])
    expect(await padOf('Pack/Programs/old/second.sfz')).toEqual([41, 'Fähre'])
    // Sounds beside it make the folder a sample set, whatever lies further down.
    writeFileSync(join(folder, '36 kick.wav'), wave)
    expect(await listForeign(folder, anywhere(folder))).toMatchObject({ format: 'sample set' })
    rmSync(join(folder, '36 kick.wav'))
    await expect(padOf('third')).rejects.toMatchObject({ code: 'not-found' })
  })

  it('what is no kit is refused with a reason', async () => {
    const folder = freshFolder()
    writeFileSync(join(folder, 'a.txt'), 'hello')
    await expect(listForeign(join(folder, 'a.txt'), anywhere(folder))).rejects.toMatchObject({ code: 'unreadable' })
    await expect(listForeign(join(folder, 'nothing'), anywhere(folder))).rejects.toMatchObject({ code: 'not-found' })
    await expect(readForeign(folder, anywhere(folder), { middleC: 'C3' }, steering)).rejects.toMatchObject({ code: 'unreadable' })
  })
})
