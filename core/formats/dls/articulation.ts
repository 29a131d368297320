import { ByteReader } from '../../audio/bytes'
import { ByteWriter, chunkBytes } from '../riff'
import { secondsToTimecents, timecentsToSeconds } from '../units'

/** Destinations of a connection without a source: fixed values. Source: DLS 1.1b, 1.14.5; DLS 2.2, 1.14. */
export const DESTINATION = {
  gain: 0x0001, pitch: 0x0003, pan: 0x0004,
  attack: 0x0206, decay: 0x0207, release: 0x0209, sustain: 0x020A, delay: 0x020B, hold: 0x020C,
  cutoff: 0x0500, resonance: 0x0501,
} as const

/** One value of an articulation, 16.16 fixed point as stored. */
export interface Connection {
  readonly source: number
  readonly control: number
  readonly destination: number
  readonly scale: number
}

/** Scale of no time at all. Source: DLS 1.1b, 1.14.3. */
const NO_TIME = -0x8000_0000
const FIXED = 65_536
const MOST_CONNECTIONS = 1024

/** The connections of an `art1` or `art2` chunk; one that is cut short gives those that are whole. */
export function readConnections(bytes: Uint8Array): Connection[] {
  const reader = new ByteReader(bytes, 'articulation')
  if (!reader.has(0, 8)) return []
  const from = reader.u32(0, true)
  const count = Math.min(MOST_CONNECTIONS, reader.u32(4, true))
  const found: Connection[] = []
  for (let i = 0; i < count && reader.has(from + i * 12, 12); i++) {
    const at = from + i * 12
    found.push({ source: reader.u16(at, true), control: reader.u16(at + 2, true), destination: reader.u16(at + 4, true), scale: reader.u32(at + 8, true) | 0 })
  }
  return found
}

/** The fixed value of a destination in its own unit (cents, tenths of a per cent, timecents); undefined where none is stated. */
export function fixedValue(connections: readonly Connection[], destination: number): number | undefined {
  const found = connections.findLast(one => one.source === 0 && one.control === 0 && one.destination === destination)
  return found && found.scale / FIXED
}

/** The same of a time, in seconds. */
export function fixedSeconds(connections: readonly Connection[], destination: number): number | undefined {
  const found = connections.findLast(one => one.source === 0 && one.control === 0 && one.destination === destination)
  return found && (found.scale === NO_TIME ? 0 : timecentsToSeconds(Math.max(-24_000, Math.min(12_000, found.scale / FIXED))))
}

/** Cents over all 128 keys where pitch follows them as usual. Source: DLS 1.1b, 1.14.5, key number to pitch. */
const USUAL_TRACK = 12_800
const KEY_NUMBER = 0x0003

/** A connection that a kit has no words for: anything that moves but the pitch with the keys. */
export function isMoving({ source, control, destination }: Connection): boolean {
  return (source !== 0 || control !== 0) && !(source === KEY_NUMBER && control === 0 && destination === DESTINATION.pitch)
}

/** Cents a key by which pitch follows the keys. */
export function trackOf(connections: readonly Connection[]): number {
  const found = connections.findLast(one => one.source === KEY_NUMBER && one.control === 0 && one.destination === DESTINATION.pitch)
  return found ? found.scale / FIXED * 100 / USUAL_TRACK : 100
}

/** An articulation chunk of fixed values, in their units, and of how pitch follows the keys where that is not 100 cents a key. */
export function articulationBytes(id: 'art1' | 'art2', values: readonly (readonly [destination: number, value: number])[], trackCents: number): Uint8Array {
  const isUsual = trackCents === 100
  const out = new ByteWriter().u32(8, values.length + (isUsual ? 0 : 1))
  if (!isUsual) out.u16(KEY_NUMBER, 0, DESTINATION.pitch, 0).i32(Math.round(trackCents / 100 * USUAL_TRACK * FIXED))
  for (const [destination, value] of values) out.u16(0, 0, destination, 0).i32(Math.round(value * FIXED))
  return chunkBytes(id, out.done)
}

/** Timecents of a time as an articulation has it, 1/32 s at the lowest to 40 s. */
export function dlsTimecents(seconds: number): number {
  return secondsToTimecents(seconds, -12_000, 6_386)
}
