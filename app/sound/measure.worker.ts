import { LRUCache } from 'lru-cache'
import { decodeAudio } from '~~/core/audio/decode'
import { messageOf } from '~~/core/errors'
import { playingSoundsOf, type Kit } from '~~/core/kit/document'
import { measureHits, type HitsMeasured } from '~~/core/render/measureHits'
import { prepareSound } from '~~/core/render/prepare'
import type { PreparedSound } from '~~/core/render/voice'

/** A kit whose pads on some notes are to be hit at once, and measured. */
export interface MeasureRequest {
  readonly id: number
  readonly kit: Kit
  readonly notes: readonly number[]
  /** Where the audio of each sound is fetched from. */
  readonly urls: Readonly<Record<string, string>>
}

export type MeasureAnswer =
  | { readonly id: number, readonly measured: HitsMeasured }
  | { readonly id: number, readonly error: string }

const RATE = 48_000
/** Audio kept at most between questions. */
const MOST_BYTES = 160_000_000

/** One that is larger than all may be is kept alone. */
const sounds = new LRUCache<string, PreparedSound>({ maxSize: MOST_BYTES, sizeCalculation: sound => Math.max(1, Math.min(MOST_BYTES, bytesOf(sound))) })

self.addEventListener('message', (event: MessageEvent<MeasureRequest>) => void answer(event.data))

async function answer({ id, kit, notes, urls }: MeasureRequest): Promise<void> {
  try {
    const ready = new Map<string, PreparedSound>()
    for (const sound of playingSoundsOf(kit)) ready.set(sound.id, await soundOf(sound.id, urls[sound.id]!))
    self.postMessage({ id, measured: measureHits(kit, ready, notes, RATE) } satisfies MeasureAnswer)
  }
  catch (thrown) {
    self.postMessage({ id, error: messageOf(thrown) } satisfies MeasureAnswer)
  }
}

async function soundOf(id: string, url: string): Promise<PreparedSound> {
  const known = sounds.get(id)
  if (known) return known
  const response = await fetch(url)
  if (!response.ok) throw new Error('The sound could not be fetched from Emporion\'s server.')
  const prepared = prepareSound(await decodeAudio(new Uint8Array(await response.arrayBuffer())), RATE)
  sounds.set(id, prepared)
  return prepared
}

function bytesOf(sound: PreparedSound): number {
  return sound.channels.reduce((sum, channel) => sum + channel.byteLength, 0)
}
