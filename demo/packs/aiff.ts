/**
 * Writes a plain AIFF file, big-endian integers. Source: Apple, Audio Interchange File Format 1.3 (1989).
 */
export function writeAiff(channels: readonly Float32Array[], sampleRate: number, bits: 8 | 16 | 24 | 32, dither: () => number = () => 0): Uint8Array {
  const frames = channels[0]?.length ?? 0
  const bytes = bits / 8
  const dataBytes = frames * channels.length * bytes
  const out = new Uint8Array(12 + 26 + 16 + dataBytes + dataBytes % 2)
  const view = new DataView(out.buffer)
  const text = (at: number, value: string) => [...value].forEach((letter, i) => view.setUint8(at + i, letter.charCodeAt(0)))
  text(0, 'FORM')
  view.setUint32(4, out.length - 8)
  text(8, 'AIFFCOMM')
  view.setUint32(16, 18)
  view.setUint16(20, channels.length)
  view.setUint32(22, frames)
  view.setUint16(26, bits)
  setExtended(view, 28, sampleRate)
  text(38, 'SSND')
  view.setUint32(42, dataBytes + 8)
  const full = 2 ** (bits - 1)
  let at = 54
  for (let frame = 0; frame < frames; frame++) {
    for (const channel of channels) {
      const value = Math.max(-full, Math.min(full - 1, Math.round(channel[frame]! * full + dither())))
      for (let byte = bytes - 1; byte >= 0; byte--) view.setUint8(at++, value >> byte * 8 & 0xFF)
    }
  }
  return out
}

/** A whole number as an 80-bit extended one. */
function setExtended(view: DataView, at: number, value: number): void {
  const exponent = Math.floor(Math.log2(value))
  view.setUint16(at, 16383 + exponent)
  view.setUint32(at + 2, value * 2 ** (31 - exponent))
}
