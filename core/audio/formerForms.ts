import type { DecodedAudio } from './decoded'
import { vorbisOrder } from './ogg/channelOrder'

/** Audio as far as its identity goes. */
export type Identified = Pick<DecodedAudio, 'channels' | 'sampleRate' | 'frames'>

/**
 * The forms in which earlier versions read the same file: kits and presets of then name its sound by the identity of that form. One
 * channel of MPEG was doubled, and more than two of Vorbis and Opus were in that order.
 */
export function formerForms({ channels, sampleRate, frames, facts: { codec } }: DecodedAudio): Identified[] {
  const [only] = channels
  if (only && channels.length === 1 && codec === 'MP3') return [{ channels: [only, only], sampleRate, frames }]
  if (channels.length > 2 && channels.length !== 4 && (codec === 'Vorbis' || codec === 'Opus')) return [{ channels: vorbisOrder(channels), sampleRate, frames }]
  return []
}
