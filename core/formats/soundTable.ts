import type { SoundRef } from '../kit/document'
import type { Identify, ReadAudio } from './read'

/** Collects the audio of a format under its identity, so that equal samples become one sound. */
export class SoundTable {
  readonly audio = new Map<string, ReadAudio>()
  private readonly names = new Map<string, string>()

  constructor(private readonly identify: Identify) {}

  /** The sound of some audio; of equal audio the first name stays. */
  add(name: string, read: ReadAudio): SoundRef {
    const frames = read.channels[0]?.length ?? 0
    const id = this.identify({ channels: read.channels, sampleRate: read.sampleRate, frames })
    if (!this.audio.has(id)) {
      this.audio.set(id, read)
      this.names.set(id, name.trim().slice(0, 400) || 'Sample')
    }
    return { id, name: this.names.get(id)!, frames, sampleRate: read.sampleRate, channels: read.channels.length }
  }
}
