/** Amplitude to decibels; 0 gives -Infinity. */
export function toDb(amplitude: number): number {
  return 20 * Math.log10(amplitude)
}

/** Decibels to amplitude. */
export function fromDb(db: number): number {
  return 10 ** (db / 20)
}
