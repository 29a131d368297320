import { writeWave } from '../../core/audio/wave/write'
import type { Force } from '../synth/drums'
import { finish, Random, SYNTH_RATE } from '../synth/dsp'
import { loop } from '../synth/loops'
import { resample } from '../../core/audio/resample'
import { INSTRUMENTS, type Instrument } from './instruments'
import { encode, render, type Medium, type PackFile, type Take } from './recording'

const FORCES: readonly { readonly mark: string, readonly force: Force }[] = [
  { mark: 'soft', force: 0.15 },
  { mark: 'mid', force: 0.5 },
  { mark: 'hard', force: 0.95 },
]

/** All files of the four packs. The same seed gives the same bytes. */
export function allPacks(seed: number): PackFile[] {
  return [...nightFerry(seed + 1_000), ...harbourTools(seed + 20_000), ...engineRoom(seed + 30_000), ...quayNine(seed + 40_000)]
}

function take(instrument: Instrument, seed: number, force: Force, peakDb: number, medium: Medium, embedded?: Take['embedded']): Take {
  return { drum: INSTRUMENTS[instrument], seed, force, peakDb, medium, embedded }
}

/** Long names in folders by kind, 24-bit 48 kHz, with umlauts: `Nachtfähre/Trommeln/Kick tief 02 hard.wav`. */
function nightFerry(seed: number): PackFile[] {
  const folders: Record<string, readonly [string, Instrument, number][]> = {
    'Trommeln/Kick': [['Kick tief', 'kickLong', 5], ['Kick kurz', 'kickShort', 5]],
    'Trommeln/Snare': [['Snare Oberdeck', 'snare', 6]],
    'Trommeln/Tom': [['Floor Tom', 'tomLow', 2], ['Mid Tom', 'tomMid', 2], ['High Tom', 'tomHigh', 2]],
    'Becken': [['Crash Schornstein', 'crash', 2], ['Ride Reling', 'ride', 2], ['Splash', 'splash', 2]],
    'Hände & Kleines': [['Clap Möwendeck', 'clap', 4], ['Frame Drum', 'frameDrum', 3], ['Tamb', 'tambourine', 3]],
  }
  const files: PackFile[] = []
  let next = seed
  for (const [folder, entries] of Object.entries(folders)) {
    for (const [name, instrument, variants] of entries) {
      for (let variant = 1; variant <= variants; variant++) {
        const own = next++
        for (const { mark, force } of FORCES) {
          files.push({
            path: `Nachtfähre/${folder}/${name} ${String(variant).padStart(2, '0')} ${mark}.wav`,
            make: () => render(take(instrument, own, force, -14 + force * 11, { container: 'wav', depth: 24, rate: 48_000, stereo: folder === 'Becken' })),
          })
        }
      }
    }
  }
  files.push({
    path: `Nachtfähre/Hände & Kleines/${'Ein sehr langer Name vom Unterdeck bei Windstärke sieben kurz vor dem Anlegen im Morgengrauen am Kai mit Möwen'.padEnd(116, ' x')}.wav`,
    make: () => render(take('shipsBell', seed + 900, 0.7, -3, { container: 'wav', depth: 16, rate: 44_100, stereo: false })),
  })
  return files
}

/** Abbreviations and numbers in one flat folder, 16-bit 44.1 kHz, hot, some with `smpl` and `LIST` chunks. */
function harbourTools(seed: number): PackFile[] {
  const entries: readonly [string, Instrument, number][] = [
    ['BD', 'kickShort', 10], ['BD_LONG', 'kickLong', 5], ['SD', 'snare', 12], ['RS', 'rim', 6], ['CP', 'clap', 6],
    ['CHH', 'closedHat', 12], ['OHH', 'openHat', 6], ['PHH', 'pedalHat', 4], ['LT', 'tomLow', 3], ['MT', 'tomMid', 3], ['HT', 'tomHigh', 3],
    ['CRS', 'crash', 2], ['RD', 'ride', 2], ['CB', 'cowbell', 5], ['TRI', 'triangle', 3], ['CLV', 'claves', 4], ['WB', 'woodBlock', 6],
    ['SHK', 'shaker', 6], ['BNG', 'bongo', 5], ['CNG', 'conga', 5], ['SNAP', 'snap', 4],
  ]
  return entries.flatMap(([code, instrument, count], group) => Array.from({ length: count }, (_, i): PackFile => ({
    path: `HARBOUR_TOOLS/HBR_${code}_${String(i + 1).padStart(3, '0')}.WAV`,
    make: () => render(take(instrument, seed + group * 100 + i, 0.8, -0.3, { container: 'wav', depth: 16, rate: 44_100, stereo: i % 3 === 0 }, embeddedFor(code, i))),
  })))
}

