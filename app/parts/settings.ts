import { useLocalStorage, useMediaQuery, usePreferredDark } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, watchEffect, type Ref } from 'vue'
import { REFERENCE_LUFS } from '~~/core/audio/analysis/loudness'
import type { Arranging } from '~~/core/fit/arrange'
import type { Assigning } from '~~/core/groove/assign'
import type { Grid, QuantizeOptions } from '~~/core/groove/quantize'
import type { NamePart, StemWay } from '~~/core/render/stems'
import type { Tail } from '~~/core/render/bounce'
import type { MiddleC } from '~~/core/audio/notes'

/** A column of the list of sounds, as this person wants it. */
export interface ColumnChoice {
  readonly key: string
  readonly width?: number
}

/** Ways to put several sounds on pads, as they are offered. */
export const PLACING_WAYS = ['in order', 'by kind', 'low first', 'high first', 'stated note', 'measured note', 'velocity layers', 'round robin', 'stack', 'alternates'] as const

export interface PlacingChoice {
  readonly way: typeof PLACING_WAYS[number]
  /** Notes left free between families and kinds. */
  readonly gap: number
  /** What pads hold stays beside what is put on them. */
  readonly adds: boolean
  /** Pads that hold a sound stay as they are. */
  readonly skipsTaken: boolean
  /** Strokes and takes of one instrument share a pad. */
  readonly families: boolean
  /** Velocity ranges as levels lie, in place of equal ones. */
  readonly byLevel: boolean
  /** Done without asking, as the last time. */
  readonly skips: boolean
}

/** How velocities of a keyboard are taken: softer or harder than they come. */
export type VelocityCurve = 'softer' | 'as played' | 'harder'

export interface PlayingChoice {
  /** Of the computer keys; and whether the mouse has it too, in place of where a pad is pressed. */
  readonly velocity: number
  readonly isFixed: boolean
  readonly curve: VelocityCurve
  /** Computer keys and MIDI notes play so many octaves higher. */
  readonly octaves: number
  /** The MIDI input that is listened to, by its name; empty for all. */
  readonly input: string
}

/** Parts of the bench that are shown below the kit sheet. */
export const BENCH_PANELS = ['layers', 'trim', 'levels', 'groups', 'outputs', 'side kit', 'findings', 'history', 'playing'] as const
export type BenchPanel = typeof BENCH_PANELS[number]

/** Parts of the Grooves view that are shown beside the pattern. */
export const GROOVE_PANELS = ['patterns', 'kits', 'try-out', 'edit', 'parts', 'history'] as const
export type GroovePanel = typeof GROOVE_PANELS[number]

/** How a pattern is played, recorded and drawn. */
export interface GrooveChoice {
  readonly isLooped: boolean
  readonly metronome: boolean
  readonly countInBars: number
  /** New hits beside the old, or in place of those of the parts that are played. */
  readonly records: 'overdub' | 'replace'
  /** Hits are drawn to the grid as they are recorded. */
  readonly quantizesIn: boolean
  readonly grid: Grid
  readonly quantize: Omit<QuantizeOptions, 'grid'>
  /** What the input itself takes, in milliseconds: measured, or set. */
  readonly inputMs: number
  readonly assigning: Assigning
  /** What stays while the other is changed: the tempo of the current pattern, the pattern of a kit that is opened. */
  readonly keepsTempo: boolean
  readonly holdsPattern: boolean
  /** The view goes along with what is played. */
  readonly follows: boolean
  /** Rows of pads without a sound and without hits. */
  readonly showsEmpty: boolean
  readonly pixelsPerQuarter: number
}

/** What is open beside the plan of a fit. */
export const FIT_PANELS = ['hear', 'sizes', 'notes', 'report'] as const
export type FitPanel = typeof FIT_PANELS[number]

/** What was fitted last. */
export interface FitChoice {
  /** `bench`, or the ids of presets. */
  readonly kits: readonly string[]
  /** The kit on the bench when another was read in here, which is fitted until the bench has yet another; empty where the kits were chosen. */
  readonly readBeside: string
  readonly targets: readonly string[]
  /** Empty: as is usual for the target. */
  readonly way: Arranging | ''
  readonly panel: FitPanel
  readonly withoutMissing: boolean
  /** Empty: it is downloaded. */
  readonly folder: string
}

/** How a pattern was taken out last. */
export interface BounceChoice {
  readonly what: 'mix' | StemWay
  readonly depth: 16 | 24 | 'float'
  readonly sampleRate: 44_100 | 48_000 | 96_000
  readonly tail: Tail
  readonly passes: number
  readonly withMix: boolean
  readonly name: readonly NamePart[]
  /** Empty: it is downloaded. */
  readonly folder: string
}

