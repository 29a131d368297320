import { decodeUrl, hasten, type Urgency } from './decoder'
import { useOutput } from './output'

/** Decoded audio that the page keeps at most; what was used longest ago goes first. */
const MOST_BYTES = 200_000_000

/** A sound ready to be heard and drawn. */
export interface HeardSound {
  readonly buffer: AudioBuffer
  readonly outline: Int8Array
  readonly bytes: number
}

const ready = new Map<string, HeardSound>()
const coming = new Map<string, Promise<HeardSound>>()
let bytesHeld = 0

/** The sound at an address if it is decoded already. */
export function readySound(url: string): HeardSound | undefined {
  const sound = ready.get(url)
  if (sound) {
    ready.delete(url)
    ready.set(url, sound)
  }
  return sound
}

/** The sound at an address, decoded when it is not yet. */
export function loadSound(url: string, urgency: Urgency = 'now'): Promise<HeardSound> {
  const known = readySound(url)
  if (known) return Promise.resolve(known)
  const under = coming.get(url)
  if (under) {
    if (urgency === 'now') hasten(url)
    return under
  }
  const load = decodeUrl(url, null, urgency).then((decoded) => {
    const { context } = useOutput()
    const buffer = context.createBuffer(Math.min(2, decoded.channels.length), decoded.frames, decoded.sampleRate)
    decoded.channels.slice(0, 2).forEach((channel, i) => buffer.copyToChannel(channel, i))
    const sound = { buffer, outline: decoded.outline, bytes: decoded.frames * buffer.numberOfChannels * 4 }
    keep(url, sound)
    return sound
  }).finally(() => coming.delete(url))
  coming.set(url, load)
  return load
}

function keep(url: string, sound: HeardSound): void {
  ready.set(url, sound)
  bytesHeld += sound.bytes
  for (const [oldest, held] of ready) {
    if (bytesHeld <= MOST_BYTES || oldest === url) break
    ready.delete(oldest)
    bytesHeld -= held.bytes
  }
}
