import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { emptyKit, wholeLayer, type Kit } from './document'
import { placeSounds, setPads } from './edits'
import { noteOff, noteOn, panGains, velocityGain, type RunningVoice } from './voices'

function kitOf(...settings: Parameters<typeof setPads>[2][]): Kit {
  const placed = placeSounds(emptyKit('K'), 0, settings.map((_, i) => testSound(i + 1))).kit
  return settings.reduce((kit, setting, i) => setPads(kit, [i], setting), placed)
}

const running = (id: number, part: Partial<RunningVoice> = {}): RunningVoice => ({ id, note: 36, chokeGroup: null, gated: false, ...part })

describe('what sounds on a note', () => {
  it('starts every layer whose velocity range holds the velocity', () => {
    const kit = kitOf({})
    const sound = testSound(1).sound
    const layered = { ...kit, pads: kit.pads.with(0, { ...kit.pads[0]!, layers: [{ ...wholeLayer(sound), highVelocity: 63 }, { ...wholeLayer(sound), lowVelocity: 64 }] }) }
    expect(noteOn(layered, [], 36, 63).starts.map(start => start.layerIndex)).toEqual([0])
    expect(noteOn(layered, [], 36, 64).starts.map(start => start.layerIndex)).toEqual([1])
    expect(noteOn(layered, [], 90, 100).starts).toEqual([])
  })

  it('gives velocity 127 full level and 64 a quarter: (v/127)^2 (SFZ v1, amp_veltrack 100 %)', () => {
    expect(velocityGain(127)).toBe(1)
    expect(velocityGain(63.5)).toBeCloseTo(0.25)
  })

  it('pans with equal power, the centre 3 dB below a hard side (common practice)', () => {
    for (const pan of [-1, -0.5, 0, 0.3, 1]) {
      const { left, right } = panGains(pan)
      expect(left ** 2 + right ** 2).toBeCloseTo(2)
    }
    expect(20 * Math.log10(panGains(1).right / panGains(0).right)).toBeCloseTo(3.01, 2)
    expect(panGains(1).left).toBeCloseTo(0)
  })

  it('plays an octave up twice as fast', () => {
    expect(noteOn(kitOf({ tuneCents: 1200 }), [], 36, 100).starts[0]!.pitchRatio).toBe(2)
  })
})

describe('what is cut', () => {
  it('a pad of a choke group cuts that group and no other (SFZ v1 group/off_by; General MIDI exclusive hats)', () => {
    const kit = kitOf({ chokeGroup: 1 }, { chokeGroup: 1 }, {})
    const voices = [running(1, { chokeGroup: 1 }), running(2, { chokeGroup: 2 }), running(3)]
    expect(noteOn(kit, voices, 37, 100).stops).toEqual([1])
    expect(noteOn(kit, voices, 38, 100).stops).toEqual([])
  })

  it('over the polyphony the oldest voices go first', () => {
    const kit = { ...kitOf({}), polyphony: 2 }
    expect(noteOn(kit, [running(5), running(6)], 36, 100).stops).toEqual([5])
    expect(noteOn(kit, [running(5)], 36, 100).stops).toEqual([])
  })

  it('a note-off ends gated voices of its note alone', () => {
    expect(noteOff([running(1, { gated: true }), running(2), running(3, { gated: true, note: 40 })], 36)).toEqual([1])
  })
})
