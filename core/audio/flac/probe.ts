import { crc8, nextCrc16 } from './crc'

/** What the probe decodes to: one channel of so many samples of this value, in 16 bit. */
export const PROBE_SAMPLES = 16
export const PROBE_VALUE = 0x1234

/**
 * A whole FLAC frame whose samples are known: fixed block size, 44.1 kHz, one channel, 16 bit, one constant subframe.
 * Source: RFC 9639, 9.1 (frame header), 9.2.3 (constant subframe), 9.3 (frame footer).
 */
export function probeFrame(): Uint8Array {
  const header = Uint8Array.of(0xFF, 0xF8, 0x69, 0x08, 0x00, PROBE_SAMPLES - 1)
  const body = [...header, crc8(header, 0, header.length), 0x00, PROBE_VALUE >> 8, PROBE_VALUE & 0xFF]
  const sum = body.reduce(nextCrc16, 0)
  return Uint8Array.of(...body, sum >> 8, sum & 0xFF)
}
