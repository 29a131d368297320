import { fromDb } from '~~/core/audio/level'
import { velocityGain } from '~~/core/kit/velocity'
import type { HeardSound } from './bufferCache'
import { useOutput } from './output'

const FADE_SECONDS = 0.003
const MOST_VOICES = 32

interface Voice {
  readonly place: number
  readonly source: AudioBufferSourceNode
  readonly gain: GainNode
}

let voices: Voice[] = []

/** Plays a sound beside those that sound already; the same key again cuts its own last stroke. */
export function playTogether(place: number, sound: HeardSound, gainDb: number, velocity: number): void {
  const { context, input } = useOutput()
  void context.resume()
  for (const voice of voices.filter(candidate => candidate.place === place)) fade(voice)
  if (voices.length >= MOST_VOICES) fade(voices[0]!)
  const source = context.createBufferSource()
  const gain = context.createGain()
  source.buffer = sound.buffer
  gain.gain.value = fromDb(gainDb) * velocityGain(velocity)
  source.connect(gain).connect(input)
  const voice: Voice = { place, source, gain }
  source.addEventListener('ended', () => {
    gain.disconnect()
    voices = voices.filter(candidate => candidate !== voice)
  })
  source.start()
  voices.push(voice)
}

export function stopTogether(): void {
  for (const voice of voices) fade(voice)
}

function fade(voice: Voice): void {
  const { context } = useOutput()
  voices = voices.filter(candidate => candidate !== voice)
  voice.gain.gain.setValueAtTime(voice.gain.gain.value, context.currentTime)
  voice.gain.gain.linearRampToValueAtTime(0, context.currentTime + FADE_SECONDS)
  voice.source.stop(context.currentTime + FADE_SECONDS)
}
