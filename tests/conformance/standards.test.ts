import { describe, expect, it } from 'vitest'
import { noteFrequencyHz } from '../../core/audio/notes'
import { PERCUSSION_KEYS } from '../../core/kit/percussionMap'
import { emptyKit } from '../../core/kit/document'
import { placeSounds, setLayer, setPads } from '../../core/kit/edits'
import { addLayer, setAlternate, splitEvenly, takeTurns } from '../../core/kit/layerEdits'
import { writeSfz } from '../../core/formats/sfz/write'
import { testSound } from '../helpers/kit'

describe('pitch', () => {
  // Source: ISO 16 (A4 = 440 Hz) and MIDI 1.0 note numbers; value from references.md.
  it('note 69 is 440 Hz and note 60 is 261.626 Hz', () => {
    expect(noteFrequencyHz(69)).toBe(440)
    expect(noteFrequencyHz(60)).toBeCloseTo(261.626, 3)
  })
})

describe('percussion keys', () => {
  // Source: General MIDI System Level 1, percussion key map, the keys given in references.md.
  const given: Readonly<Record<number, RegExp>> = {
    36: /^bass drum 1$/i, 38: /^acoustic snare$/i, 37: /^side stick$/i, 39: /^hand clap$/i, 42: /^closed hi-hat$/i, 44: /^pedal hi-hat$/i, 46: /^open hi-hat$/i,
    49: /crash/i, 57: /crash/i, 51: /ride/i, 59: /ride/i, 53: /^ride bell$/i, 55: /splash/i, 52: /chinese/i, 54: /tambourine/i, 56: /cowbell/i,
    60: /bongo/i, 61: /bongo/i, 62: /conga/i, 63: /conga/i, 64: /conga/i, 69: /cabasa/i, 70: /maracas/i, 75: /claves/i, 76: /wood block/i, 77: /wood block/i, 80: /triangle/i, 81: /triangle/i,
  }

  it('cover 35 to 81 and name the given ones', () => {
    expect(Object.keys(PERCUSSION_KEYS).map(Number)).toEqual(Array.from({ length: 47 }, (_, i) => 35 + i))
    for (const [key, name] of Object.entries(given)) expect(PERCUSSION_KEYS[Number(key)]).toMatch(name)
  })

  it('toms go from low to high on 41 43 45 47 48 50', () => {
    expect([41, 43, 45, 47, 48, 50].map(key => PERCUSSION_KEYS[key])).toEqual(['Low Floor Tom', 'High Floor Tom', 'Low Tom', 'Low-Mid Tom', 'Hi-Mid Tom', 'High Tom'])
  })
})

describe('SFZ', () => {
  // Source: SFZ v1 opcodes as listed in references.md (from memory there).
  const OPCODES = new Set([
    'sample', 'key', 'lokey', 'hikey', 'lovel', 'hivel', 'pitch_keycenter', 'pitch_keytrack', 'tune', 'transpose', 'volume', 'pan', 'offset', 'end',
    'group', 'off_by', 'off_mode', 'loop_mode', 'seq_length', 'seq_position', 'locc16', 'hicc16',
    // SFZ v1 as well: amplitude envelope, filter, crossfades by velocity (from memory).
    'ampeg_attack', 'ampeg_hold', 'ampeg_decay', 'ampeg_sustain', 'ampeg_release', 'fil_type', 'cutoff', 'resonance',
    'xfin_lovel', 'xfin_hivel', 'xfout_lovel', 'xfout_hivel',
    // Later players (common practice); others pass over them.
    'output', 'note_polyphony', 'group_label',
  ])

  /** A small reader of its own: headers and opcodes, a region with those of its group; `sample` and labels run to the end of their line. */
  function read(text: string): { header: string, opcodes: Map<string, string> }[] {
    const parts: { header: string, opcodes: Map<string, string> }[] = []
    for (const line of text.split('\n').map(one => one.replace(/\/\/.*$/, '').trim()).filter(Boolean)) {
      const rest = line.replace(/^<(\w+)>/, (_, header: string) => {
        const group = header === 'region' ? parts.findLast(part => part.header === 'group') : undefined
        parts.push({ header, opcodes: new Map(group?.opcodes) })
        return ''
      }).trim()
      const whole = /^(sample|group_label)=(.+)$/.exec(rest)
      const pairs = whole ? [[whole[1]!, whole[2]!]] : rest.split(/\s+/).filter(Boolean).map(pair => pair.split('='))
      for (const [name, value] of pairs) parts.at(-1)!.opcodes.set(name!, value!)
    }
    return parts.filter(part => part.header !== 'group')
  }

  const placed = placeSounds(emptyKit('Night // deck\nkit'), 0, [testSound(1), testSound(2), testSound(3)]).kit
  const kit = setLayer(setPads(setPads(placed, [0], { gainDb: -6, pan: -0.5, tuneCents: -150, chokeGroup: 3 }), [1], { play: 'gated' }), 0, 0, { startFrame: 10, endFrame: 900 })
  const regions = read(writeSfz(kit, layer => ({ path: `samples/${layer.sound.name} x.wav`, baked: layer.sound.name === 'Sound 3' })))

  const layered = splitEvenly(addLayer(addLayer(placed, 0, testSound(4).sound), 0, testSound(5).sound), 0, 8)
  const shaping = setPads(takeTurns(addLayer(layered, 1, testSound(6).sound), 1), [0, 1], {
    play: 'gated', envelope: { attackSeconds: 0.1, holdSeconds: 0.1, decaySeconds: 1, releaseSeconds: 0.2 }, filter: { type: 'band-pass', cutoffHz: 900, resonanceDb: 3 }, driveDb: 6,
  })
  const shaped = read(writeSfz(setAlternate(addLayer(shaping, 2, testSound(7).sound), 2, 5), layer => ({ path: `samples/${layer.sound.name}.wav`, baked: false })))

  it('is written with opcodes of the list alone, one region a layer', () => {
    expect(regions.map(region => region.header)).toEqual(['region', 'region', 'region'])
    for (const region of [...regions, ...shaped]) for (const name of region.opcodes.keys()) expect(OPCODES).toContain(name)
  })

  it('carries note, level, pan, tune, trims, choke and playing', () => {
    expect(Object.fromEntries(regions[0]!.opcodes)).toEqual({
      key: '36', pitch_keycenter: '36', volume: '-6', pan: '-50', transpose: '-1', tune: '-50', loop_mode: 'one_shot',
      offset: '10', end: '899', group: '3', off_by: '3', off_mode: 'fast', sample: 'samples/Sound 1 x.wav', group_label: 'Sound 1',
    })
    expect(regions[1]!.opcodes.get('loop_mode')).toBe('no_loop')
  })
})
