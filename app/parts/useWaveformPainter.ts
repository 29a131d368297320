/** What is drawn of a waveform: parts are 0 to 1 of its length. */
export interface WaveformPicture {
  /** Lowest and highest value of each column, -127 to 127. */
  readonly outline: Int8Array
  readonly start?: number
  readonly end?: number
  readonly reverse?: boolean
}

/** Draws a waveform filled in a colour; what is trimmed away is drawn in that of rules. Sizes in CSS pixels. */
export function paintWaveform(canvas: HTMLCanvasElement, picture: WaveformPicture, size: { width: number, height: number }, ink: string, rule: string): void {
  const ratio = window.devicePixelRatio || 1
  const width = Math.max(1, Math.round(size.width * ratio))
  const height = Math.max(1, Math.round(size.height * ratio))
  if (canvas.width !== width) canvas.width = width
  if (canvas.height !== height) canvas.height = height
  const pen = canvas.getContext('2d')
  if (!pen) return
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
  pen.fillStyle = rule
  pen.fill(trimmed)
  pen.fillStyle = ink
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

/** Half of the height that an outline is drawn in as a path. */
export const PATH_MIDDLE = 128
/** So much of it is drawn at least, so that silence is a line. */
const THINNEST = 5

const paths = new WeakMap<WaveformPicture, string>()

/** An outline as the path of a closed figure: a unit for each column across, from 0 to twice the middle down. */
export function pathOf(picture: WaveformPicture): string {
  const known = paths.get(picture)
  if (known !== undefined) return known
  const { outline } = picture
  const columns = outline.length / 2
  const upper = Array.from({ length: columns }, (_, i) => `${i} ${PATH_MIDDLE - Math.max(THINNEST, outline[i * 2 + 1]!)}`)
  const lower = Array.from({ length: columns }, (_, i) => `${columns - i} ${PATH_MIDDLE - Math.min(-THINNEST, outline[(columns - 1 - i) * 2]!)}`)
  const made = columns === 0 ? '' : `M${upper.join('L')}L${lower.join('L')}Z`
  paths.set(picture, made)
  return made
}
