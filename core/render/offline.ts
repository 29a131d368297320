import type { Kit } from '../kit/document'
import { KitEngine, type NoteEvent } from './engine'
import type { PreparedSound } from './voice'
import type { StereoBlock } from './workspace'

const BLOCK_FRAMES = 128

/** A note in time, for rendering. */
export interface TimedNote {
  readonly atSeconds: number
  readonly note: number
  readonly velocity: number
  /** When it is let go; without it, never. */
  readonly lengthSeconds?: number
}

export interface RenderOptions {
  /** Rate of the result and of the prepared sounds, in Hz. */
  readonly sampleRate: number
  /** The result ends here at the latest, whatever still sounds. */
  readonly longestSeconds: number
}

/**
 * Renders a kit playing notes, by the same voices as the live engine. Ends with the last voice.
 *
 * @returns left and right, full scale at +-1, not limited
 */
export function renderKit(kit: Kit, sounds: ReadonlyMap<string, PreparedSound>, notes: readonly TimedNote[], options: RenderOptions): { left: Float32Array, right: Float32Array } {
  return renderBlocks(kit, sounds, notes, options, 1)[0]!
}

/** The same with each of the kit's outputs by itself, in their order. All are of one length. */
export function renderOutputs(kit: Kit, sounds: ReadonlyMap<string, PreparedSound>, notes: readonly TimedNote[], options: RenderOptions): { left: Float32Array, right: Float32Array }[] {
  return renderBlocks(kit, sounds, notes, options, kit.outputs.length)
}

function renderBlocks(kit: Kit, sounds: ReadonlyMap<string, PreparedSound>, notes: readonly TimedNote[], options: RenderOptions, outputs: number): { left: Float32Array, right: Float32Array }[] {
  const engine = new KitEngine(options.sampleRate)
  engine.setKit(kit)
  for (const [id, sound] of sounds) engine.setSound(id, sound)
  engine.schedule(eventsOf(notes, options.sampleRate))
  const most = Math.ceil(options.longestSeconds * options.sampleRate)
  const blocks: StereoBlock[][] = []
  while (!engine.idle && engine.frame < most) {
    const block = Array.from({ length: outputs }, (): StereoBlock => [new Float32Array(BLOCK_FRAMES), new Float32Array(BLOCK_FRAMES)])
    engine.process(block)
    blocks.push(block)
  }
  return Array.from({ length: outputs }, (_, output) => ({
    left: join(blocks.map(block => block[output]![0]), most),
    right: join(blocks.map(block => block[output]![1]), most),
  }))
}

function eventsOf(notes: readonly TimedNote[], sampleRate: number): NoteEvent[] {
  return notes.flatMap(({ atSeconds, note, velocity, lengthSeconds }) => {
    const frame = Math.round(atSeconds * sampleRate)
    const on = { frame, note, velocity }
    return lengthSeconds === undefined ? [on] : [on, { frame: frame + Math.round(lengthSeconds * sampleRate), note, velocity: 0 }]
  })
}

function join(blocks: readonly Float32Array[], most: number): Float32Array {
  const out = new Float32Array(blocks.length * BLOCK_FRAMES)
  blocks.forEach((block, i) => out.set(block, i * BLOCK_FRAMES))
  return out.length > most ? out.slice(0, most) : out
}
