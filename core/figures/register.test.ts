import { describe, expect, it } from 'vitest'
import { figuresOf } from '../audio/analysis/figures'
import { FIELD_BY_NAME } from '../search/query/fields'
import { SORTS } from '../search/catalogue/order'
import { byFacet, byFigure, detailLines, figureOfCondition, figureText, KEPT_FIGURES, measuredFigures, SHOWN_FIGURES } from './register'

const tone = (hz: number, seconds: number) => Float32Array.from({ length: seconds * 44_100 }, (_, i) => 0.5 * Math.exp(-i / 8000) * Math.sin(2 * Math.PI * hz * i / 44_100))

describe('the register of figures', () => {
  it('has every name and key once', () => {
    const all = [...KEPT_FIGURES, ...SHOWN_FIGURES].map(figure => figure.name)
    expect(new Set(all).size).toBe(all.length)
    expect(new Set(KEPT_FIGURES.map(figure => figure.key)).size).toBe(KEPT_FIGURES.length)
  })

  it('gives each figure that is kept a condition and a place in sorting', () => {
    for (const { name, condition } of KEPT_FIGURES) {
      expect(FIELD_BY_NAME.get(name)).toMatchObject({ takes: 'number', example: condition.example })
      expect(SORTS).toContain(name)
    }
    expect(FIELD_BY_NAME.get('hz')).toBe(FIELD_BY_NAME.get('pitch'))
  })

  it('lets a figure that is not known be stood in for by one that is declared before it', () => {
    const names = KEPT_FIGURES.map(figure => figure.name)
    for (const figure of KEPT_FIGURES) if ('instead' in figure) expect(names.slice(0, names.indexOf(figure.name))).toContain(figure.instead)
    expect(Object.keys(byFacet(name => name))).toEqual(['sounds', 'loudness', 'note'])
    expect(byFigure(figure => figure.key)).toMatchObject({ sounds: 'effectiveSeconds', bright: 'brightness' })
  })

  it('turns a pitch in Hz into a note: 440 Hz is note 69 (MIDI 1.0)', () => {
    const { figure, toKept } = figureOfCondition('pitch')
    expect([figure, toKept(440), toKept(880)]).toEqual(['note', 69, 81])
    expect(figureOfCondition('loudness').toKept(-12)).toBe(-12)
  })

  it('draws out what a tone was measured to be, and shows it', () => {
    const figures = figuresOf([tone(220, 1)], 44_100)
    const measured = measuredFigures(figures)
    expect(Object.keys(measured)).toEqual(['effectiveSeconds', 'hitLufs', 'truePeakDb', 'brightness', 'pitchNote'])
    expect(measured.pitchNote).toBeCloseTo(57, 1)
    expect(figureText(KEPT_FIGURES[5], measured.pitchNote, 'C3')).toMatch(/^A2/)
    expect(detailLines('Level', figures, 'C3').map(([label]) => label)).toEqual(['Loudness of the hit', 'True peak', 'Integrated', 'Peak', 'RMS', 'Crest'])
    expect(detailLines('Time', figures, 'C3').find(([label]) => label === 'Attack')![1]).toMatch(/^\d+ ms$/)
  })

  it('shows a dash for what there is none of, and leaves lines out that say so', () => {
    const silence = figuresOf([new Float32Array(4410)], 44_100)
    expect(detailLines('Level', silence, 'C3')[0]).toEqual(['Loudness of the hit', '–', 'Its loudest 400 ms after ITU-R BS.1770-4'])
    expect(detailLines('Time', silence, 'C3').map(([label]) => label)).not.toContain('Noise')
    expect(measuredFigures(silence)).toMatchObject({ hitLufs: null, brightness: null })
  })
})
