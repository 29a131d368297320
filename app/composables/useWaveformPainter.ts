/** What is drawn of a waveform: parts are 0 to 1 of its length. */
export interface WaveformPicture {
  /** Lowest and highest value of each column, -127 to 127. */
  readonly outline: Int8Array
  readonly played?: number | null
  readonly start?: number
  readonly end?: number
  readonly reverse?: boolean
}

/** Draws a waveform filled in ink; what is trimmed away in quiet ink, what was played in verdigris. */
export function paintWaveform(canvas: HTMLCanvasElement, picture: WaveformPicture): void {
  const ratio = window.devicePixelRatio || 1
  const width = Math.max(1, Math.round(canvas.clientWidth * ratio))
  const height = Math.max(1, Math.round(canvas.clientHeight * ratio))
  if (canvas.width !== width) canvas.width = width
  if (canvas.height !== height) canvas.height = height
  const pen = canvas.getContext('2d')
  if (!pen) return
  const style = getComputedStyle(canvas)
  const inks = { ink: style.getPropertyValue('--ink'), quiet: style.getPropertyValue('--rule'), played: style.getPropertyValue('--accent') }
  pen.clearRect(0, 0, width, height)
  const { outline, played = null, start = 0, end = 1, reverse = false } = picture
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
    const trimmed = along < start || along > end
    pen.fillStyle = trimmed ? inks.quiet : played !== null && x / width <= played ? inks.played : inks.ink
    const top = middle - high / 127 * (middle - 1)
    pen.fillRect(x, top, 1, Math.max(ratio, (high - low) / 127 * (middle - 1)))
  }
}

/** The overview that comes with a sound's row, from base64. */
export function decodeOverview(base64: string): Int8Array {
  return Int8Array.from(atob(base64), letter => letter.charCodeAt(0) << 24 >> 24)
}
