import type { DecodedAudio } from '../audio/decoded'
import { resample } from '../audio/resample'
import type { PreparedSound } from './voice'

/** Makes a decoded sound ready for an engine of the given rate. Of more than two channels the first two sound. */
export function prepareSound(audio: Pick<DecodedAudio, 'channels' | 'sampleRate'>, engineRate: number): PreparedSound {
  return { channels: resample(audio.channels.slice(0, 2), audio.sampleRate, engineRate), sourceRate: audio.sampleRate }
}
