import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { readWave } from '../../core/audio/wave/read'
import { TICKS_PER_QUARTER } from '../../core/groove/document'
import { writeMidi } from '../../core/groove/midi/write'

export interface FluidNote {
  readonly atSeconds: number
  readonly note: number
  readonly velocity: number
  readonly lengthSeconds: number
}

export const FLUID_RATE = 48_000

/** Renders notes of the percussion channel with a preset of a SoundFont bank by FluidSynth, without its reverb and chorus. At a gain of 1 it clips what is very loud. */
export function fluidRender(bank: Uint8Array | string, notes: readonly FluidNote[], program = 0, gain = 1): { left: Float32Array, right: Float32Array } {
  const folder = mkdtempSync(join(tmpdir(), 'emporion-fluid-'))
  try {
    const bankPath = typeof bank === 'string' ? bank : join(folder, 'bank.sf2')
    if (typeof bank !== 'string') writeFileSync(bankPath, bank)
    // 120 BPM: half a second a quarter.
    const ticks = (seconds: number) => Math.round(seconds * 2 * TICKS_PER_QUARTER)
    const out = notes.map(({ atSeconds, lengthSeconds, note, velocity }) => ({ tick: ticks(atSeconds), length: ticks(lengthSeconds), note, velocity }))
    const end = Math.max(...out.map(note => note.tick + note.length)) + ticks(3)
    writeFileSync(join(folder, 'notes.mid'), writeMidi([{ name: 'notes', notes: out }], { format: 0, name: 'notes', tempoBpm: 120, metre: { beats: 4, unit: 4 }, endTick: end, channel: 10 }))
    writeFileSync(join(folder, 'commands'), `select 9 1 128 ${program}\n`)
    execFileSync('fluidsynth', ['-ni', '-q', '-o', 'player.reset-synth=0', '-f', join(folder, 'commands'), '-R', '0', '-C', '0', '-g', String(gain), '-r', String(FLUID_RATE), '-T', 'wav', '-O', 'float', '-F', join(folder, 'out.wav'), bankPath, join(folder, 'notes.mid')], { stdio: 'ignore' })
    const { channels } = readWave(readFileSync(join(folder, 'out.wav')))
    return { left: channels[0]!, right: channels[1]! }
  }
  finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
