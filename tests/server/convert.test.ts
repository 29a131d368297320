import { execFileSync, spawnSync } from 'node:child_process'
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { beforeAll, describe, expect, it } from 'vitest'
import { demoSounds } from '../helpers/demoSounds'
import { freshFolder } from '../helpers/folder'

const KIT = 'All hands on the night ferry.sfz'
let kit: string

/** Runs one of the built commands, as a script would. */
function run(command: 'convert' | 'targets' | 'verify', ...args: readonly string[]): { status: number | null, out: string, errors: string } {
  const { status, stdout, stderr } = spawnSync('node', [`dist/${command}.mjs`, ...args], { encoding: 'utf8' })
  return { status, out: stdout, errors: stderr }
}
const json = (out: string) => JSON.parse(out) as { folder: string, kept: number, dropped: number, leftOut: number, plan: { before: { seconds: number }, after: { seconds: number, pads: number } }, files: { path: string, bytes: number }[] }
const wavesIn = (folder: string) => readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter(name => name.endsWith('.wav')).map(name => join(folder, name))
/** As `soxi` (outside reference) reads it. */
const soxi = (flag: string, files: readonly string[]) => execFileSync('soxi', [flag, ...files], { encoding: 'utf8' }).trim().split('\n').map(Number)

/** The kit converted to a target, once for all tests that only read what came out. */
const converted = new Map<string, ReturnType<typeof json>>()
function convertedTo(target: string): ReturnType<typeof json> {
  const known = converted.get(target) ?? json(run('convert', kit, '--to', target, '--out', freshFolder(), '--json').out)
  converted.set(target, known)
  return known
}

beforeAll(async () => {
  kit = join(await demoSounds(), KIT)
})

describe('the demo\'s largest kit: at least 90 s, with stereo, 24 bit and layers', () => {
  it('fits Lembos: mono, 16 bit, 44.1 kHz and 45 s in all by soxi, in 48 slots at most; it is read back', () => {
    const out = freshFolder()
    const { status, out: said } = run('convert', kit, '--to', 'lembos', '--out', out, '--json')
    expect(status).toBe(0)
    const { folder, plan, kept } = json(said)
    expect(plan.before.seconds).toBeGreaterThan(90)
    const waves = wavesIn(folder)
    expect(waves).toHaveLength(kept)
    expect(waves.length).toBeLessThanOrEqual(48)
    expect(new Set(soxi('-r', waves))).toEqual(new Set([44_100]))
    expect(new Set(soxi('-b', waves))).toEqual(new Set([16]))
    expect(new Set(soxi('-c', waves))).toEqual(new Set([1]))
    // 45 s x 44,100 Hz: arithmetic.
    expect(soxi('-s', waves).reduce((sum, frames) => sum + frames, 0)).toBeLessThanOrEqual(45 * 44_100)
    const back = json(run('convert', folder, '--to', 'sfz', '--out', freshFolder(), '--json').out)
    expect(back.plan.after.pads).toBe(waves.length)
  })

  it('comes down to a third of that by cuts and by leaving out, still within every limit', () => {
    const own = freshFolder()
    mkdirSync(join(own, 'targets'))
    const lembos = JSON.parse(run('targets', '--json').out.split('\n').find(line => line.includes('"id":"lembos"'))!) as Record<string, unknown>
    const { isOwn: _isOwn, ...target } = lembos
    writeFileSync(join(own, 'targets', 'half.json'), JSON.stringify({ ...target, id: 'half', name: 'Half', limits: { seconds: 15, bytes: 1_000_000, unit: 'MB', longestSeconds: 0.8, samples: 30 } }))
    const { folder } = json(run('convert', kit, '--to', 'Half', '--data', own, '--out', freshFolder(), '--json').out)
    const waves = wavesIn(folder)
    const seconds = soxi('-D', waves)
    expect(waves.length).toBeLessThanOrEqual(30)
    expect(Math.max(...seconds)).toBeLessThanOrEqual(0.8)
    expect(seconds.reduce((sum, one) => sum + one, 0)).toBeLessThanOrEqual(15)
    expect(waves.reduce((sum, path) => sum + readFileSync(path).length, 0)).toBeLessThanOrEqual(1_000_000)
  })

  it.each(['akatos', 'kerkouros', 'holkas', 'sf2', 'dls-2', 'dls-1', 'sfz', 'samples', 'package'])('goes to %s and back', (target) => {
    const { folder, files, plan } = convertedTo(target)
    const main = files.find(file => /\.(sf2|dls|sfz|zip)$/.test(file.path))
    const back = run('convert', main ? join(folder, main.path) : folder, '--to', 'samples', '--dry-run', '--json')
    expect(back.status).toBe(0)
    expect(json(back.out).plan ?? JSON.parse(back.out)).toMatchObject({ after: { pads: plan.after.pads } })
    if (target === 'akatos') {
      const names = wavesIn(folder).map(path => path.slice(path.lastIndexOf('/') + 1, -4))
      for (const name of names) expect(name).toMatch(/^[A-Z0-9]{1,12}$/)
      expect(new Set(names).size).toBe(names.length)
    }
    // 128 MiB = 134,217,728 bytes; 80 MB = 80,000,000: arithmetic.
    if (target === 'kerkouros' || target === 'holkas') expect(wavesIn(folder).reduce((sum, path) => sum + readFileSync(path).length, 0)).toBeLessThanOrEqual(target === 'kerkouros' ? 134_217_728 : 80_000_000)
  })

  it('gives the same bytes again', () => {
    const [one, other] = [convertedTo('sf2'), json(run('convert', kit, '--to', 'sf2', '--out', freshFolder(), '--json').out)]
    for (const { path } of one.files) expect(readFileSync(join(one.folder, path)).equals(readFileSync(join(other.folder, path)))).toBe(true)
  })
})

