import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { emptyKit, wholeLayer, type Kit } from './document'
import { placeSounds, setPads } from './edits'
import { equalRanges } from './ranges'
import { crossfadeGain, noteOff, noteOn, panGains, velocityGain, type RunningVoice } from './voices'

function kitOf(...settings: Parameters<typeof setPads>[2][]): Kit {
  const placed = placeSounds(emptyKit('K'), 0, settings.map((_, i) => testSound(i + 1))).kit
  return settings.reduce((kit, setting, i) => setPads(kit, [i], setting), placed)
}

const running = (id: number, part: Partial<RunningVoice> = {}): RunningVoice => ({ id, padIndex: 0, note: 36, chokeGroup: null, gated: false, ...part })

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

describe('layers that take turns', () => {
  const layers = [[1, 63, 1], [1, 63, 2], [64, 127, 1], [64, 127, 2], [64, 127, 3]].map(([lowVelocity, highVelocity, turn], i) => ({ ...wholeLayer(testSound(i + 1).sound), lowVelocity: lowVelocity!, highVelocity: highVelocity!, turn: turn! }))
  const kit = { ...emptyKit('K'), pads: emptyKit('K').pads.with(0, { ...emptyKit('K').pads[0]!, layers }) }

  it('come one after the other, counted for their own velocities (SFZ v1: seq_length, seq_position; a counter for each region)', () => {
    const hits = new Map<string, number>()
    const hit = (velocity: number) => {
      const { starts, counted } = noteOn(kit, [], 36, velocity, hits)
      for (const key of counted) hits.set(key, (hits.get(key) ?? 0) + 1)
      return starts.map(start => start.layerIndex)
    }
    expect([100, 100, 20, 100, 100, 20, 20].map(hit)).toEqual([[2], [3], [0], [4], [2], [1], [0]])
  })
})

describe('alternates', () => {
  it('one of them sounds, chosen by a value over equal ranges (references.md: 0-127 over 6)', () => {
    const layers = Array.from({ length: 6 }, (_, i) => ({ ...wholeLayer(testSound(i + 1).sound), lowVelocity: 120 }))
    const at = (alternate: number) => noteOn({ ...emptyKit('K'), pads: emptyKit('K').pads.with(0, { ...emptyKit('K').pads[0]!, alternate, layers }) }, [], 36, 1).starts.map(start => start.layerIndex)
    expect([0, 20, 21, 41, 42, 62, 63, 83, 84, 104, 105, 127].map(at)).toEqual([[0], [0], [1], [1], [2], [2], [3], [3], [4], [4], [5], [5]])
    expect(equalRanges(6).map(({ low, high }) => `${low}-${high}`)).toEqual(['0-20', '21-41', '42-62', '63-83', '84-104', '105-127'])
  })
})

describe('crossfades', () => {
  it('two layers that overlap over as many velocities as they fade are as loud together as one: equal power (SFZ v1, xf_velcurve)', () => {
    const low = { ...wholeLayer(testSound(1).sound), highVelocity: 80, fadeOutVelocities: 20 }
    const high = { ...wholeLayer(testSound(2).sound), lowVelocity: 61, fadeInVelocities: 20 }
    for (let velocity = 61; velocity <= 80; velocity++) expect(crossfadeGain(low, velocity) ** 2 + crossfadeGain(high, velocity) ** 2).toBeCloseTo(1)
    expect(crossfadeGain(low, 60)).toBe(1)
    expect(crossfadeGain(high, 81)).toBe(1)
  })
})

describe('mute and solo', () => {
  it('a muted pad is silent; while one is soloed the others are; neither cuts anything', () => {
    const kit = kitOf({ muted: true, chokeGroup: 1 }, { soloed: true }, { chokeGroup: 1 })
    expect(noteOn(kit, [running(1, { chokeGroup: 1 })], 36, 100)).toMatchObject({ starts: [], stops: [] })
    expect(noteOn(kit, [], 37, 100).starts).toHaveLength(1)
    expect(noteOn(kit, [running(1, { chokeGroup: 1 })], 38, 100)).toMatchObject({ starts: [], stops: [] })
  })
})

describe('what is cut', () => {
  it('a pad with few voices gives up its own oldest, and no other pad\'s', () => {
    const kit = kitOf({ polyphony: 2 }, {})
    const voices = [running(1), running(2, { padIndex: 1, note: 37 }), running(3)]
    expect(noteOn(kit, voices, 36, 100).stops).toEqual([1])
    expect(noteOn(kit, voices, 37, 100).stops).toEqual([])
  })


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
