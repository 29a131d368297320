import { readFileSync } from 'node:fs'
import { SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core'
import { FLUID_RATE, type FluidNote } from './fluid'

const DRUMS = 9
const BLOCK = 128
const DECAY_SECONDS = 3

/** Renders notes of the percussion channel by a second, independent player (the library `spessasynth_core`), without effects. */
export async function spessaRender(bank: Uint8Array | string, notes: readonly FluidNote[], program = 0): Promise<{ left: Float32Array, right: Float32Array }> {
  const bytes = typeof bank === 'string' ? readFileSync(bank) : bank
  const player = new SpessaSynthProcessor(FLUID_RATE, { effectsEnabled: false, eventsEnabled: false, maxBufferSize: BLOCK })
  await player.processorInitialized
  player.soundBankManager.addSoundBank(SoundBankLoader.fromArrayBuffer(Uint8Array.from(bytes).buffer), 'bank')
  player.programChange(DRUMS, program)
  const blockOf = (seconds: number) => Math.round(seconds * FLUID_RATE / BLOCK)
  const events = notes.flatMap(({ atSeconds, lengthSeconds, note, velocity }) => [
    { block: blockOf(atSeconds), play: () => player.noteOn(DRUMS, note, velocity) },
    { block: blockOf(atSeconds + lengthSeconds), play: () => player.noteOff(DRUMS, note) },
  ]).toSorted((a, b) => a.block - b.block)
  const blocks = events.at(-1)!.block + blockOf(DECAY_SECONDS)
  const [left, right] = [new Float32Array(blocks * BLOCK), new Float32Array(blocks * BLOCK)]
  for (let block = 0, next = 0; block < blocks; block++) {
    for (; events[next] && events[next]!.block <= block; next++) events[next]!.play()
    player.process(left, right, block * BLOCK, BLOCK)
  }
  return { left, right }
}
