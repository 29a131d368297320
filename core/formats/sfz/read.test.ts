import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { identify } from '../../../tests/helpers/fit'
import type { DecodedAudio } from '../../audio/decoded'
import { EmporionError } from '../../errors'
import type { Kit } from '../../kit/document'
import { parseSfz } from './parse'
import { pathBelow } from './paths'
import { readSfzKit } from './read'

/** Every path that is asked for holds a second of something of its own, but those that are called missing. */
const asked: string[] = []
function decode(path: string): Promise<DecodedAudio> {
  asked.push(path)
  if (path.includes('missing')) return Promise.reject(new EmporionError('not-found', 'the file is not there.'))
  const seed = [...path].reduce((sum, letter) => sum + letter.charCodeAt(0), 0)
  return Promise.resolve({ channels: [Float32Array.from({ length: 1000 }, (_, i) => Math.sin(i * seed) / 2)], sampleRate: 44_100, frames: 1000, facts: { container: 'WAVE', codec: 'PCM', bitDepth: 24, embedded: { rootNote: 50, ...(path.includes('loop') ? { loops: [{ startFrame: 100, endFrame: 199, count: 0 }] } : {}) }, warnings: [] } })
}

const read = (text: string, files: Readonly<Record<string, string>> = {}) => readSfzKit({ text, path: 'kit.sfz', name: 'Kit', decode, identify, include: path => files[path] })
const padsOf = (kit: Kit) => kit.pads.filter(pad => pad.layers.length > 0)

