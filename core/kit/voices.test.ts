import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { emptyKit, wholeLayer, type Kit } from './document'
import { placeSounds, setLayer, setPads } from './edits'
import { equalRanges } from './ranges'
import { crossfadeGain, noteOff, noteOn, panGains, type RunningVoice } from './voices'
import { velocityGain, velocityLevel } from './velocity'
import { firstInForce, withInForce } from './articulations'

function kitOf(...settings: Parameters<typeof setPads>[2][]): Kit {
  const placed = placeSounds(emptyKit('K'), 0, settings.map((_, i) => testSound(i + 1))).kit
  return settings.reduce((kit, setting, i) => setPads(kit, [i], setting), placed)
}

const running = (id: number, part: Partial<RunningVoice> = {}): RunningVoice => ({ id, padIndex: 0, note: 36, chokeGroup: null, chokedBy: part.chokeGroup ? [part.chokeGroup] : [], gated: false, ...part })

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
      const { starts, counted } = noteOn(kit, [], 36, velocity, { hits })
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

describe('notes, articulations and chance', () => {
  const ranged = { low: 30, high: 42, root: 36, trackCents: 50 }

  it('a pad over a range sounds on each of its notes, at the pitch of the note (SFZ v1 lokey, hikey, pitch_keycenter, pitch_keytrack)', () => {
    const kit = kitOf({ range: ranged }, { note: 60 })
    const at = (note: number) => noteOn(kit, [], note, 100).starts.map(start => [start.note, start.pitchRatio])
    expect(at(29)).toEqual([])
    expect(at(30)).toEqual([[30, 2 ** (-300 / 1200)]])
    expect(at(36)).toEqual([[36, 1]])
    expect(at(42)).toEqual([[42, 2 ** (300 / 1200)]])
  })

  it('a layer with notes of its own sounds on those, from its own root', () => {
    const kit = setLayer(kitOf({ range: ranged }), 0, 0, { notes: { low: 40, high: 42, root: 41, trackCents: 100 } })
    expect(noteOn(kit, [], 36, 100).starts).toEqual([])
    expect(noteOn(kit, [], 42, 100).starts[0]!.pitchRatio).toBeCloseTo(2 ** (1 / 12))
  })

  it('a layer has its own pan, envelope and filter where it says so', () => {
    const filter = { type: 'high-pass', cutoffHz: 500, resonanceDb: 0 } as const
    const kit = setLayer(kitOf({ pan: -1 }), 0, 0, { pan: 1, filter })
    const [start] = noteOn(kit, [], 36, 127).starts
    expect([start!.gainLeft, start!.gainRight, start!.filter]).toEqual([expect.closeTo(0), expect.closeTo(Math.SQRT2), filter])
  })

  it('pads of an articulation sound while it is in force; the first is unless the kit says another', () => {
    const articulations = ['stick', 'brush'].map((id, i) => ({ id, name: id, key: 10 + i, whileHeld: false }))
    const kit = { ...kitOf({ articulation: 'stick' }, { note: 36, articulation: 'brush' }, { note: 36 }), articulations }
    const pads = (now: typeof kit | (typeof kit & { articulation: string }), id?: string) => noteOn(now, [], 36, 100, id ? { inForce: withInForce(firstInForce(now), id) } : {}).starts.map(start => start.padIndex)
    expect(pads(kit)).toEqual([0, 2])
    expect(pads({ ...kit, articulation: 'brush' })).toEqual([1, 2])
    expect(pads(kit, 'brush')).toEqual([1, 2])
  })

  it('layers that sound by chance do at the number that is drawn (SFZ v1 lorand, hirand)', () => {
    const kit = { ...kitOf({}), pads: kitOf({}).pads.with(0, { ...kitOf({}).pads[0]!, layers: [{ ...wholeLayer(testSound(1).sound), chance: { low: 0, high: 0.25 } }, { ...wholeLayer(testSound(2).sound), chance: { low: 0.25, high: 1 } }] }) }
    const at = (chance: number) => noteOn(kit, [], 36, 100, { chance }).starts.map(start => start.layerIndex)
    expect([at(0), at(0.2499), at(0.25), at(0.99)]).toEqual([[0], [0], [1], [1]])
  })

  it('velocity moves the level as far as it is followed, along a curve where there is one (SFZ v1 amp_veltrack, amp_velcurve_N)', () => {
    expect(velocityLevel({ velocityTrack: 0, velocityCurve: null }, 20)).toBe(1)
    expect(velocityLevel({ velocityTrack: -1, velocityCurve: null }, 127)).toBe(0)
    expect(velocityLevel({ velocityTrack: 0.5, velocityCurve: null }, 63.5)).toBeCloseTo(1 - 0.5 * 0.75)
    const velocityCurve = [{ velocity: 1, level: 0.2 }, { velocity: 3, level: 0.3 }]
    const level = (velocity: number) => velocityLevel({ velocityTrack: 1, velocityCurve }, velocity)
    expect([level(1), level(2), level(3), level(127)]).toEqual([0.2, 0.25, 0.3, 1])
    expect(level(65)).toBeCloseTo(0.65)
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
    expect(noteOn(kit, voices, 37, 100)).toMatchObject({ chokes: [1], stops: [] })
    expect(noteOn(kit, voices, 38, 100)).toMatchObject({ chokes: [], stops: [] })
  })

  it('a closed hat cuts an open one and not the other way (SFZ v1 group/off_by)', () => {
    const kit = kitOf({ chokeGroup: 1, chokedBy: [] }, { chokeGroup: 2, chokedBy: [1], chokeSeconds: 0.3 })
    const [closed] = noteOn(kit, [], 36, 100).starts
    const [open] = noteOn(kit, [], 37, 100).starts
    const voices = [{ ...closed!, id: 1 }, { ...open!, id: 2 }]
    expect(noteOn(kit, voices, 36, 100).chokes).toEqual([2])
    expect(noteOn(kit, voices, 37, 100).chokes).toEqual([])
    expect(open!.chokeSeconds).toBe(0.3)
  })

  it('a group with few voices gives up its oldest, whichever pad they are of', () => {
    const kit = { ...kitOf({ chokeGroup: 3, chokedBy: [] }, { chokeGroup: 3, chokedBy: [] }, {}), groupPolyphony: [{ group: 3, voices: 2 }] }
    const voices = [running(1, { chokeGroup: 3, chokedBy: [] }), running(2, { padIndex: 1, note: 37, chokeGroup: 3, chokedBy: [] }), running(3, { padIndex: 2 })]
    expect(noteOn(kit, voices, 36, 100)).toMatchObject({ chokes: [], stops: [1] })
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
