import type { PlayedPattern } from '../groove/played'
import { TICKS_PER_QUARTER } from '../groove/document'
import type { Kit } from '../kit/document'
import { KitEngine, type NoteEvent } from './engine'
import type { PreparedSound } from './voice'
import { MOST_FRAMES, type StereoBlock } from './workspace'

/** What is done with what still sounds at the end: it is rendered too, cut, or laid under the beginning, for loops without a seam. */
export type Tail = 'with' | 'without' | 'folded'

export interface BounceRequest {
  readonly kit: Kit
  readonly sounds: ReadonlyMap<string, PreparedSound>
  readonly pattern: PlayedPattern
  readonly bpm: number
  /** How often the pattern is played. */
  readonly passes: number
  readonly tail: Tail
  /** Rate of the result and of the sounds, in Hz. */
  readonly sampleRate: number
  /** The stem that each pad goes to, by its index, -1 for pads that are played but not heard; without it, one mix. */
  readonly stems?: { readonly count: number, readonly of: readonly number[] }
}

const BLOCK_FRAMES = MOST_FRAMES
const LONGEST_TAIL_SECONDS = 30
/** Rounds that are played before a folded one at most: tails longer than as many are not heard in it. */
const MOST_ROUNDS_BEFORE = 8
const CUT_SECONDS = 0.005

/**
 * Renders a pattern block by block, so that nothing need be held whole: each block has a pair of channels for every stem. All
 * stems come from one run of one engine, so that they are of one length and their sum is the mix.
 *
 * @returns blocks of left and right for each stem, full scale at +-1, not limited; each is used again for the next
 */
export function* bounceBlocks({ kit, sounds, pattern, bpm, passes, tail, sampleRate, stems = { count: 1, of: kit.pads.map(() => 0) } }: BounceRequest): Generator<readonly StereoBlock[], void> {
  const engine = new KitEngine(sampleRate)
  engine.setKit(withStems(kit, stems.count, stems.of))
  for (const [id, sound] of sounds) engine.setSound(id, sound)
  const work = Array.from({ length: stems.count }, (): StereoBlock => [new Float32Array(BLOCK_FRAMES), new Float32Array(BLOCK_FRAMES)])
  const round = eventsOf(pattern, bpm, passes, sampleRate)
  const before = tail === 'folded' ? roundsBefore(sounds, round.frames) : 0
  for (let i = 0; i < before; i++) for (const _ of play(engine, round, work)) void _
  yield* play(engine, round, work, tail === 'without' ? Math.round(CUT_SECONDS * sampleRate) : 0)
  if (tail !== 'with') return
  const end = engine.frame + LONGEST_TAIL_SECONDS * sampleRate
  while (!engine.idle && engine.frame < end) yield block(engine, BLOCK_FRAMES, work)
}

/** Length of a bounce without its tail, in frames. */
export function bounceFrames({ pattern, bpm, passes, sampleRate }: Pick<BounceRequest, 'pattern' | 'bpm' | 'passes' | 'sampleRate'>): number {
  return Math.round(passes * pattern.lengthTicks * framesPerTick(bpm, sampleRate))
}

interface Round {
  readonly events: readonly NoteEvent[]
  readonly frames: number
}

/** Plays a round from its beginning; the last frames fade where that is asked. Layers that take turns begin anew. */
function* play(engine: KitEngine, { events, frames }: Round, work: readonly StereoBlock[], fade = 0): Generator<readonly StereoBlock[], void> {
  const start = engine.frame
  engine.forgetTurns()
  engine.schedule(events.map(event => ({ ...event, frame: event.frame + start })))
  for (let done = 0; done < frames; done += BLOCK_FRAMES) {
    const made = block(engine, Math.min(BLOCK_FRAMES, frames - done), work)
    for (const [left, right] of made) {
      for (let i = Math.max(0, frames - fade - done); i < left.length; i++) {
        const level = (frames - done - i) / fade
        left[i]! *= level
        right[i]! *= level
      }
    }
    yield made
  }
}

function block(engine: KitEngine, frames: number, work: readonly StereoBlock[]): readonly StereoBlock[] {
  const made = frames === BLOCK_FRAMES ? work : work.map(([left, right]): StereoBlock => [left.subarray(0, frames), right.subarray(0, frames)])
  engine.process([...made, null])
  return made
}

function eventsOf(pattern: PlayedPattern, bpm: number, passes: number, sampleRate: number): Round {
  const perTick = framesPerTick(bpm, sampleRate)
  const events: NoteEvent[] = []
  for (let pass = 0; pass < passes; pass++) {
    const base = pass * pattern.lengthTicks * perTick
    for (let i = 0; i < pattern.ticks.length; i++) {
      const frame = Math.round(base + pattern.ticks[i]! * perTick)
      const alternate = pattern.alternates[i]!
      const note = pattern.notes[i]!
      events.push({ frame, note, velocity: pattern.velocities[i]!, ...(alternate < 0 ? {} : { alternate }) })
      events.push({ frame: frame + Math.max(1, Math.round(pattern.lengths[i]! * perTick)), note, velocity: 0 })
    }
  }
  return { events: events.sort((a, b) => a.frame - b.frame), frames: Math.round(passes * pattern.lengthTicks * perTick) }
}

function framesPerTick(bpm: number, sampleRate: number): number {
  return sampleRate * 60 / (bpm * TICKS_PER_QUARTER)
}

/** Sounds may be tuned down by an octave and more: as many rounds are played as twice the longest needs. */
function roundsBefore(sounds: ReadonlyMap<string, PreparedSound>, frames: number): number {
  const longest = [...sounds.values()].reduce((most, sound) => Math.max(most, sound.channels[0]?.length ?? 0), 0)
  return Math.min(MOST_ROUNDS_BEFORE, 1 + Math.ceil(2 * longest / Math.max(1, frames)))
}

/** The kit with an output for each stem, and one more for what is not heard. It is for rendering alone. */
function withStems(kit: Kit, count: number, of: readonly number[]): Kit {
  return {
    ...kit,
    outputs: Array.from({ length: count + 1 }, (_, i) => ({ id: `stem-${i}`, name: `${i + 1}` })),
    pads: kit.pads.map((pad, index) => ({ ...pad, output: `stem-${(of[index] ?? -1) < 0 ? count : of[index]}` })),
  }
}