function embeddedFor(code: string, i: number): Take['embedded'] {
  if (i % 2 === 1) return undefined
  return { rootNote: 36 + i, info: { INAM: `${code} ${i + 1}`, ISFT: 'Harbour recorder', ICMT: 'Quay wall, two paces' } }
}

/** Sentences with takes and dynamics, AIFF and high rates. */
function engineRoom(seed: number): PackFile[] {
  const entries: readonly [string, Instrument, number, Medium][] = [
    ['tom floor', 'tomLow', 4, { container: 'aif', depth: 24, rate: 96_000, stereo: false }],
    ['tom rack', 'tomHigh', 4, { container: 'aif', depth: 24, rate: 96_000, stereo: false }],
    ['ride bell', 'rideBell', 4, { container: 'aif', depth: 16, rate: 44_100, stereo: false }],
    ['china', 'china', 3, { container: 'aif', depth: 16, rate: 48_000, stereo: true }],
    ['hi-hat open', 'openHat', 5, { container: 'aif', depth: 24, rate: 48_000, stereo: false }],
    ['hi-hat closed', 'closedHat', 6, { container: 'aif', depth: 24, rate: 48_000, stereo: false }],
    ['anvil chain', 'chain', 4, { container: 'wav', depth: 'float', rate: 88_200, stereo: false }],
    ['scraper', 'scraper', 4, { container: 'wav', depth: 32, rate: 48_000, stereo: false }],
    ['voice shout', 'shout', 8, { container: 'wav', depth: 'float', rate: 48_000, stereo: false }],
    ['tone engine low', 'engineLow', 3, { container: 'wav', depth: 'float', rate: 48_000, stereo: false }],
    ['tone engine mid', 'engineMid', 3, { container: 'wav', depth: 24, rate: 48_000, stereo: false }],
  ]
  const single = entries.flatMap(([name, instrument, takes, medium], group) => Array.from({ length: takes }, (_, i): PackFile => {
    const { mark, force } = FORCES[i % FORCES.length]!
    return {
      path: `Engine Room Sessions/${name.split(' ')[0]}/engine room - ${name} - take ${i + 1} (${mark}).${medium.container}`,
      make: () => render(take(instrument, seed + group * 100 + i, force, -9, medium)),
    }
  }))
  return [...single, ...loops(seed + 5_000)]
}

function loops(seed: number): PackFile[] {
  const kit = INSTRUMENTS
  const patterns = [
    { name: 'Bilge Pump', bpm: 96, parts: [{ drum: kit.kickShort, steps: 'x.....x.x...o...', gain: 0.9 }, { drum: kit.snare, steps: '....x.......x..o', gain: 0.7 }, { drum: kit.closedHat, steps: 'x.o.x.o.x.o.x.oo', gain: 0.3 }] },
    { name: 'Gangway', bpm: 122, parts: [{ drum: kit.kickLong, steps: 'x...x...x...x...', gain: 0.9 }, { drum: kit.clap, steps: '....x.......x...', gain: 0.6 }, { drum: kit.openHat, steps: '..x...x...x...x.', gain: 0.25 }] },
    { name: 'Rope and Tar', bpm: 140, parts: [{ drum: kit.frameDrum, steps: 'x..x..x.x..x..x.', gain: 0.8 }, { drum: kit.shaker, steps: 'xoxoxoxoxoxoxoxo', gain: 0.3 }, { drum: kit.claves, steps: 'x..x..x...x.x...', gain: 0.4 }] },
    { name: 'Sleeping Deck', bpm: 74, parts: [{ drum: kit.kickLong, steps: 'x.........x.....', gain: 0.8 }, { drum: kit.rim, steps: '....x.......x...', gain: 0.6 }, { drum: kit.maracas, steps: 'o.x.o.x.o.x.o.x.', gain: 0.25 }] },
    { name: 'Winch', bpm: 108, parts: [{ drum: kit.tomLow, steps: 'x..o..x.o...x...', gain: 0.8 }, { drum: kit.woodBlock, steps: '..x...x...x.x.x.', gain: 0.4 }, { drum: kit.tambourine, steps: '....x.......x...', gain: 0.4 }] },
  ]
  return patterns.map(({ name, bpm, parts }, i) => ({
    path: `Engine Room Sessions/loops/${name} ${bpm}bpm.wav`,
    make: () => encode([finish(loop(new Random(seed + i), bpm, parts), -3)], { seed: seed + i, medium: { container: 'wav', depth: 16, rate: SYNTH_RATE, stereo: false } }),
  }))
}

