import { fromDb } from '~~/core/audio/level'
import type { HeardSound } from './bufferCache'
import { useOutput } from './output'

const FADE_SECONDS = 0.003

interface Playing {
  readonly source: AudioBufferSourceNode
  readonly gain: GainNode
  readonly startedAt: number
  readonly lengthSeconds: number
}

let playing: Playing | undefined

/** Plays one sound whole at a gain, at once, in place of the one that plays: one voice, faded out over 3 ms. */
export function startAudition(sound: HeardSound, gainDb: number, onEnd: () => void): void {
  stopAudition()
  const { context, input } = useOutput()
  const source = context.createBufferSource()
  const gain = context.createGain()
  source.buffer = sound.buffer
  gain.gain.value = fromDb(gainDb)
  source.connect(gain).connect(input)
  const now: Playing = { source, gain, startedAt: context.currentTime, lengthSeconds: sound.buffer.duration }
  source.addEventListener('ended', () => {
    gain.disconnect()
    if (playing === now) {
      playing = undefined
      onEnd()
    }
  })
  source.start()
  playing = now
}

export function stopAudition(): void {
  if (!playing) return
  const { context } = useOutput()
  playing.gain.gain.setValueAtTime(playing.gain.gain.value, context.currentTime)
  playing.gain.gain.linearRampToValueAtTime(0, context.currentTime + FADE_SECONDS)
  playing.source.stop(context.currentTime + FADE_SECONDS)
  playing = undefined
}

/** How much of the sound has been played, 0 to 1, or null when nothing plays. */
export function auditionPosition(): number | null {
  if (!playing) return null
  const { context } = useOutput()
  return Math.min(1, (context.currentTime - playing.startedAt) / playing.lengthSeconds)
}
