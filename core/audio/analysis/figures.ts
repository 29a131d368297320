import { toDb } from '../level'
import { energyOf, sumOf } from '../sweep'
import { bandPowersOf } from './bands'
import { ATTACK_SECONDS, brightness, colourOf, monoOf, type Colour } from './colour'
import { envelopeOf, type Envelope } from './envelope'
import { featuresOf } from './features'
import { channelsAre, clippingOf, dcOffset, isFullScale, isSilent } from './flags'
import { heardOf } from './heard'
import { loudnessOf, matchingGainDb } from './loudness'
import { hitsOf, type Hit } from './onsets'
import { nearestNote, pitchOf } from './pitch'
import { timingOf, wholeTiming, type Timing } from './timing'
import { truePeak } from './truePeak'

/** Version of the methods below: a sound measured by an older one is measured again. */
export const FIGURES_VERSION = 15

/** What is worth knowing before a sound is used. */
export type Flag = 'silent' | 'clipped' | 'dc-offset' | 'mono-as-stereo' | 'out-of-phase' | 'several-hits' | 'late-start' | 'loop'

export interface LevelFigures {
  /** Over full scale, of the highest sample and of the waveform between samples. */
  readonly peakDb: number
  readonly truePeakDb: number
  readonly rmsDb: number
  /** Peak over RMS. */
  readonly crestDb: number
  /** Null for anything shorter than 400 ms. */
  readonly integratedLufs: number | null
  readonly hitLufs: number
  /** Brings the hit to the common reference. */
  readonly matchingGainDb: number
}

export interface PitchFigures {
  readonly hz: number
  readonly note: number
  readonly cents: number
  readonly confidence: number
}

/** Everything that is measured of a sound from its audio alone. Silence has no more than its flags. */
export interface Figures {
  readonly version: number
  readonly flags: readonly Flag[]
  readonly level: LevelFigures | null
  readonly timing: Timing | null
  readonly hits: readonly Hit[]
  /** Over the first 60 ms of the sound, and over what follows. */
  readonly attack: Colour | null
  readonly body: Colour | null
  /** 0 dark to 100 bright. */
  readonly brightness: number | null
  readonly pitch: PitchFigures | null
  readonly clippedRuns: number
  /** Over full scale, with its sign; 0 where there is none to speak of. */
  readonly dcOffset: number
}

const LATE_SECONDS = 0.1
/** What lies higher than this, 120 dB over full scale, comes of damaged files alone, and powers of spectra of it are more than a float holds. */
const LOUDEST = 1e6
const LOOP_HITS = 6
const LOOP_SECONDS = 1.2
/** Longer recordings are told by their first minute, so that an hour of rain takes no hour. */
const LONGEST_SECONDS = 60

/**
 * Measures a sound.
 *
 * @param channels one array a channel, full scale at +-1
 */
export function figuresOf(channels: readonly Float32Array[], sampleRate: number): Figures {
  return measure(channels, sampleRate).figures
}

/** Figures and, of all but silence, the vector that sounds are compared by. */
export interface Measurement {
  readonly figures: Figures
  readonly features: Uint8Array | null
  /** Highest absolute sample, full scale 1. */
  readonly peak: number
}

/**
 * Measures a sound and draws its vector, see `features.ts`. Of several hits that are no loop the vector is that of the first:
 * four strokes of a bongo are a bongo.
 */
export function measure(channels: readonly Float32Array[], sampleRate: number): Measurement {
  const envelope = envelopeOf(channels, sampleRate)
  if (envelope.peak > LOUDEST) return measureQuieter(channels, sampleRate, envelope.peak)
  const offset = dcOffset(channels)
  const centred = offset === 0 ? channels : channels.map(withoutOffset)
  const outline = offset === 0 ? envelope : envelopeOf(centred, sampleRate)
  const timing = isSilent(envelope.peak) ? undefined : timingOf(outline)
  if (!timing) {
    const figures: Figures = { version: FIGURES_VERSION, flags: ['silent'], level: null, timing: null, hits: [], attack: null, body: null, brightness: null, pitch: null, clippedRuns: 0, dcOffset: offset }
    return { figures, features: null, peak: envelope.peak }
  }
  const character = characterOf(centred, sampleRate, envelope, timing)
  const { start, end, hits, pitch, attack, body, isLoop } = character
  const { runs, isClipped } = isFullScale(envelope.peak) ? clippingOf(channels, envelope) : { runs: 0, isClipped: false }
  const together = channels.length > 1 ? channelsAre(channels) : 'own'
  const flags: readonly (Flag | false)[] = [
    isClipped && 'clipped',
    offset !== 0 && 'dc-offset',
    together === 'same' && 'mono-as-stereo',
    together === 'opposite' && 'out-of-phase',
    hits.length > 1 && 'several-hits',
    start >= LATE_SECONDS && 'late-start',
    isLoop && 'loop',
  ]
  const whole = wholeTiming(timing, outline, centred)
  const figures: Figures = {
    version: FIGURES_VERSION,
    flags: flags.filter(flag => flag !== false),
    level: levelOf(channels, envelope),
    timing: whole,
    hits: endingAt(hits, whole.leadSeconds + whole.effectiveSeconds),
    attack,
    body,
    brightness: brightnessOf(attack, body, end - start),
    pitch: pitch ? { hz: pitch.hz, confidence: pitch.confidence, ...nearestNote(pitch.hz) } : null,
    clippedRuns: runs,
    dcOffset: offset,
  }
  return { figures, features: vectorOf(centred, sampleRate, outline, character), peak: envelope.peak }
}