describe('every command', () => {
  const COMMANDS = ['analyse', 'convert', 'targets', 'verify'] as const
  const plain = (command: string, ...args: readonly string[]) => spawnSync('node', [`dist/${command}.mjs`, ...args], { encoding: 'utf8' })

  it.each(COMMANDS)('%s prints how it is used on --help and -h, and one sentence on what it does not understand', (command) => {
    for (const help of ['--help', '-h']) expect(plain(command, 'x', help)).toMatchObject({ status: 0, stderr: '', stdout: expect.stringContaining(`usage: ./emporion ${command}`) as string })
    for (const [args, said] of [[['--nonsense'], 'There is no option --nonsense.'], [['--json=yes'], '--json takes no value.']] as const) {
      const { status, stdout, stderr } = plain(command, ...args)
      expect([status, stdout]).toEqual([2, ''])
      expect(stderr.split('\n')[0]).toBe(said)
      expect(stderr).not.toMatch(/\n\s+at |node:internal/)
    }
  })

  it('says what is missing of its arguments', () => {
    const first = (command: string, ...args: string[]) => plain(command, ...args).stderr.split('\n')[0]
    expect(first('convert')).toBe('convert needs a kit.')
    expect(first('convert', 'a')).toBe('convert needs --to TARGET.')
    expect(first('convert', 'a', '--to', 'sfz')).toBe('convert needs --out DIR, or --dry-run.')
    expect(first('convert', 'a', 'b', '--to', 'sfz')).toBe('convert takes one kit at a time.')
    expect(first('convert', 'a', '--to')).toBe('--to needs a value.')
    expect(first('verify')).toBe('verify needs a package or a folder.')
    expect(first('targets', 'sfz')).toBe('targets takes no names, and got "sfz".')
  })
})

