import { EmporionError, messageOf } from '../../errors'
import type { Envelope, Filter, SoundRef } from '../../kit/document'
import type { Identify, ReadKit } from '../read'
import { SoundTable } from '../soundTable'
import { absoluteCentsToHz, PAIR_GAIN_DB } from '../units'
import { kitFromZones } from '../zones/kitFromZones'
import { writeLoopOut } from '../zones/loops'
import { pairedUp } from '../zones/pairs'
import { PLAIN_ZONE, type NotCarried, type Zone } from '../zones/zone'
import { DESTINATION as D, fixedSeconds, fixedValue, isMoving, trackOf, type Connection } from './articulation'
import type { DlsCollection, DlsRegion, WaveSettings } from './instruments'

/** Envelope times are those of 96 dB; a kit has those of 60. Source: DLS 1.1b, 1.14.3. */
const OF_96_DB = 60 / 96
/** A release this long lets every hit ring to its end. */
const ENDLESS_SECONDS = 39
const PLAIN: WaveSettings = { unityNote: 60, fineTuneCents: 0, gainDb: 0 }
/** A phase group above 0 joins the sides of a sound. */
const LEFT = 1
const RIGHT = 2

/**
 * Reads one instrument of a DLS collection into a kit, with its waves. Source: MMA Downloadable Sounds 1.1b and 2.2.
 *
 * @param instrumentAt its place in the collection's list
 * @throws EmporionError `not-found` when there is none, `unreadable` when nothing of it can be played
 */
export async function readDlsInstrument(collection: DlsCollection, instrumentAt: number, identify: Identify): Promise<ReadKit> {
  const instrument = collection.instruments[instrumentAt]
  if (!instrument) throw new EmporionError('not-found', `The collection has ${collection.instruments.length} instruments, and none numbered ${instrumentAt + 1}.`)
  const warnings = new Map<string, NotCarried>()
  const warn = (where: string, what: string) => void warnings.set(`${where}\n${what}`, { where, what })
  const table = new SoundTable(identify)
  const sounds: (SoundRef | undefined)[] = []
  const loaded = new Map<string, { index: number, settings: WaveSettings, isLooped: boolean } | undefined>()
  const missing: string[] = []
  const zones: Zone[] = []
  for (const pair of pairedUp(instrument.regions, sideOf)) {
    const [first] = pair
    const key = JSON.stringify([pair.map(region => region.wave), first.settings?.loop])
    if (!loaded.has(key)) loaded.set(key, await load(collection, pair, table, sounds).catch((thrown: unknown) => void missing.push(`Wave ${first.wave + 1}: ${messageOf(thrown)}`)))
    const wave = loaded.get(key)
    if (!wave) continue
    const sound = sounds[wave.index]!
    if (wave.isLooped) warn(sound.name, 'Its loop was written out for 4 s: a kit has no loops.')
    if (first.connections.some(isMoving)) warn(instrument.name || 'The instrument', 'What moves its sound by controllers, velocity or low-frequency waves has no place in a kit, and was left out.')
    zones.push(zoneOf(first, wave.index, sound, first.settings ?? wave.settings, pair.length === 2))
  }
  if (zones.length === 0) throw new EmporionError('unreadable', { what: `The instrument "${instrument.name}" has no region that can be played.`, kept: 'Nothing was brought in.', next: 'Choose another instrument of the collection.' })
  const made = kitFromZones({ name: instrument.name || collection.name || 'Instrument', zones, sounds, isPercussion: instrument.isDrums })
  return { kit: made.kit, audio: table.audio, notCarried: [...warnings.values(), ...made.notCarried], missing }
}

function sideOf(region: DlsRegion): { key: string, side: 'left' | 'right' } | undefined {
  const pan = fixedValue(region.connections, D.pan) ?? 0
  if (region.phaseGroup === 0 || (region.channel !== LEFT && region.channel !== RIGHT) || pan === 0) return undefined
  return {
    key: JSON.stringify([region.phaseGroup, region.lowNote, region.highNote, region.lowVelocity, region.highVelocity, region.keyGroup, region.settings, region.connections.filter(one => one.destination !== D.pan)]),
    side: region.channel === LEFT ? 'left' : 'right',
  }
}

async function load(collection: DlsCollection, pair: readonly DlsRegion[], table: SoundTable, sounds: (SoundRef | undefined)[]): Promise<{ index: number, settings: WaveSettings, isLooped: boolean }> {
  const waves = []
  for (const region of pair) waves.push(await collection.readWave(region.wave))
  const first = waves[0]!
  const sides = waves.length === 2 && waves.every(wave => wave.sampleRate === first.sampleRate && wave.channels[0]!.length === first.channels[0]!.length)
  const channels = sides ? waves.map(wave => wave.channels[0]!) : first.channels
  const settings = pair[0]!.settings ?? first.settings ?? PLAIN
  const whole = settings.loop ? writeLoopOut(channels, first.sampleRate, settings.loop) : channels
  const name = sides ? first.name.replace(/[\s_\-(]*[LR]\)?$/, '') || first.name : first.name
  const index = sounds.push(table.add(name, { channels: whole, sampleRate: first.sampleRate, depth: first.depth })) - 1
  return { index, settings, isLooped: whole !== channels }
}

function zoneOf(region: DlsRegion, index: number, sound: SoundRef, settings: WaveSettings, isPair: boolean): Zone {
  const { connections } = region
  const release = fixedSeconds(connections, D.release) ?? 0
  return {
    ...PLAIN_ZONE,
    sample: index, name: '',
    lowNote: region.lowNote, highNote: region.highNote, rootNote: settings.unityNote, keytrackCents: trackOf(connections),
    lowVelocity: Math.max(1, region.lowVelocity), highVelocity: Math.max(1, region.highVelocity),
    gainDb: settings.gainDb + (fixedValue(connections, D.gain) ?? 0) / 10 + (isPair ? PAIR_GAIN_DB : 0),
    // Full to one side is 50 %. Source: DLS 1.1b, 1.14.4.
    pan: isPair ? 0 : Math.max(-1, Math.min(1, (fixedValue(connections, D.pan) ?? 0) / 500)),
    tuneCents: settings.fineTuneCents + (fixedValue(connections, D.pitch) ?? 0),
    startFrame: 0, endFrame: sound.frames,
    play: release >= ENDLESS_SECONDS ? 'one-shot' : 'gated',
    envelope: envelopeOf(connections, release),
    filter: filterOf(connections),
    chokeGroup: region.keyGroup > 0 ? region.keyGroup : null,
  }
}

function envelopeOf(connections: readonly Connection[], release: number): Envelope {
  const falls = (fixedValue(connections, D.sustain) ?? 1000) <= 0
  return {
    attackSeconds: fixedSeconds(connections, D.attack) ?? 0,
    holdSeconds: falls ? fixedSeconds(connections, D.hold) ?? 0 : 0,
    decaySeconds: falls ? Math.max(0.001, (fixedSeconds(connections, D.decay) ?? 0) * OF_96_DB) : null,
    releaseSeconds: Math.max(0.001, release * OF_96_DB),
  }
}

function filterOf(connections: readonly Connection[]): Filter | null {
  const cents = fixedValue(connections, D.cutoff)
  if (cents === undefined || cents >= 13_500) return null
  return { type: 'low-pass', cutoffHz: absoluteCentsToHz(Math.max(1500, cents)), resonanceDb: Math.max(0, (fixedValue(connections, D.resonance) ?? 0) / 10) }
}
