import { barTicks, beatTicks, type Hit, type Metre } from '~~/core/groove/document'
import type { BarRange } from '~~/core/groove/played'
import { mixedColours, type ThemeColours } from '../parts/useThemeColours'

export const ROW_HEIGHT = 28
/** A hit is drawn as wide as this, or as its step where that is narrower. */
const WIDEST_HIT = 9
const NARROWEST_HIT = 3

/** What is drawn of a pattern. Sizes in CSS pixels. */
export interface PatternPicture {
  readonly width: number
  readonly height: number
  readonly scrollLeft: number
  readonly scrollTop: number
  readonly pixelsPerTick: number
  /** Hits of each row; those of rows that no pad sounds look otherwise. */
  readonly rows: readonly { readonly hits: readonly Hit[], readonly isHeard: boolean }[]
  readonly metre: Metre
  readonly bars: number
  readonly stepTicks: number
  /** Bars that are played in a loop. */
  readonly region: BarRange
  readonly chosen: ReadonlySet<Hit>
  /** The current row and the tick of the cursor. */
  readonly cursor: { readonly row: number, readonly tick: number, readonly ticks: number }
  readonly colours: ThemeColours
}

/** Width of a hit at a scale. */
export function hitWidth(stepPixels: number): number {
  return Math.max(NARROWEST_HIT, Math.min(WIDEST_HIT, stepPixels - 2))
}

/** Draws a pattern: rows, lines of steps, beats and bars, and hits as high as their velocity. */
export function paintPattern(canvas: HTMLCanvasElement, picture: PatternPicture): void {
  const pen = sized(canvas, picture)
  if (!pen) return
  const { width, height, scrollLeft, scrollTop, pixelsPerTick, colours, rows, metre, bars, region } = picture
  const bar = barTicks(metre)
  const xOf = (tick: number) => tick * pixelsPerTick - scrollLeft
  pen.fillStyle = colours.sheet
  pen.fillRect(0, 0, width, height)
  const ends = xOf(bars * bar)
  paintOutside(pen, picture, xOf(0), xOf(region.from * bar))
  paintOutside(pen, picture, xOf(region.to * bar), ends)
  pen.fillStyle = colours.paper
  pen.fillRect(ends, 0, Math.max(0, width - ends), height)
  const { cursor } = picture
  const cursorY = cursor.row * ROW_HEIGHT - scrollTop
  pen.fillStyle = colours.chosen
  pen.fillRect(0, cursorY, width, ROW_HEIGHT)
  paintLines(pen, picture, xOf)
  pen.fillStyle = mixedColours(colours.rule, colours.sheet, 0.55)
  for (let row = Math.floor(scrollTop / ROW_HEIGHT); row <= rows.length && row * ROW_HEIGHT - scrollTop < height; row++) pen.fillRect(0, row * ROW_HEIGHT - scrollTop, width, 1)
  const from = (scrollLeft - WIDEST_HIT) / pixelsPerTick
  const to = (scrollLeft + width) / pixelsPerTick
  const wide = hitWidth(picture.stepTicks * pixelsPerTick)
  rows.forEach(({ hits, isHeard }, row) => {
    const bottom = (row + 1) * ROW_HEIGHT - scrollTop - 2
    if (bottom < 0 || bottom - ROW_HEIGHT > height) return
    for (const hit of hits) {
      if (hit.tick < from || hit.tick > to) continue
      paintHit(pen, picture, hit, xOf(hit.tick), bottom, wide, isHeard, xOf)
    }
  })
  pen.strokeStyle = colours.accent
  pen.lineWidth = 2
  pen.strokeRect(xOf(cursor.tick) + 1, cursorY + 1, Math.max(6, cursor.ticks * pixelsPerTick) - 2, ROW_HEIGHT - 2)
}

function paintHit(pen: CanvasRenderingContext2D, { chosen, colours, pixelsPerTick }: PatternPicture, hit: Hit, x: number, bottom: number, wide: number, isHeard: boolean, xOf: (tick: number) => number): void {
  const tall = Math.max(3, hit.velocity / 127 * (ROW_HEIGHT - 6))
  const colour = chosen.has(hit) ? colours.accent : isHeard ? colours.ink : colours.look
  pen.fillStyle = colour
  pen.fillRect(x, bottom - tall, wide, tall)
  const long = hit.length * pixelsPerTick
  if (long > wide) pen.fillRect(x, bottom - 1, long, 1)
  if (hit.playedTick === undefined) return
  // Where it was played, before it was quantized.
  pen.fillStyle = colours.quiet
  pen.fillRect(xOf(hit.playedTick), bottom - 4, 1, 4)
}

