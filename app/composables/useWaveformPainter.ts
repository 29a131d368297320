/** What is drawn of a waveform: parts are 0 to 1 of its length. */
export interface WaveformPicture {
  /** Lowest and highest value of each column, -127 to 127. */
  readonly outline: Int8Array
  readonly start?: number
  readonly end?: number
  readonly reverse?: boolean
}

/** Draws a waveform filled in an ink of the theme; what is trimmed away is drawn in that of rules. Sizes in CSS pixels. */
export function paintWaveform(canvas: HTMLCanvasElement, picture: WaveformPicture, size: { width: number, height: number }, ink: '--ink' | '--accent'): void {
  const ratio = window.devicePixelRatio || 1
  const width = Math.max(1, Math.round(size.width * ratio))
  const height = Math.max(1, Math.round(size.height * ratio))
  if (canvas.width !== width) canvas.width = width
  if (canvas.height !== height) canvas.height = height
  const pen = canvas.getContext('2d')
  if (!pen) return
  const style = getComputedStyle(document.documentElement)
  const kept = new Path2D()
  const trimmed = new Path2D()
  const { outline, start = 0, end = 1, reverse = false } = picture
  const columns = outline.length / 2
  const middle = height / 2
  for (let x = 0; x < width; x++) {
    const along = reverse ? 1 - (x + 0.5) / width : (x + 0.5) / width
    const from = Math.floor((reverse ? along - 0.5 / width : x / width) * columns)
    const to = Math.max(from + 1, Math.ceil((reverse ? along + 0.5 / width : (x + 1) / width) * columns))
    let low = 0
    let high = 0
    for (let column = Math.max(0, from); column < Math.min(columns, to); column++) {
      low = Math.min(low, outline[column * 2]!)
      high = Math.max(high, outline[column * 2 + 1]!)
    }
    const path = along < start || along > end ? trimmed : kept
    path.rect(x, middle - high / 127 * (middle - 1), 1, Math.max(ratio, (high - low) / 127 * (middle - 1)))
  }
  pen.clearRect(0, 0, width, height)
  pen.fillStyle = style.getPropertyValue('--rule')
  pen.fill(trimmed)
  pen.fillStyle = style.getPropertyValue(ink)
  pen.fill(kept)
}

const pictures = new WeakMap<object, WaveformPicture>()

/** The picture of a sound's row, from the base64 of its overview: the same object each time, so that it is drawn once. */
export function pictureOf(row: { readonly overview: string }): WaveformPicture {
  const known = pictures.get(row)
  if (known) return known
  const made = { outline: Int8Array.from(atob(row.overview), letter => letter.charCodeAt(0) << 24 >> 24) }
  pictures.set(row, made)
  return made
}
