/** Tables of the cyclic redundancy checks of FLAC, most significant bit first, from zero. Source: RFC 9639, 9.1.8 (x^8 + x^2 + x + 1) and 9.3 (x^16 + x^15 + x^2 + 1). */
const CRC_8 = tableOf(8, 0x07)
const CRC_16 = tableOf(16, 0x8005)

function tableOf(bits: number, polynomial: number): Uint16Array {
  const top = 1 << (bits - 1)
  return Uint16Array.from({ length: 256 }, (_, byte) => {
    let sum = byte << (bits - 8)
    for (let bit = 0; bit < 8; bit++) sum = (sum & top ? sum << 1 ^ polynomial : sum << 1) & (2 * top - 1)
    return sum
  })
}

/** CRC-8 of the bytes from one place to before another. */
export function crc8(bytes: Uint8Array, from: number, to: number): number {
  let sum = 0
  for (let at = from; at < to; at++) sum = CRC_8[sum ^ bytes[at]!]!
  return sum
}

/** CRC-16 carried on over one more byte. Over data and its own CRC it is 0. */
export function nextCrc16(sum: number, byte: number): number {
  return (sum << 8 ^ CRC_16[sum >> 8 ^ byte]!) & 0xFFFF
}