/** Measures a sound as if its peak were full scale, and says how loud it is all the same. */
function measureQuieter(channels: readonly Float32Array[], sampleRate: number, peak: number): Measurement {
  const { figures, features } = measure(channels.map(channel => channel.map(value => value / peak)), sampleRate)
  return { figures: { ...figures, level: figures.level && louder(figures.level, toDb(peak)), dcOffset: figures.dcOffset * peak }, features, peak }
}

function louder(level: LevelFigures, db: number): LevelFigures {
  const [truePeakDb, hitLufs] = [level.truePeakDb + db, level.hitLufs + db]
  return {
    peakDb: level.peakDb + db,
    truePeakDb,
    rmsDb: level.rmsDb + db,
    crestDb: level.crestDb,
    integratedLufs: level.integratedLufs === null ? null : level.integratedLufs + db,
    hitLufs,
    matchingGainDb: matchingGainDb(hitLufs, truePeakDb),
  }
}

/** Hits of which the last one ends with the sound, unless it began after that, in its noise. */
function endingAt(hits: readonly Hit[], endSeconds: number): readonly Hit[] {
  return hits.map((hit, i) => i === hits.length - 1 && hit.startSeconds < endSeconds ? { ...hit, endSeconds } : hit)
}

/** What a sound is by its spectra, without its levels. */
function characterOf(channels: readonly Float32Array[], sampleRate: number, envelope: Envelope, timing: Timing) {
  const mono = monoOf(channels)
  const start = timing.leadSeconds
  const end = Math.min(start + timing.effectiveSeconds, start + LONGEST_SECONDS)
  const heard = heardOf(mono, sampleRate, start, end)
  const powers = bandPowersOf(heard, start, end)
  const hits = hitsOf(powers, envelope, start, end)
  const pitch = pitchOf(mono, sampleRate, start + timing.attackSeconds, hits[0]?.endSeconds ?? end)
  const attack = colourOf(heard, start, Math.min(end, start + ATTACK_SECONDS)) ?? null
  const body = end > start + ATTACK_SECONDS ? colourOf(heard, start + ATTACK_SECONDS, end) ?? null : null
  return { start, end, timing, heard, powers, hits, pitch, attack, body, isLoop: hits.length >= LOOP_HITS && end - start >= LOOP_SECONDS }
}

/** The vector of a sound: of its first hit where it is several and no loop. */
function vectorOf(channels: readonly Float32Array[], sampleRate: number, envelope: Envelope, character: ReturnType<typeof characterOf>): Uint8Array {
  const [first, second] = character.hits
  if (first && second && !character.isLoop) {
    const alone = channels.map(channel => channel.subarray(0, Math.round(first.endSeconds * sampleRate)))
    const outline = envelopeOf(alone, sampleRate)
    const timing = isSilent(outline.peak) ? undefined : timingOf(outline)
    if (timing) return vectorOf(alone, sampleRate, outline, characterOf(alone, sampleRate, outline, timing))
  }
  return featuresOf({ ...character, envelope })
}

function levelOf(channels: readonly Float32Array[], envelope: Envelope): LevelFigures {
  const { peak, sampleRate } = envelope
  let squares = 0
  let count = 0
  for (const channel of channels) {
    squares += energyOf(channel)
    count += channel.length
  }
  const rmsDb = toDb(Math.sqrt(squares / count))
  const loudness = loudnessOf(channels, sampleRate)
  const truePeakDb = toDb(truePeak(channels, envelope))
  return {
    peakDb: toDb(peak),
    truePeakDb,
    rmsDb,
    crestDb: toDb(peak) - rmsDb,
    ...loudness,
    matchingGainDb: matchingGainDb(loudness.hitLufs, truePeakDb),
  }
}

/** Of the whole sound: each part counts by its energy. */
function brightnessOf(attack: Colour | null, body: Colour | null, seconds: number): number | null {
  const parts = [{ colour: attack, seconds: Math.min(seconds, ATTACK_SECONDS) }, { colour: body, seconds: Math.max(0, seconds - ATTACK_SECONDS) }]
  let energy = 0
  let weighted = 0
  for (const { colour, seconds: length } of parts) {
    if (!colour) continue
    energy += colour.power * length
    weighted += colour.power * length * colour.centroidHz
  }
  return energy > 0 ? brightness(weighted / energy) : null
}

function withoutOffset(channel: Float32Array): Float32Array {
  const mean = sumOf(channel, 0, channel.length) / channel.length
  return channel.map(value => value - mean)
}