function paintOutside(pen: CanvasRenderingContext2D, { height, colours }: PatternPicture, from: number, to: number): void {
  if (to <= from) return
  pen.fillStyle = mixedColours(colours.paper, colours.sheet, 0.7)
  pen.fillRect(from, 0, to - from, height)
}

function paintLines(pen: CanvasRenderingContext2D, { width, height, scrollLeft, pixelsPerTick, metre, bars, stepTicks, colours }: PatternPicture, xOf: (tick: number) => number): void {
  const bar = barTicks(metre)
  const beat = beatTicks(metre)
  const steps = stepTicks * pixelsPerTick >= 5
  const faint = mixedColours(colours.rule, colours.sheet, 0.5)
  const strong = mixedColours(colours.quiet, colours.sheet, 0.6)
  const line = (tick: number, colour: string) => {
    const x = Math.round(xOf(tick))
    if (x < -1 || x > width) return
    pen.fillStyle = colour
    pen.fillRect(x, 0, 1, height)
  }
  const first = Math.max(0, Math.floor(scrollLeft / pixelsPerTick / bar))
  const last = Math.min(bars, Math.ceil((scrollLeft + width) / pixelsPerTick / bar))
  for (let i = first; i < last; i++) {
    if (steps) for (let tick = stepTicks; tick < bar; tick += stepTicks) line(i * bar + tick, faint)
    for (let tick = beat; tick < bar; tick += beat) line(i * bar + tick, colours.rule)
    line(i * bar, strong)
  }
  line(bars * bar, colours.ink)
}

/** Draws velocities of hits as bars over a lane; several at one place stand side by side. */
export function paintVelocities(canvas: HTMLCanvasElement, picture: Omit<PatternPicture, 'rows' | 'cursor' | 'scrollTop'> & { readonly hits: readonly { readonly hit: Hit, readonly isAtHand: boolean }[] }): void {
  const pen = sized(canvas, picture)
  if (!pen) return
  const { width, height, scrollLeft, pixelsPerTick, colours, chosen, hits } = picture
  pen.fillStyle = colours.sheet
  pen.fillRect(0, 0, width, height)
  paintLines(pen, { ...picture, rows: [], scrollTop: 0, cursor: { row: 0, tick: 0, ticks: 0 } }, tick => tick * pixelsPerTick - scrollLeft)
  pen.fillStyle = colours.rule
  for (const level of [32, 64, 96]) pen.fillRect(0, height - level / 127 * height, width, 1)
  const seen = new Map<number, number>()
  const wide = Math.max(2, Math.min(5, hitWidth(picture.stepTicks * pixelsPerTick) - 3))
  for (const { hit, isAtHand } of hits) {
    const beside = seen.get(hit.tick) ?? 0
    seen.set(hit.tick, beside + 1)
    const x = hit.tick * pixelsPerTick - scrollLeft + beside * (wide + 1)
    if (x < -wide || x > width) continue
    const tall = hit.velocity / 127 * (height - 4)
    pen.fillStyle = chosen.has(hit) ? colours.accent : isAtHand ? colours.ink : mixedColours(colours.quiet, colours.sheet, 0.6)
    pen.fillRect(x, height - tall, wide, tall)
    pen.fillRect(x - 1, height - tall - 2, wide + 2, 3)
  }
}

function sized(canvas: HTMLCanvasElement, { width, height }: { readonly width: number, readonly height: number }): CanvasRenderingContext2D | null {
  const ratio = window.devicePixelRatio || 1
  const [w, h] = [Math.max(1, Math.round(width * ratio)), Math.max(1, Math.round(height * ratio))]
  if (canvas.width !== w) canvas.width = w
  if (canvas.height !== h) canvas.height = h
  const pen = canvas.getContext('2d')
  pen?.setTransform(ratio, 0, 0, ratio, 0, 0)
  return pen
}