describe('SFZ opcodes (SFZ v1, references.md)', () => {
  it('region takes from group, group from global; a new group forgets the old one', async () => {
    const { kit } = await read('<global> volume=-3 <group> key=40 pan=50\n<region> sample=a.wav\n<region> sample=b.wav volume=-6 key=41\n<group> <region> key=42 sample=c.wav')
    expect(padsOf(kit).map(pad => [pad.note, pad.pan, pad.layers[0]!.gainDb])).toEqual([[40, 0.5, -3], [41, 0.5, -6], [42, 0, -3]])
  })

  it('master lies between global and group', async () => {
    const { kit } = await read('<global>volume=-1\n<master>pan=-100 volume=-2\n<group>key=36\n<region>sample=a.wav\n<master><group>key=37\n<region>sample=a.wav')
    expect(padsOf(kit).map(pad => [pad.note, pad.pan, pad.layers[0]!.gainDb])).toEqual([[36, -1, -2], [37, 0, -1]])
  })

  it('notes by number and name, 60 is C4; note_offset and octave_offset move them; lokey and hikey spread', async () => {
    const { kit } = await read('<control> note_offset=1 octave_offset=-1\n<region> sample=a.wav key=c4\n<region> sample=b.wav lokey=f#3 hikey=g3 pitch_keycenter=f#3')
    expect(padsOf(kit).map(pad => [pad.note, pad.layers[0]!.tuneCents])).toEqual([[43, 0], [49, 0]])
    expect(padsOf(kit)[0]!.range).toEqual({ low: 43, high: 44, root: 43, trackCents: 100 })
  })

  it('velocity ranges, and fades over velocities in and out', async () => {
    const { kit } = await read('<region> sample=a.wav key=36 hivel=60 xfout_lovel=50 xfout_hivel=61\n<region> sample=b.wav key=36 lovel=51 xfin_lovel=50 xfin_hivel=61')
    expect(padsOf(kit)[0]!.layers.map(layer => [layer.lowVelocity, layer.highVelocity, layer.fadeInVelocities, layer.fadeOutVelocities])).toEqual([[1, 60, 0, 10], [51, 127, 10, 0]])
  })

  it('turns by seq_position, chance by lorand, and alternates by a controller', async () => {
    const turned = await read('<group> key=36 seq_length=2\n<region> sample=b.wav seq_position=2\n<region> sample=a.wav seq_position=1')
    expect(padsOf(turned.kit)[0]!.layers.map(layer => layer.turn)).toEqual([2, 1])
    const chance = await read('<group> key=36\n<region> sample=a.wav hirand=0.5\n<region> sample=b.wav lorand=0.5')
    expect(padsOf(chance.kit)[0]!.layers.map(layer => layer.chance)).toEqual([{ low: 0, high: 0.5 }, { low: 0.5, high: 1 }])
    expect(chance.notCarried).toEqual([])
    const chosen = await read('<group> key=36\n<region> sample=a.wav locc20=0 hicc20=63\n<region> sample=b.wav locc20=64 hicc20=127')
    expect(padsOf(chosen.kit)[0]).toMatchObject({ alternate: 0, alternateController: 20 })
    expect(chosen.notCarried).toEqual([])
  })

  it('envelope, filter, choke group, output, direction, trims and playing', async () => {
    const { kit } = await read('<region> sample=a.wav key=36 loop_mode=one_shot ampeg_attack=0.1 ampeg_hold=0.2 ampeg_decay=0.5 ampeg_sustain=0 fil_type=hpf_2p cutoff=800 resonance=6 group=3 off_by=3 output=1 direction=reverse offset=10 end=99 transpose=-2 tune=30\n<region> sample=b.wav key=37 loop_mode=no_loop ampeg_release=0.4 group=3 off_by=3')
    const [one, two] = padsOf(kit)
    expect(one).toMatchObject({ play: 'one-shot', envelope: { attackSeconds: 0.1, holdSeconds: 0.2, decaySeconds: 0.5 }, filter: { type: 'high-pass', cutoffHz: 800, resonanceDb: 6 }, chokeGroup: 3, output: 'out-2' })
    expect(one!.layers[0]).toMatchObject({ reverse: true, startFrame: 10, endFrame: 100, tuneCents: -170 })
    expect(two).toMatchObject({ play: 'gated', envelope: { releaseSeconds: 0.4, decaySeconds: null }, chokeGroup: 3 })
  })

  it('a loop is written out, its own or the one that the file states, and told', async () => {
    const { kit, notCarried } = await read('<region> sample=loop a.wav key=36\n<region> sample=loop b.wav key=37 loop_mode=one_shot\n<region> sample=c.wav key=38 loop_mode=loop_sustain loop_start=10 loop_end=99')
    expect(padsOf(kit).map(pad => pad.layers[0]!.sound.frames)).toEqual([4 * 44_100, 1000, 4 * 44_100])
    expect(notCarried.map(one => one.where)).toEqual(['loop_mode'])
  })

  it('paths with spaces and backslashes below default_path; comments, defines and includes', async () => {
    asked.length = 0
    await read('// a comment\n/* another\n<region> sample=no.wav */\n<control> default_path=Samples\\\n#define $KEY 40 #define $KEYTWO 41\n#include "more.sfz"\n<region> sample=Big Kick 1.wav key=$KEY', { 'more.sfz': '<region> sample=sub\\Other one.wav key=$KEYTWO' })
    expect(asked).toEqual(['Samples/sub/Other one.wav', 'Samples/Big Kick 1.wav'])
  })

  it('lists what it does not understand, each once with how often, and swallows nothing', async () => {
    const { notCarried } = await read('<curve> curve_index=7\n<region> sample=a.wav key=36 eq1_gain=3 egg=1\n<region> sample=b.wav key=37 eq1_gain=2\n<region> sample=*sine key=38\nnonsense')
    expect(notCarried.map(one => one.where).sort()).toEqual(['*sine', '<curve>', 'egg', 'eq1_gain', 'kit.sfz, line 5'])
    expect(notCarried.find(one => one.where === 'eq1_gain')!.what).toContain('2 regions')
  })
})