describe('fit for scripts', () => {
  it('tells what goes wrong by its exit status: 2 not understood, 3 not there, 4 not readable, 5 cannot fit', () => {
    const out = freshFolder()
    expect(run('convert', kit).status).toBe(2)
    expect(run('convert', kit, '--to', 'nothing', '--out', out).status).toBe(3)
    expect(run('convert', join(out, 'nothing.sfz'), '--to', 'lembos', '--out', out).status).toBe(3)
    writeFileSync(join(out, 'bad.sf2'), 'RIFF    sfbk')
    const bad = run('convert', join(out, 'bad.sf2'), '--to', 'lembos', '--out', out, '--json')
    expect([bad.status, (JSON.parse(bad.out) as { error: string }).error]).toEqual([4, 'unreadable'])
    expect(readdirSync(out)).toEqual(['bad.sf2'])
  })

  it('plans without writing, and lists targets, one line of JSON each', () => {
    const out = freshFolder()
    const { status, out: said } = run('convert', kit, '--to', 'lembos', '--out', out, '--dry-run')
    expect(status).toBe(0)
    expect(said).toMatch(/Audio\s+99\.\d\d s -> +\d+\.\d\d s {3}of 45\.00 s/)
    expect(readdirSync(out)).toEqual([])
    const targets = run('targets', '--json').out.trim().split('\n').map(line => (JSON.parse(line) as { id: string }).id)
    expect(targets).toEqual(expect.arrayContaining(['sfz', 'sf2', 'dls-1', 'dls-2', 'samples', 'package', 'lembos', 'akatos', 'kerkouros', 'holkas']))
  })

  it('verifies a kit package, and finds the sample that was changed in it', () => {
    const { folder, files } = convertedTo('package')
    const zip = join(folder, files.find(file => file.path.endsWith('.zip'))!.path)
    expect(run('verify', zip)).toMatchObject({ status: 0, out: expect.stringContaining('43 pads, 128 samples, all as they were stored') as string })
    const unpacked = freshFolder()
    execFileSync('python3', ['-m', 'zipfile', '-e', zip, unpacked])
    const bag = join(unpacked, readdirSync(unpacked)[0]!)
    const sample = join(bag, 'data', 'samples', readdirSync(join(bag, 'data', 'samples'))[0]!)
    const bytes = readFileSync(sample)
    bytes[bytes.length - 1]! ^= 1
    writeFileSync(sample, bytes)
    const found = run('verify', bag, '--json')
    expect(found.status).toBe(1)
    const { problems } = JSON.parse(found.out) as { problems: string[] }
    expect(problems).toEqual([expect.stringContaining('its contents have changed'), expect.stringContaining('is not the sound')])
  })

  it('verify ends with 3 where there is nothing, and checks what was written for a target against that target', () => {
    expect(run('verify', join(freshFolder(), 'nothing.zip'))).toMatchObject({ status: 3, errors: expect.stringMatching(/nothing\.zip is not there\.\n$/) as string })
    for (const target of ['lembos', 'akatos', 'kerkouros', 'holkas', 'sfz', 'sf2', 'dls-1', 'dls-2', 'samples', 'package']) {
      const { folder } = convertedTo(target)
      expect([target, run('verify', folder, '--to', target)]).toEqual([target, { status: 0, out: expect.stringContaining('all within the limits of') as string, errors: '' }])
    }
    const wrong = run('verify', convertedTo('samples').folder, '--to', 'lembos')
    expect(wrong.status).toBe(1)
    expect(wrong.out).toMatch(/^Audio: \d+\.\d\d s, of 45\.00 s\.$/m)
    expect(wrong.out).toMatch(/channels; Lembos takes 1\.$/m)
  })

  it('--preset and --numbering that have nothing to choose are errors, and so is --out where nothing can be written', () => {
    const out = freshFolder()
    expect(run('convert', kit, '--to', 'samples', '--out', out, '--preset', '1')).toMatchObject({ status: 2, errors: expect.stringContaining('holds one kit, so there is no preset to choose') as string })
    expect(run('convert', kit, '--to', 'samples', '--out', out, '--numbering', 'by note')).toMatchObject({ status: 2 })
    const file = join(out, 'file')
    writeFileSync(file, '')
    expect(run('convert', kit, '--to', 'samples', '--out', file)).toMatchObject({ status: 2, errors: `--out ${file} is a file, not a folder. Nothing was written. Choose another folder.\n` })
    for (const place of ['/proc/nowhere', join(file, 'below')]) expect(run('convert', kit, '--to', 'samples', '--out', place)).toMatchObject({ status: 2, errors: `--out ${place} can't be written to. Nothing was written. Choose another folder.\n` })
    expect(readdirSync(out)).toEqual(['file'])
  })

  it('names what is dropped and left out, and ends with 1 for it where it is told to be strict', () => {
    const plain = run('convert', kit, '--to', 'lembos', '--out', freshFolder())
    const [summary, ...lost] = plain.out.trim().split('\n')
    const [, dropped, leftOut] = /written, (\d+) dropped, (\d+) left out/.exec(summary!)!.map(Number)
    expect(dropped! + leftOut!).toBeGreaterThan(0)
    expect(lost.filter(line => line.endsWith(': dropped'))).toHaveLength(dropped!)
    expect(lost.filter(line => line.endsWith(': left out'))).toHaveLength(leftOut!)
    expect(lost[0]).toMatch(/^[A-H]\d+ .+: (dropped|left out)$/)
    expect(lost.at(-1)).toMatch(/^Result: \d+ samples? dropped, \d+ left out; greatest loss -\d+ dB, /)
    expect(plain.status).toBe(0)
    expect(run('convert', kit, '--to', 'lembos', '--out', freshFolder(), '--strict').status).toBe(1)
    expect(run('convert', kit, '--to', 'package', '--out', freshFolder(), '--strict').status).toBe(0)
  })
})
