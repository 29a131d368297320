import { LRUCache } from 'lru-cache'
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

/** One that is larger than all may be is kept alone. */
const ready = new LRUCache<string, HeardSound>({ maxSize: MOST_BYTES, sizeCalculation: ({ bytes }) => Math.max(1, Math.min(MOST_BYTES, bytes)) })
const coming = new Map<string, Promise<HeardSound>>()

/** The sound at an address if it is decoded already. */
export function readySound(url: string): HeardSound | undefined {
  return ready.get(url)
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
    ready.set(url, sound)
    return sound
  }).finally(() => coming.delete(url))
  coming.set(url, load)
  return load
}
