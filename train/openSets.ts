import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { writeMidi, type MidiEvent } from 'midi-file'
import { monoOf } from '../core/audio/analysis/colour'
import { readWave } from '../core/audio/wave/read'

/** A recording that somebody else has labelled. */
export interface Labelled {
  readonly set: string
  /** What it is called there. */
  readonly name: string
  /** Its class, see `core/audio/kinds/classes.ts`. */
  readonly label: string
  readonly samples: Float32Array
  readonly sampleRate: number
}

/** Percussion keys and what they are. Source: General MIDI System Level 1, percussion key map; 82 to 87: GM Level 2. */
const KEYS: Readonly<Record<number, string>> = {
  35: 'kick', 36: 'kick', 37: 'rim', 38: 'snare', 39: 'clap', 40: 'snare', 41: 'tom', 42: 'hat.closed', 43: 'tom', 44: 'hat.closed', 45: 'tom', 46: 'hat.open',
  47: 'tom', 48: 'tom', 49: 'cymbal', 50: 'tom', 51: 'cymbal', 52: 'cymbal', 53: 'cymbal', 54: 'shaker', 55: 'cymbal', 56: 'metal', 57: 'cymbal', 59: 'cymbal',
  60: 'hand', 61: 'hand', 62: 'hand', 63: 'hand', 64: 'hand', 65: 'hand', 66: 'hand', 67: 'metal', 68: 'metal', 69: 'shaker', 70: 'shaker',
  73: 'wood', 74: 'wood', 75: 'wood', 76: 'wood', 77: 'wood', 80: 'metal', 81: 'metal', 82: 'shaker', 83: 'shaker', 85: 'wood',
}

const FONT = '/usr/share/sounds/sf2/TimGM6mb.sf2'
const PATCHES = '/usr/share/midi/freepats/Drum_000'
const SLOT_SECONDS = 3.5
/** Silence before each note: what the last one left dies away in it. */
const GAP_SECONDS = 0.8
const RATE = 44_100
/** Percussion presets of the sound bank: standard, room, power, electronic, an analogue machine, jazz, brush. */
const PRESETS = [0, 8, 16, 24, 25, 32, 40]
/** What these presets hold at keys where they differ from the map. */
const OTHERWISE: Readonly<Record<number, Readonly<Record<number, string | undefined>>>> = {
  24: { 52: undefined },
  40: { 39: 'snare', 40: undefined },
}
/** Melodic presets that are no drums, and those that are struck: bells, bars, blocks and drums played in tune. */
const TUNED: Readonly<Record<number, string>> = {
  9: 'metal', 11: 'metal', 12: 'wood', 13: 'wood', 14: 'metal', 16: 'other', 19: 'other', 22: 'other', 33: 'other', 38: 'other', 48: 'other', 52: 'other', 56: 'other', 62: 'other',
  73: 'other', 81: 'other', 89: 'other', 112: 'metal', 113: 'metal', 115: 'wood', 117: 'tom', 118: 'tom', 120: 'other', 122: 'other', 123: 'other', 126: 'other',
}
const TUNED_NOTES: Readonly<Record<string, readonly number[]>> = { metal: [60, 67, 74, 84], wood: [60, 67, 76], tom: [43, 48, 53, 57], other: [36, 48, 60, 72] }

/** True when the packages `timgm6mb-soundfont`, `freepats` and `fluidsynth` are there. */
export function haveOpenSets(): boolean {
  return existsSync(FONT) && existsSync(PATCHES) && spawnSync('fluidsynth', ['--version']).status === 0
}

/** The percussion presets of the sound bank TimGM6mb (GPL), each key once, as FluidSynth plays them. */
export function soundBank(): Labelled[] {
  return PRESETS.flatMap((preset) => {
    const labels = { ...KEYS, ...OTHERWISE[preset] }
    const notes = Object.keys(labels).map(Number).filter(key => labels[key] !== undefined)
    return played(preset, 9, notes).map((samples, i) => ({ set: 'TimGM6mb', name: `preset ${preset}, key ${notes[i]}`, label: labels[notes[i]!]!, samples, sampleRate: RATE }))
  })
}

