import type { Kit } from '../kit/document'
import { topKind } from '../search/kinds'
import { playedFromBeats, type PlayedPattern } from './played'

/** A note of a simple pattern: when, in quarter notes from its beginning, which, and how hard. */
export interface BeatNote {
  readonly beat: number
  readonly note: number
  /** 1 to 127. */
  readonly velocity: number
}

/** Sixteenth notes of a bar of four quarters. */
const STEPS = 16
const PLAIN = 96
const ACCENT = 118
const SOFT = 62

/** A step on which a kind plays: plain, or with an accent (`+`) or softly (`-`) in front. */
const BARS: Readonly<Record<string, string>> = {
  'kick': '+0 6 10',
  'snare': '4 +12 -15',
  'rim': '3 -7 11 -14',
  'clap': '+4 +12',
  'snap': '4 12',
  'hat': '+0 -2 4 -6 +8 -10 12 -14',
  'hat.open': '2 10',
  'hat.pedal': '4 12',
  'tom': '9 11 +13 14',
  'tom.low': '+7 15',
  'tom.mid': '6 14',
  'tom.high': '5 13',
  'cymbal': '+0',
  'cymbal.ride': '+0 4 -6 8 12 -14',
  'hand': '+3 -5 6 -9 +11 14',
  'shaker': '+0 -1 2 -3 +4 -5 6 -7 +8 -9 10 -11 +12 -13 14 -15',
  'metal': '+0 4 7 10 12',
  'wood': '0 3 +6 10 12',
  'voice': '8',
  'effect': '+0',
  'tone': '+0 7 10',
  'loop': '+0',
}

/** The notes of one bar that a kind plays by itself. */
export function barOf(kind: string | null, note: number): BeatNote[] {
  const bar = (kind && (BARS[kind] ?? BARS[topKind(kind)])) ?? BARS.kick!
  return bar.split(' ').map((step) => {
    const place = Number(step.replace(/[+-]/, ''))
    return { beat: place / 4, note, velocity: step.startsWith('+') ? ACCENT : step.startsWith('-') ? SOFT : PLAIN }
  })
}

/**
 * A simple pattern for a kit: each kind that a pad is meant for plays its bar, on the first pad of that kind.
 *
 * @param atHand the pad that plays in any case, and what it plays as; it takes the place of other pads of its kind
 * @param beats length in quarter notes; the bar repeats within it
 * @param more notes that go along
 */
export function basicPattern(kit: Kit, atHand: { readonly padIndex: number, readonly kind: string | null }, beats = 4, more: readonly BeatNote[] = []): PlayedPattern {
  const playing = new Map<string, number>()
  const own = kit.pads[atHand.padIndex]
  playing.set(atHand.kind ?? 'kick', own?.note ?? 0)
  for (const [index, pad] of kit.pads.entries()) {
    if (index === atHand.padIndex || pad.layers.length === 0 || pad.role === null || playing.has(pad.role)) continue
    if (pad.note !== own?.note) playing.set(pad.role, pad.note)
  }
  const bar = [...playing].flatMap(([kind, note]) => barOf(kind, note))
  const bars = Math.ceil(beats * 4 / STEPS)
  const notes = Array.from({ length: bars }, (_, i) => bar.map(one => ({ ...one, beat: one.beat + i * STEPS / 4 }))).flat()
  return playedFromBeats(beats, [...more, ...notes])
}