describe('SFZ that is meant badly', () => {
  it('paths that leave the folder are not followed', async () => {
    expect(['../a.wav', '/etc/passwd', 'C:\\a.wav', 'a/../../b.wav', '..\\..\\a.wav', ''].map(path => pathBelow(path))).toEqual(Array.from({ length: 6 }, () => undefined))
    expect(pathBelow('a/../b\\c.wav')).toBe('b/c.wav')
    asked.length = 0
    const { notCarried } = await read('<region> sample=../../secret.wav key=36\n<region> sample=a.wav key=37')
    expect(asked).toEqual(['a.wav'])
    expect(notCarried.map(one => one.where)).toEqual(['../../secret.wav'])
  })

  it('missing samples are listed, and the rest is read; with none left it says so', async () => {
    const { kit, missing } = await read('<region> sample=missing.wav key=36\n<region> sample=a.wav key=37')
    expect([padsOf(kit).length, missing.length]).toEqual([1, 1])
    await expect(read('<region> sample=missing.wav key=36')).rejects.toMatchObject({ code: 'unreadable' })
  })

  it('an include that includes itself ends, however many there are between', () => {
    const files: Record<string, string> = { 'a.sfz': '#include "b.sfz"', 'b.sfz': '#include "a.sfz"\n<region> sample=x.wav key=36' }
    const { regions, notCarried } = parseSfz('#include "a.sfz"', 'kit.sfz', path => files[path])
    expect(regions).toHaveLength(1)
    expect(notCarried.map(one => one.what).join()).toContain('includes itself')
    expect(() => parseSfz('#include "0.sfz"', 'kit.sfz', path => `#include "${Number.parseInt(path) + 1}.sfz"\n#include "${Number.parseInt(path) + 2}.sfz"`)).toThrow(EmporionError)
  })

  it('long runs of spaces take no longer than their length asks for', () => {
    const spaces = ' '.repeat(45_000)
    const { regions } = parseSfz(`<region> key=36${spaces}x sample=a${spaces}b.wav`, 'k.sfz')
    expect(regions[0]!.opcodes.get('sample')).toBe(`a${spaces}b.wav`)
  })

  it('any text is read or refused with a reason, in bounded time', () => {
    const piece = fc.constantFrom('<region>', '<group>', '<control>', ' key=', 'sample=', 'a.wav', '#define $A ', '$A', '#include "x"', '/*', '*/', '//', '\n', '=', '<', '>', ' 36', 'lovel=-1 ', 'end=99999999999 ', 'tune=1e309 ', '\0', 'é')
    fc.assert(fc.property(fc.array(fc.oneof(piece, fc.string({ maxLength: 8 })), { maxLength: 60 }), (parts) => {
      try {
        parseSfz(parts.join(''), 'any.sfz', () => parts.join(''))
      }
      catch (thrown) {
        expect(thrown).toBeInstanceOf(EmporionError)
      }
    }), { numRuns: 400 })
  })

  it('any values make a kit that is whole', async () => {
    const value = fc.oneof(fc.integer({ min: -1000, max: 100_000 }), fc.constantFrom('x', '1e308', '-1e308', '-0', 'c-9', ''))
    const names = ['key', 'lokey', 'hikey', 'lovel', 'hivel', 'volume', 'pan', 'tune', 'transpose', 'offset', 'end', 'seq_position', 'seq_length', 'group', 'off_by', 'output', 'cutoff', 'resonance', 'ampeg_attack', 'ampeg_decay', 'ampeg_sustain', 'ampeg_release', 'xfin_hivel', 'xfout_lovel', 'locc1', 'hicc1', 'note_polyphony', 'pitch_keycenter', 'pitch_keytrack']
    const { parseKit } = await import('../../kit/migrate')
    await fc.assert(fc.asyncProperty(fc.array(fc.tuple(fc.constantFrom(...names), value), { maxLength: 20 }), async (opcodes) => {
      try {
        const { kit } = await read(`<region> sample=a.wav ${opcodes.map(([name, set]) => `${name}=${set}`).join(' ')}`)
        expect(parseKit(JSON.parse(JSON.stringify(kit)))).toEqual(kit)
      }
      catch (thrown) {
        expect(thrown).toBeInstanceOf(EmporionError)
        expect((thrown as EmporionError).code).toBe('unreadable')
      }
    }), { numRuns: 300, examples: [[[['transpose', '1e308'], ['pitch_keytrack', '1e308']]]] })
  })
})