/** Windows in which the tray and the filters would take the room of what is worked on: they are folded there until they are opened. */
const NARROW = '(max-width: 1099px)'

/** A choice that is kept for wide windows and for narrow ones apart. */
function byWidth(isNarrow: Readonly<Ref<boolean>>, wide: Ref<boolean>, narrow: Ref<boolean>) {
  return computed({
    get: () => isNarrow.value ? narrow.value : wide.value,
    set: (isOn: boolean) => (isNarrow.value ? narrow : wide).value = isOn,
  })
}

/** What this person likes, kept in this browser. */
export const useSettings = defineStore('settings', () => {
  const prefersDark = usePreferredDark()
  const theme = useLocalStorage<'day' | 'lamp' | 'system'>('emporion-theme', 'system')
  const middleC = useLocalStorage<MiddleC>('emporion-middle-c', 'C3')
  const volume = useLocalStorage('emporion-volume', 0.8)
  /** Whether single sounds are heard at one loudness or as they are; and the loudness of their hits. */
  const matchLevels = useLocalStorage('emporion-match-levels', true)
  const referenceLufs = useLocalStorage('emporion-reference-lufs', REFERENCE_LUFS)
  /** The device that plays, where the browser lets it be chosen; empty for the usual one. */
  const outputDevice = useLocalStorage('emporion-output-device', '')
  const figuresOpen = useLocalStorage('emporion-figures-open', false)
  const isNarrow = useMediaQuery(NARROW)
  const filtersOpen = byWidth(isNarrow, useLocalStorage('emporion-filters-open', true), useLocalStorage('emporion-filters-open-narrow', false))
  const trayOpen = byWidth(isNarrow, useLocalStorage('emporion-tray-open', true), useLocalStorage('emporion-tray-open-narrow', false))
  const trayId = useLocalStorage('emporion-tray', 0)
  /** Columns of the list in their order; none: as they come. */
  const columns = useLocalStorage<ColumnChoice[]>('emporion-columns', [])
  /** How several sounds were put on pads last. */
  const placing = useLocalStorage<PlacingChoice>('emporion-placing', { way: 'in order', gap: 0, adds: false, skipsTaken: true, families: true, byLevel: false, skips: false }, { mergeDefaults: true })
  const playing = useLocalStorage<PlayingChoice>('emporion-playing', { velocity: 100, isFixed: false, curve: 'as played', octaves: 0, input: '' }, { mergeDefaults: true })
  /** What is open below the kit sheet; empty for nothing. */
  const benchPanel = useLocalStorage<BenchPanel | ''>('emporion-bench-panel', '')
  const benchPanelHeight = useLocalStorage('emporion-bench-panel-height', 220)
  const groovePanel = useLocalStorage<GroovePanel | ''>('emporion-groove-panel', 'patterns')
  const groove = useLocalStorage<GrooveChoice>('emporion-groove', {
    isLooped: true, metronome: false, countInBars: 1, records: 'overdub', quantizesIn: false, grid: { value: 16, feel: 'straight' }, quantize: { strengthPercent: 100, windowPercent: 100, swingPercent: 50 },
    inputMs: 0, assigning: 'kind', keepsTempo: false, holdsPattern: false, follows: true, showsEmpty: false, pixelsPerQuarter: 80,
  }, { mergeDefaults: true })
  const bounce = useLocalStorage<BounceChoice>('emporion-bounce', { what: 'mix', depth: 24, sampleRate: 48_000, tail: 'folded', passes: 1, withMix: false, name: ['number', 'pattern', 'name'], folder: '' }, { mergeDefaults: true })
  const fit = useLocalStorage<FitChoice>('emporion-fit', { kits: ['bench'], readBeside: '', targets: ['lembos'], way: '', panel: 'hear', withoutMissing: false, folder: '' }, { mergeDefaults: true })
  const recent = useLocalStorage<string[]>('emporion-recent-searches', [])
  const lamp = computed(() => theme.value === 'lamp' || (theme.value === 'system' && prefersDark.value))
  watchEffect(() => document.documentElement.classList.toggle('dark', lamp.value))
  return { theme, middleC, volume, matchLevels, referenceLufs, outputDevice, figuresOpen, filtersOpen, trayOpen, trayId, columns, placing, playing, benchPanel, benchPanelHeight, groovePanel, groove, bounce, fit, recent, lamp }
})
