import type { DecodedAudio } from '../audio/decoded'
import { resample, resampledFrames } from '../audio/resample'
import type { PreparedSound } from './voice'

/** Makes a decoded sound ready for an engine of the given rate. Of more than two channels the first two sound. */
export function prepareSound(audio: Pick<DecodedAudio, 'channels' | 'sampleRate'>, engineRate: number): PreparedSound {
  return { channels: resample(audio.channels.slice(0, 2), audio.sampleRate, engineRate), sourceRate: audio.sampleRate }
}

/** Silence as long as a sound: for one that chokes and ends as it would, but is not heard. */
export function silentSound({ frames, sampleRate, channels }: { readonly frames: number, readonly sampleRate: number, readonly channels: number }, engineRate: number): PreparedSound {
  const silence = new Float32Array(resampledFrames(frames, sampleRate, engineRate))
  return { channels: Array.from({ length: Math.min(2, channels) }, () => silence), sourceRate: sampleRate }
}
