/**
 * Where each channel of WAVE's order (front left and right, centre, low frequency, back left and right, back centre, side left and right)
 * lies among those of Vorbis, by the number of channels. Sources: Vorbis I specification, 4.3.9; RFC 7845, 5.1.1.2 (Opus, the same);
 * Microsoft WAVEFORMATEXTENSIBLE for the order of WAVE.
 */
const PLACES: Readonly<Record<number, readonly number[]>> = {
  3: [0, 2, 1],
  4: [0, 1, 2, 3],
  5: [0, 2, 1, 3, 4],
  6: [0, 2, 1, 5, 3, 4],
  7: [0, 2, 1, 6, 5, 3, 4],
  8: [0, 2, 1, 7, 5, 6, 3, 4],
}

/** Channels in the order of WAVE, of those in the order of Vorbis. */
export function waveOrder<T>(channels: readonly T[]): T[] {
  return (PLACES[channels.length] ?? channels.map((_, i) => i)).map(place => channels[place]!)
}

/** Channels in the order of Vorbis, of those in the order of WAVE. */
export function vorbisOrder<T>(channels: readonly T[]): T[] {
  const places = PLACES[channels.length] ?? channels.map((_, i) => i)
  return channels.map((_, place) => channels[places.indexOf(place)]!)
}
