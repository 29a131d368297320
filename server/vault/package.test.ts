import { execFileSync } from 'node:child_process'
import { cpSync, readFileSync, renameSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { freshFolder, put, waveOf } from '../../tests/helpers/folder'
import { editKitFile, sealBag, storedBag } from '../../tests/helpers/presets'
import { anywhere } from '../base/opener'
import { listForeign, readForeign } from '../fit/foreign'
import { bagWithin, readPackage } from './package'

const signal = new AbortController().signal
const check = (bag: string) => readPackage(bag, { roots: anywhere(bag), signal })
const sample = (bag: string, hz: number) => join(bag, 'data', 'samples', `Tone ${hz}.wav`)

/** What may be wrong with a package whose own manifests agree with it, and what is to be said of it. */
const SEALED: readonly (readonly [string, (bag: string) => void, string | RegExp])[] = [
  ['a sample is missing', bag => rmSync(sample(bag, 300)), 'data/samples/Tone 300.wav is missing.'],
  ['a sample is empty', bag => writeFileSync(sample(bag, 300), ''), /^data\/samples\/Tone 300\.wav has 0 bytes/],
  ['a sample is garbage of its length', bag => writeFileSync(sample(bag, 300), readFileSync(sample(bag, 300)).fill(7)), /^data\/samples\/Tone 300\.wav can't be read as audio/],
  ['a sample is another sound of its length', bag => writeFileSync(sample(bag, 300), waveOf(310)), 'data/samples/Tone 300.wav is not the sound "Tone 300" that the kit plays.'],
  ['two samples are swapped', (bag) => {
    renameSync(sample(bag, 200), sample(bag, 999))
    renameSync(sample(bag, 300), sample(bag, 200))
    renameSync(sample(bag, 999), sample(bag, 300))
  }, 'data/samples/Tone 200.wav is not the sound "Tone 200" that the kit plays.'],
  ['a sample is listed that the kit does not use', bag => editKitFile(bag, ({ samples }) => {
    samples['a'.repeat(64)] = { path: 'samples/Tone 300.wav', bytes: 1 }
  }), 'kit.json lists samples/Tone 300.wav, which the kit does not use.'],
  ['a sound has more frames than its file', bag => editKitFile(bag, ({ kit }) => {
    kit.pads[0]!.layers[0]!.sound.frames = 2_000_000_000
  }), /^data\/samples\/Tone 200\.wav has 1 channels? of 4000 frames/],
  ['the kit has a blank name', bag => editKitFile(bag, ({ kit }) => {
    kit.name = '  '
  }), 'data/kit.json gives the kit a blank name.'],
  ['the version of BagIt is another', bag => writeFileSync(join(bag, 'bagit.txt'), 'BagIt-Version: 2.0\nTag-File-Character-Encoding: UTF-8\n'), 'bagit.txt states version 2.0 of BagIt; 0.97 and 1.0 can be read.'],
  ['there is no declaration', bag => rmSync(join(bag, 'bagit.txt')), 'bagit.txt is missing.'],
]

describe('a package', () => {
  it('with nothing wrong has no problems, and may lie in a folder of its own', async () => {
    const bag = await storedBag()
    expect(await check(bag)).toMatchObject({ file: { kit: { name: 'Night deck' } }, problems: [] })
    expect(await bagWithin(dirname(dirname(bag)))).toBe(bag)
  })

  for (const [what, damage, output] of SEALED) {
    it(`is damaged where ${what}, though its own manifests agree with it`, async () => {
      const bag = await storedBag()
      damage(bag)
      if (what !== 'there is no declaration') sealBag(bag)
      const { problems } = await check(bag)
      expect(problems[0]).toMatch(output)
      // Every door says the same: here that of Fit and of the command line.
      await expect(readForeign(bag, anywhere(bag), { middleC: 'C3' }, { signal, onStep: () => undefined })).rejects.toThrow(output instanceof RegExp ? /The package is damaged/ : output)
    })
  }

  it('is held against the manifest, the tag manifest and the Payload-Oxum', async () => {
    const [changed, tag, oxum, added] = [await storedBag(), await storedBag(), await storedBag(), await storedBag()]
    writeFileSync(join(changed, 'data', 'kit.sfz'), '')
    expect((await check(changed)).problems).toContain('data/kit.sfz is not what was stored: its contents have changed.')
    writeFileSync(join(tag, 'bag-info.txt'), `${readFileSync(join(tag, 'bag-info.txt'), 'utf8')}Contact-Name: nobody\n`)
    expect((await check(tag)).problems).toEqual(['bag-info.txt is not what was stored: its contents have changed.'])
    writeFileSync(join(oxum, 'bag-info.txt'), 'Payload-Oxum: 1.1\n')
    rmSync(join(oxum, 'tagmanifest-sha256.txt'))
    expect((await check(oxum)).problems).toEqual([expect.stringMatching(/^bag-info\.txt speaks of 1 byte in 1 file; there are [\d,]+ in 6\./)])
    put(added, 'data/extra.txt', 'x')
    expect((await check(added)).problems).toEqual(expect.arrayContaining(['data/extra.txt is there but not listed.']))
  })

  it('with a link or a pipe for a sample is damaged, and nobody waits for it', async () => {
    for (const make of [(path: string) => symlinkSync('/etc/hostname', path), (path: string) => execFileSync('mkfifo', [path])]) {
      const bag = await storedBag()
      rmSync(sample(bag, 400))
      make(sample(bag, 400))
      const { problems } = await readPackage(bag, { roots: [dirname(dirname(bag))], signal })
      expect(problems).toEqual(['data/samples/Tone 400.wav is missing.', expect.stringMatching(/Oxum|bytes in/), 'data/samples/Tone 400.wav can\'t be opened.'])
    }
  })
})

describe('a kit of another form', () => {
  it('is read below the roots alone, whatever links lie there, and no pipe is waited for', async () => {
    const [root, elsewhere] = [freshFolder(), freshFolder()]
    put(elsewhere, 'out/kick.wav', waveOf(100))
    put(elsewhere, 'kit.sfz', '<region> sample=out/kick.wav key=36')
    cpSync(join(elsewhere, 'out'), join(root, 'samples'), { recursive: true })
    symlinkSync(join(elsewhere, 'out'), join(root, 'linked'))
    symlinkSync(join(elsewhere, 'kit.sfz'), join(root, 'kit.sfz'))
    const read = (path: string) => readForeign(path, [root], { middleC: 'C3' }, { signal, onStep: () => undefined })
    for (const path of [join(root, 'kit.sfz'), join(root, 'linked'), root]) await expect(read(path)).rejects.toMatchObject({ code: 'outside' })
    await expect(listForeign(join(root, 'kit.sfz'), [root])).rejects.toMatchObject({ code: 'outside' })
    symlinkSync(join(elsewhere, 'out/kick.wav'), join(root, 'samples/snare.wav'))
    execFileSync('mkfifo', [join(root, 'samples/tom.wav')])
    const found = await read(join(root, 'samples'))
    expect(found.missing).toEqual([expect.stringMatching(/^snare\.wav: .*outside/), expect.stringMatching(/^tom\.wav: .*no regular file/)])
    await found.close()
    execFileSync('mkfifo', [join(root, 'pipe.sfz')])
    await expect(read(join(root, 'pipe.sfz'))).rejects.toThrow('no regular file')
  })
})
