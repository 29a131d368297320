import { existsSync, openSync, readSync, statSync } from 'node:fs'
import { openBank, PERCUSSION_BANK } from '../core/formats/sf2/bank'
import { readPreset } from '../core/formats/sf2/read'
import { writeSf2 } from '../core/formats/sf2/write'
import { soundsOn } from '../core/kit/voices'
import { fit, identify, Sounds, target } from '../tests/helpers/fit'
import { FLUID_RATE, fluidRender, type FluidNote } from '../tests/helpers/fluid'
import { spessaRender } from '../tests/helpers/spessa'
import { percentile, type Figure } from './measure'

/** Open banks of Debian: fluid-soundfont-gm, opl3-soundfont, csound-soundfont, timgm6mb-soundfont. */
const BANKS = ['FluidR3_GM', 'OPL-3_FM_128M', 'sf_GMbank', 'TimGM6mb']
const FOLDER = '/usr/share/sounds/sf2'
const FIRST_NOTE = 35
const LAST_NOTE = 81
const VELOCITIES = [20, 50, 80, 105, 127]
const GAP_SECONDS = 2
/** So that nothing clips. */
const GAIN = 0.3
const HELD_SECONDS = 0.5
/** Effects that are off in both renderings. */
const WITHOUT = new Set(['Reverb', 'Chorus'])
/** Hits quieter than this in the original are skipped. */
const SILENCE_DB = -80

interface Hit {
  readonly levelDb: number
  readonly onset: number
}

/** Two independent players. */
const PLAYERS = [
  { name: 'FluidSynth', render: (bank: Uint8Array | string, notes: readonly FluidNote[], program: number) => Promise.resolve(fluidRender(bank, notes, program, GAIN)) },
  { name: 'spessasynth_core', render: spessaRender },
] as const

/** Compares drum presets of open banks in two players before and after a round trip through our kit: level and onset of every note at five velocities. */
export async function* benchBanks(): AsyncGenerator<Figure> {
  for (const name of BANKS) {
    const path = `${FOLDER}/${name}.sf2`
    if (existsSync(path)) yield* await compared(name, path)
  }
}

async function compared(name: string, path: string): Promise<Figure[]> {
  const file = openSync(path, 'r')
  const bank = await openBank({ size: statSync(path).size, read: (at, count) => {
    const bytes = new Uint8Array(count)
    readSync(file, bytes, 0, count, at)
    return Promise.resolve(bytes)
  } })
  const seen = new Set<string>()
  const players = PLAYERS.map(player => ({ ...player, levels: [] as number[], onsets: [] as number[], worst: '', announced: 0 }))
  let presets = 0
  for (const [at, preset] of bank.presets.entries()) {
    if (preset.bank !== PERCUSSION_BANK) continue
    const same = JSON.stringify(bank.zonesOf(preset).map(zone => [zone.keys, zone.velocities, zone.sample, Array.from({ length: 60 }, (_, id) => zone.value(id))]))
    if (seen.has(same)) continue
    seen.add(same)
    presets++
    const read = await readPreset(bank, at, identify)
    const found = new Set(read.notCarried.filter(({ where }) => !WITHOUT.has(where)).flatMap(({ of }) => of ?? []))
    const sounds = new Sounds()
    for (const [id, audio] of read.audio) sounds.audio.set(id, audio)
    const { made, loweredDb } = fit(read.kit, sounds, target('sf2'))
    const written = writeSf2([made], 'Again')
    const notes = Array.from({ length: LAST_NOTE - FIRST_NOTE + 1 }, (_, i) => FIRST_NOTE + i).flatMap((note, i) => VELOCITIES.map((velocity, v): FluidNote => ({ atSeconds: 0.5 + (i * VELOCITIES.length + v) * GAP_SECONDS, note, velocity, lengthSeconds: HELD_SECONDS })))
    for (const player of players) {
      const [before, after] = [await player.render(path, notes, preset.program), await player.render(written, notes, 0)]
      for (const note of notes) {
        const [a, b] = [hitOf(before, note), hitOf(after, note)]
        if (a.levelDb < SILENCE_DB) continue
        if (read.kit.pads.some(pad => soundsOn(pad, note.note) && pad.layers.some(layer => found.has(layer.sound.name)))) {
          player.announced++
          continue
        }
        // Fit lowers a kit that would clip as a whole, and reports it.
        const level = Math.abs(a.levelDb - (b.levelDb - loweredDb))
        if (level > Math.max(0, ...player.levels)) player.worst = `${preset.name}, note ${note.note} at ${note.velocity}`
        player.levels.push(level)
        player.onsets.push(Math.abs(a.onset - b.onset) / FLUID_RATE * 1000)
      }
    }
  }
  return players.flatMap(player => [
    { name: `${name} in ${player.name}: ${presets} drum presets, level apart, p95`, value: percentile(player.levels, 95), unit: 'dB', note: `${player.levels.length} hits; ${player.announced} more with a reported difference` },
    { name: `${name} in ${player.name}: the same, at worst`, value: Math.max(0, ...player.levels), unit: 'dB', note: player.worst },
    { name: `${name} in ${player.name}: onset apart, at worst`, value: Math.max(0, ...player.onsets), unit: 'ms' },
  ])
}

function hitOf({ left, right }: { readonly left: Float32Array, readonly right: Float32Array }, { atSeconds }: FluidNote): Hit {
  const [from, to] = [Math.round((atSeconds - 0.05) * FLUID_RATE), Math.round((atSeconds - 0.05 + GAP_SECONDS) * FLUID_RATE)]
  const sides = [left.subarray(from, to), right.subarray(from, to)]
  const power = sides.reduce((sum, side) => sum + side.reduce((all, value) => all + value * value, 0), 1e-20) / (to - from)
  const peak = sides.reduce((high, side) => side.reduce((most, value) => Math.max(most, Math.abs(value)), high), 0)
  const onset = sides[0]!.findIndex((value, i) => Math.max(Math.abs(value), Math.abs(sides[1]![i]!)) > peak * 0.05)
  return { levelDb: 10 * Math.log10(power), onset }
}
