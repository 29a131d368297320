import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { barTicks, lengthTicks, type Hit, type Pattern } from '~~/core/groove/document'
import { eraseHits, hitsWithin } from '~~/core/groove/edits'
import { hitFrom, recordHit, type RecordRange } from '~~/core/groove/record'
import { useGrooves } from './grooves'
import { useKit } from '../bench'
import { useSettings } from '../parts/settings'

/** A length for hits of pads that were not let go yet, in ticks. */
const OPEN_LENGTH = 120
const MOST_TAPS = 8
/** Taps further apart than this begin anew. */
const TAP_PAUSE_MS = 2_500

/** Recording into the current pattern: what is played on the pads goes into it, where it was heard. */
export const useRecording = defineStore('recording', () => {
  const grooves = useGrooves()
  const kit = useKit()
  const settings = useSettings()
  const isOn = ref(false)
  /** Set while the input's own delay is measured: how far each tap was from its beat, in milliseconds. */
  const taps = shallowRef<readonly number[] | null>(null)
  const tempoTaps = shallowRef<readonly number[]>([])
  let take = 0
  /** Parts of which the old hits are gone in this pass, where hits replace. */
  let replaced = new Set<string>()
  let pass = 0
  /** Hits that are still held, by pad and note: which they are, and where they began. */
  const held = new Map<string, { readonly partId: string, readonly hit: Hit, readonly place: number }>()

  // What is played goes into the pattern before it is told to anybody else.
  kit.onPlayed((padIndex, note, velocity, at) => {
    if (taps.value && velocity > 0) return tapped(at)
    if (isOn.value) played(padIndex, note, velocity, at)
  })
  watch(() => grooves.isRunning, (isRunning) => {
    if (!isRunning) isOn.value = false
  })

  /** Begins to record, with a count-in where nothing runs; once more ends it. */
  async function toggle(): Promise<void> {
    if (isOn.value) {
      isOn.value = false
      return
    }
    take++
    replaced = new Set()
    held.clear()
    isOn.value = true
    if (!grooves.isRunning) await grooves.play({ counts: settings.groove.countInBars })
  }

  function played(padIndex: number, note: number, velocity: number, at: number): void {
    const key = `${padIndex} ${note}`
    const place = grooves.tickAt(at - settings.groove.inputMs)
    if (place === null) return
    if (velocity === 0) return letGo(key, place)
    const { grid, quantizesIn, quantize } = settings.groove
    const bar = barTicks(grooves.pattern.metre)
    const range = { from: grooves.bars.from * bar, to: grooves.bars.to * bar }
    // Of what is played while it is counted in, only a hit just before the first beat is meant.
    if (place < range.from - grooves.stepTicks) return
    newPass()
    const gesture = `take ${take}`
    grooves.edit('Record', (pattern, chosen) => {
      const { pattern: grown, partId } = grooves.withPart(pattern, padIndex, note)
      if (partId === undefined) return pattern
      const cleared = settings.groove.records === 'replace' ? clearOnce(grown, partId, range) : grown
      const hit = hitFrom({ padIndex, place, velocity }, grown, OPEN_LENGTH, range, quantizesIn ? { grid, ...quantize } : undefined)
      const recorded = recordHit(cleared, partId, hit)
      const written = recorded.parts.find(part => part.id === partId)!.hits.find(one => one.tick === hit.tick)!
      grooves.fresh = new Set([...grooves.fresh, written])
      held.set(key, { partId, hit: written, place })
      return { pattern: recorded, chosen }
    }, gesture)
  }

  /** In each round of the loop the old hits of a part go when the part is first played. */
  function newPass(): void {
    const now = kit.enginePlace?.pass ?? 0
    if (now === pass) return
    pass = now
    replaced = new Set()
  }

  function clearOnce(pattern: Pattern, partId: string, { from, to }: RecordRange): Pattern {
    if (replaced.has(partId)) return pattern
    replaced.add(partId)
    return eraseHits(pattern, hitsWithin(pattern, from, to, new Set([partId]))).pattern
  }

  /** A hit is as long as its key was held. */
  function letGo(key: string, place: number): void {
    const begun = held.get(key)
    held.delete(key)
    if (!begun) return
    const whole = lengthTicks(grooves.pattern)
    const length = Math.max(1, Math.round(((place - begun.place) % whole + whole) % whole))
    grooves.edit('Record', (pattern, chosen) => {
      const part = pattern.parts.find(one => one.id === begun.partId)
      if (!part?.hits.includes(begun.hit)) return pattern
      const longer = { ...begun.hit, length }
      if (grooves.fresh.has(begun.hit)) grooves.fresh = new Set([...[...grooves.fresh].filter(hit => hit !== begun.hit), longer])
      return { pattern: { ...pattern, parts: pattern.parts.map(one => one === part ? { ...part, hits: part.hits.map(hit => hit === begun.hit ? longer : hit) } : one) }, chosen }
    }, `take ${take}`)
  }

  /** Begins to measure what the input takes: the metronome clicks, and any pad is hit with it. Once more ends it and keeps the result. */
  async function measureInput(): Promise<void> {
    if (taps.value) {
      if (measured.value !== undefined) settings.groove = { ...settings.groove, inputMs: measured.value }
      taps.value = null
      settings.groove = { ...settings.groove, metronome: false }
      grooves.stop()
      return
    }
    taps.value = []
    settings.groove = { ...settings.groove, metronome: true }
    if (!grooves.isRunning) await grooves.play({ counts: 1 })
  }

  function tapped(at: number): void {
    const place = grooves.tickAt(at)
    const speed = kit.enginePlace?.ticksPerSecond
    if (place === null || !speed) return
    const beat = 960 * 4 / grooves.pattern.metre.unit
    const off = ((place % beat) + beat * 1.5) % beat - beat / 2
    taps.value = [...taps.value ?? [], off / speed * 1000].slice(-16)
  }

  /** The middle of what was tapped, in milliseconds. */
  const measured = computed(() => {
    if (!taps.value || taps.value.length < 4) return undefined
    const sorted = [...taps.value].sort((a, b) => a - b)
    return Math.round(sorted[Math.floor(sorted.length / 2)]!)
  })

  /** Takes the tempo from taps, from the second on. */
  function tapTempo(at: number): void {
    const last = tempoTaps.value.at(-1)
    tempoTaps.value = last !== undefined && at - last > TAP_PAUSE_MS ? [at] : [...tempoTaps.value, at].slice(-MOST_TAPS)
    const all = tempoTaps.value
    if (all.length >= 2) grooves.setTempo(60_000 * (all.length - 1) / (all.at(-1)! - all[0]!), 'tapped tempo')
  }

  return { isOn, taps, measured, toggle, measureInput, tapTempo }
})