/** Numbers in folders, capitals inside words, low rates and depths; and all the accidents of real packs. */
function quayNine(seed: number): PackFile[] {
  const entries: readonly [string, string, Instrument, number][] = [
    ['Kicks', '', 'kickShort', 12], ['Snares', '', 'snare', 12], ['Hats', 'ClosedHat', 'closedHat', 10], ['Hats', 'OpenHat', 'openHat', 6],
    ['Perc', 'Bongo', 'bongo', 6], ['Perc', 'Cowbell', 'cowbell', 4], ['Perc', 'Shaker', 'shaker', 6], ['Perc', 'WoodBlock', 'woodBlock', 6], ['Perc', 'Conga', 'conga', 6],
    ['Bells', 'ShipBell', 'shipsBell', 5], ['Fx', 'Horn', 'horn', 4], ['Fx', 'Wave', 'wave', 5], ['Fx', 'Gull', 'gull', 6], ['Fx', 'Ratchet', 'ratchet', 3],
    ['Claps', '', 'clap', 8], ['Rims', '', 'rim', 6], ['Toms', 'TomHi_rr', 'tomHigh', 4], ['Toms', 'TomLo_rr', 'tomLow', 4],
  ]
  const media: readonly Medium[] = [
    { container: 'wav', depth: 16, rate: 22_050, stereo: false },
    { container: 'wav', depth: 8, rate: 22_050, stereo: false },
    { container: 'wav', depth: 16, rate: 32_000, stereo: true },
    { container: 'wav', depth: 16, rate: 44_100, stereo: false },
  ]
  const takes = entries.flatMap(([folder, word, instrument, count], group) => Array.from({ length: count }, (_, i): PackFile => ({
    path: `Quay 9 field kit/${folder}/${word ? `${word}${word.endsWith('rr') ? i + 1 : String(i + 1).padStart(2, '0')}` : String(group * 7 + i + 1).padStart(3, '0')}.wav`,
    make: () => render(take(instrument, seed + group * 100 + i, 0.7, -6, media[(i + group) % media.length]!)),
  })))
  return [...takes, ...accidents(seed)]
}

function accidents(seed: number): PackFile[] {
  const plain: Medium = { container: 'wav', depth: 16, rate: 44_100, stereo: false }
  const kick = take('kickShort', seed + 9_001, 0.8, -6, plain)
  const folder = 'Quay 9 field kit/Unsorted'
  const at44 = (channel: Float32Array) => resample([channel], SYNTH_RATE, 44_100)
  const plainWave = (channel: Float32Array) => writeWave(at44(channel), 44_100, { depth: 16 })
  return [
    { path: `${folder}/Kick original.wav`, make: () => render(kick) },
    { path: `${folder}/copy of 7.wav`, make: () => render(kick) },
    { path: `${folder}/Kick original.aif`, make: () => render({ ...kick, medium: { ...plain, container: 'aif' } }) },
    { path: `${folder}/Silence.wav`, make: () => plainWave(new Float32Array(SYNTH_RATE)) },
    { path: `${folder}/Snare too hot.wav`, make: () => plainWave(clipped(INSTRUMENTS.snare(new Random(seed + 9_002), 1))) },
    { path: `${folder}/Tom with offset.wav`, make: () => plainWave(finish(INSTRUMENTS.tomMid(new Random(seed + 9_003), 0.6), -8).map(value => value + 0.12)) },
    { path: `${folder}/four bongos.wav`, make: () => plainWave(finish(fourHits(seed + 9_004), -4)) },
    { path: `${folder}/late rimshot.wav`, make: () => plainWave(late(INSTRUMENTS.rim(new Random(seed + 9_008), 0.8), 2.5)) },
    { path: `${folder}/cut off crash.wav`, make: () => render(take('crash', seed + 9_009, 0.9, -3, plain)).subarray(0, 60_001) },
    { path: `${folder}/Kick not really.wav`, make: () => new TextEncoder().encode('The recorder was off. Sorry. - Jo\n') },
    { path: `${folder}/read me.txt`, make: () => new TextEncoder().encode('Field recordings from quay 9, nights 3 to 5.\n') },
  ]
}

function clipped(buffer: Float32Array): Float32Array {
  return finish(buffer, 9).map(value => Math.max(-1, Math.min(1, value)))
}

function fourHits(seed: number): Float32Array {
  const out = new Float32Array(SYNTH_RATE * 2)
  for (let hit = 0; hit < 4; hit++) {
    const one = INSTRUMENTS.bongo(new Random(seed + hit), 0.4 + hit * 0.15)
    out.set(one.subarray(0, Math.min(one.length, SYNTH_RATE / 2)), hit * SYNTH_RATE / 2)
  }
  return out
}

function late(buffer: Float32Array, seconds: number): Float32Array {
  const out = new Float32Array(buffer.length + Math.round(seconds * SYNTH_RATE))
  out.set(finish(buffer, -4), out.length - buffer.length)
  return out
}