/** Tones of the same bank, and its tuned percussion. */
export function tunedBank(): Labelled[] {
  return Object.keys(TUNED).map(Number).flatMap(preset => tunedPreset(preset, TUNED[preset]!, TUNED_NOTES[TUNED[preset]!]!))
}

/** Notes of a melodic preset of the bank, as FluidSynth plays them. */
export function tunedPreset(preset: number, label: string, notes: readonly number[]): Labelled[] {
  return played(preset, 0, notes).map((samples, i) => ({ set: 'TimGM6mb, tuned', name: `preset ${preset}, note ${notes[i]}`, label, samples, sampleRate: RATE }))
}

/** Plays notes one after the other and cuts the recording where they begin. */
function played(preset: number, channel: number, notes: readonly number[]): Float32Array[] {
  const folder = mkdtempSync(join(tmpdir(), 'emporion-bank-'))
  try {
    const ticks = (seconds: number) => Math.round(seconds * 960)
    const events: MidiEvent[] = [
      { deltaTime: 0, type: 'setTempo', meta: true, microsecondsPerBeat: 1_000_000 },
      { deltaTime: 0, type: 'programChange', channel, programNumber: preset },
      ...notes.flatMap((noteNumber): MidiEvent[] => [
        { deltaTime: ticks(GAP_SECONDS), type: 'noteOn', channel, noteNumber, velocity: 110 },
        { deltaTime: ticks(SLOT_SECONDS - GAP_SECONDS - 0.1), type: 'noteOff', channel, noteNumber, velocity: 0 },
        { deltaTime: ticks(0.1), type: 'controller', channel, controllerType: 120, value: 0 },
      ]),
      { deltaTime: 0, type: 'endOfTrack', meta: true },
    ]
    const [midi, wave] = [join(folder, 'notes.mid'), join(folder, 'notes.wav')]
    writeFileSync(midi, Uint8Array.from(writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: 960 }, tracks: [events] })))
    const run = spawnSync('fluidsynth', ['-ni', '-R', '0', '-C', '0', '-g', '0.6', '-r', String(RATE), '-O', 's24', '-F', wave, FONT, midi])
    if (run.status !== 0) throw new Error(`fluidsynth could not play preset ${preset}: ${String(run.stderr)}`)
    const audio = readWave(readFileSync(wave))
    const mono = monoOf(audio.channels)
    return notes.map((_, i) => mono.slice((i * SLOT_SECONDS + GAP_SECONDS) * RATE, (i + 1) * SLOT_SECONDS * RATE))
  }
  finally {
    rmSync(folder, { recursive: true })
  }
}

/** The percussion patches of Freepats (GPL). Their names begin with their General MIDI key. */
export function freepats(): Labelled[] {
  return readdirSync(PATCHES).filter(name => name.endsWith('.pat')).sort().flatMap((name) => {
    const label = KEYS[Number(name.slice(0, 3))]
    if (!label) return []
    return patchSamples(readFileSync(join(PATCHES, name))).map(sample => ({ set: 'Freepats', name: name.slice(0, -4), label, ...sample }))
  })
}

/** Reads the samples of a patch in the GF1 format. Source: the format as described in the Freepats project's documents (from memory). */
function patchSamples(bytes: Buffer): { samples: Float32Array, sampleRate: number }[] {
  const found: { samples: Float32Array, sampleRate: number }[] = []
  const count = bytes[129 + 63 + 6]!
  let at = 129 + 63 + 47
  for (let i = 0; i < count; i++) {
    const size = bytes.readUInt32LE(at + 8)
    const sampleRate = bytes.readUInt16LE(at + 20)
    const modes = bytes[at + 55]!
    const [isWide, isUnsigned] = [(modes & 1) !== 0, (modes & 2) !== 0]
    at += 96
    const samples = new Float32Array(isWide ? size >> 1 : size)
    for (let frame = 0; frame < samples.length; frame++) {
      const value = isWide ? bytes.readUInt16LE(at + frame * 2) : bytes[at + frame]! << 8
      samples[frame] = ((isUnsigned ? value - 32_768 : value << 16 >> 16)) / 32_768
    }
    found.push({ samples, sampleRate })
    at += size
  }
  return found
}
