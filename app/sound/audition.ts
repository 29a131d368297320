import { fromDb } from '~~/core/audio/level'
import type { HeardSound } from './bufferCache'
import { useOutput } from './output'

const FADE_SECONDS = 0.003

/** Which part of a sound is played, and how. */
export interface HowToPlay {
  readonly gainDb: number
  /** Part of the sound in its own time, whichever way it is played. */
  readonly fromSeconds: number
  readonly untilSeconds: number
  readonly semitones: number
  readonly isReversed: boolean
  readonly isLooped: boolean
}

interface Playing {
  readonly source: AudioBufferSourceNode
  readonly gain: GainNode
  readonly startedAt: number
  readonly lengthSeconds: number
  readonly how: HowToPlay
  readonly rate: number
}

let playing: Playing | undefined
const backwards = new WeakMap<AudioBuffer, AudioBuffer>()

/** Plays one sound at once, in place of the one that plays: one voice, faded in where it starts within a sound, and out over 3 ms. */
export function startAudition(sound: HeardSound, how: HowToPlay, onEnd: () => void): void {
  stopAudition()
  const { context, input } = useOutput()
  const source = context.createBufferSource()
  const gain = context.createGain()
  const buffer = how.isReversed ? reversed(sound.buffer, context) : sound.buffer
  const whole = sound.buffer.duration
  const untilSeconds = Math.min(how.untilSeconds, whole)
  const [from, until] = how.isReversed ? [whole - untilSeconds, whole - how.fromSeconds] : [how.fromSeconds, untilSeconds]
  const rate = 2 ** (how.semitones / 12)
  const level = fromDb(how.gainDb)
  const now = context.currentTime
  source.buffer = buffer
  source.playbackRate.value = rate
  source.connect(gain).connect(input)
  if (from > 0) {
    gain.gain.setValueAtTime(0, now)
    gain.gain.linearRampToValueAtTime(level, now + FADE_SECONDS)
  }
  else gain.gain.setValueAtTime(level, now)
  const begun: Playing = { source, gain, startedAt: now, lengthSeconds: whole, how: { ...how, untilSeconds }, rate }
  source.addEventListener('ended', () => {
    gain.disconnect()
    if (playing === begun) {
      playing = undefined
      onEnd()
    }
  })
  if (how.isLooped) {
    source.loop = true
    source.loopStart = from
    source.loopEnd = until
    source.start(now, from)
  }
  else {
    const end = now + (until - from) / rate
    if (until < whole - FADE_SECONDS && until - from > 2 * FADE_SECONDS) {
      gain.gain.setValueAtTime(level, end - FADE_SECONDS)
      gain.gain.linearRampToValueAtTime(0, end)
    }
    source.start(now, from)
    source.stop(end)
  }
  playing = begun
}

/** Sets another level while it plays, without a click. */
export function setAuditionGain(gainDb: number): void {
  if (!playing) return
  const { context } = useOutput()
  playing.gain.gain.cancelScheduledValues(context.currentTime)
  playing.gain.gain.setTargetAtTime(fromDb(gainDb), context.currentTime, FADE_SECONDS)
}

export function stopAudition(): void {
  if (!playing) return
  const { context } = useOutput()
  const { gain, source } = playing
  playing = undefined
  gain.gain.cancelScheduledValues(context.currentTime)
  gain.gain.setValueAtTime(gain.gain.value, context.currentTime)
  gain.gain.linearRampToValueAtTime(0, context.currentTime + FADE_SECONDS)
  source.stop(context.currentTime + FADE_SECONDS)
}

/** Where in its own time the sound is that plays, in seconds, or null when nothing plays. */
export function auditionSeconds(): number | null {
  if (!playing) return null
  const { context } = useOutput()
  const { how, rate, startedAt } = playing
  const stretch = Math.max(1e-6, how.untilSeconds - how.fromSeconds)
  const elapsed = (context.currentTime - startedAt) * rate
  const along = how.isLooped ? elapsed % stretch : Math.min(stretch, elapsed)
  return how.isReversed ? how.untilSeconds - along : how.fromSeconds + along
}

/** How much of the sound has been played, 0 to 1, or null when nothing plays. */
export function auditionPosition(): number | null {
  const seconds = auditionSeconds()
  return seconds === null || !playing ? null : Math.min(1, seconds / playing.lengthSeconds)
}

function reversed(buffer: AudioBuffer, context: BaseAudioContext): AudioBuffer {
  const known = backwards.get(buffer)
  if (known) return known
  const made = context.createBuffer(buffer.numberOfChannels, buffer.length, buffer.sampleRate)
  for (let channel = 0; channel < buffer.numberOfChannels; channel++) made.copyToChannel(buffer.getChannelData(channel).toReversed(), channel)
  backwards.set(buffer, made)
  return made
}
