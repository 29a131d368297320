import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { paintWaveform, PATH_MIDDLE, pathOf, pictureOf, type WaveformPicture } from './useWaveformPainter'

type Rect = readonly [x: number, y: number, width: number, height: number]

class FakePath {
  readonly rects: Rect[] = []
  rect(...rect: [number, number, number, number]): void {
    this.rects.push(rect)
  }
}

/** What was filled, by ink. */
let filled: Record<string, readonly Rect[]>

function canvas(): HTMLCanvasElement {
  const pen = {
    fillStyle: '',
    clearRect: () => undefined,
    fill(path: FakePath) {
      filled[this.fillStyle] = path.rects
    },
  }
  return { width: 0, height: 0, getContext: () => pen } as unknown as HTMLCanvasElement
}

const outline = (values: readonly number[]) => Int8Array.from(values.flatMap(value => [-value, value]))
const size = { width: 100, height: 41 }
const paint = (picture: WaveformPicture) => {
  filled = {}
  const target = canvas()
  paintWaveform(target, picture, size, 'ink', 'rule')
  return { target, ink: filled.ink ?? [], trimmed: filled.rule ?? [] }
}

beforeEach(() => {
  vi.stubGlobal('Path2D', FakePath)
  vi.stubGlobal('window', { devicePixelRatio: 1 })
})
afterEach(() => vi.unstubAllGlobals())

describe('drawing a waveform', () => {
  it('fills every column once, as high as the sound is there', () => {
    const { target, ink, trimmed } = paint({ outline: outline(Array.from({ length: 100 }, (_, i) => i)) })
    expect([target.width, target.height]).toEqual([100, 41])
    expect(ink.map(([x]) => x)).toEqual(Array.from({ length: 100 }, (_, x) => x))
    expect(trimmed).toEqual([])
    expect(ink[99]![3]).toBeGreaterThan(ink[50]![3])
    expect(ink[0]![3]).toBe(1)
    for (const [, y, , height] of ink) {
      expect(y).toBeGreaterThanOrEqual(0)
      expect(y + height).toBeLessThanOrEqual(42)
    }
  })

  it('loses no peak where many columns of the outline fall into one', () => {
    const values = new Array<number>(1000).fill(0)
    values[456] = 127
    const { ink } = paint({ outline: outline(values) })
    expect(ink[45]![3]).toBeGreaterThan(35)
    expect(ink.filter(([, , , height]) => height > 5)).toHaveLength(1)
  })

  it('draws what is trimmed away in the ink of rules', () => {
    const { ink, trimmed } = paint({ outline: outline(new Array<number>(100).fill(60)), start: 0.2, end: 0.7 })
    expect(ink.map(([x]) => x)).toEqual(Array.from({ length: 50 }, (_, i) => 20 + i))
    expect(trimmed).toHaveLength(50)
  })

  it('draws a reversed sound from its end', () => {
    const values = Array.from({ length: 100 }, (_, i) => i)
    const forwards = paint({ outline: outline(values) }).ink.map(([, , , height]) => height)
    const backwards = paint({ outline: outline(values), reverse: true }).ink.map(([, , , height]) => height)
    for (const x of [5, 50, 95]) expect(backwards[x]!).toBeCloseTo(forwards[99 - x]!, -0.3)
    expect(backwards[0]!).toBeGreaterThan(backwards[99]!)
  })
})

describe('the picture of a row', () => {
  it('is read from base64 once, so that the same row is the same picture', () => {
    const row = { overview: Buffer.from(Int8Array.from([-127, 127, -1, 0])).toString('base64') }
    const picture = pictureOf(row)
    expect([...picture.outline]).toEqual([-127, 127, -1, 0])
    expect(pictureOf(row)).toBe(picture)
    expect(pictureOf({ ...row })).not.toBe(picture)
  })
})

describe('an outline as a path', () => {
  it('goes along the peaks and back along the lows, and silence is still a line', () => {
    expect(pathOf({ outline: Int8Array.from([-127, 100, 0, 0]) })).toBe('M0 28L1 123L2 133L1 255Z')
    expect(pathOf({ outline: new Int8Array() })).toBe('')
  })

  it('stays within its height', () => {
    const numbers = pathOf({ outline: Int8Array.from([-128, 127, -5, 5, -127, 126]) }).match(/ \d+/g)!.map(Number)
    for (const y of numbers) {
      expect(y).toBeGreaterThanOrEqual(0)
      expect(y).toBeLessThanOrEqual(2 * PATH_MIDDLE)
    }
  })
})
