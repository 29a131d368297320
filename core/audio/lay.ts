/** Lays a stretch of `input` into `floats` at a place; what of it lies before or after the input is silence. Lengths in samples. */
export function layStretch(input: Float32Array, from: number, length: number, floats: Float32Array, at: number): void {
  const start = Math.max(0, Math.min(input.length, from))
  const end = Math.max(start, Math.min(input.length, from + length))
  const before = Math.max(0, Math.min(length, start - from))
  floats.fill(0, at, at + before)
  floats.set(input.subarray(start, end), at + before)
  floats.fill(0, at + before + end - start, at + length)
}
