import { createSharedComposable } from '@vueuse/core'
import { ref } from 'vue'
import { barTicks, lengthTicks, type Hit } from '~~/core/groove/document'
import { addHits, changeHits, clampVelocity, copyBars, copyHits, eraseHits, hitsWithin, moveHits, moveToParts, pasteHits, setVelocity } from '~~/core/groove/edits'
import { asPlayed, quantize } from '~~/core/groove/quantize'
import { useGrooves } from './grooves'
import { useKit } from '../bench'
import { useSettings } from '../parts/settings'
import { counted } from '../parts/useFormat'
import { usePatternRows } from './usePatternRows'
import { say } from '../parts/useSay'

/** A gated pad is held so long when it is drawn. */
const HEARD_MS = 150

/** What is done to the pattern at the cursor and to what is chosen in it. */
export const usePatternActions = createSharedComposable(() => {
  const grooves = useGrooves()
  const settings = useSettings()
  const kit = useKit()
  const rows = usePatternRows()
  /** Where choosing by keys began. */
  const anchor = ref<{ readonly row: number, readonly tick: number }>()
  const lastTick = () => lengthTicks(grooves.pattern) - 1

  /** The hits that an edit is for: the chosen ones, or those in the cell at the cursor. */
  function edited(): ReadonlySet<Hit> {
    return grooves.chosen.size > 0 ? grooves.chosen : atCursor()
  }

  function atCursor(): ReadonlySet<Hit> {
    const half = grooves.stepTicks / 2
    const tick = grooves.cursorTick
    return new Set(rows.rowAtHand.value?.hits.filter(hit => hit.tick >= tick - half && hit.tick < tick + half))
  }

  function moveCursor(steps: number, extends_ = false): void {
    const before = { row: rows.cursorRow.value, tick: grooves.cursorTick }
    grooves.cursorTick = Math.max(0, Math.min(lastTick(), Math.round((grooves.cursorTick / grooves.stepTicks + steps)) * grooves.stepTicks))
    if (extends_) extend(before)
    else anchor.value = undefined
  }

  function moveRow(by: number, extends_ = false): void {
    const before = { row: rows.cursorRow.value, tick: grooves.cursorTick }
    rows.goToRow(rows.cursorRow.value + by)
    if (extends_) extend(before)
    else anchor.value = undefined
  }

  /** Chooses what lies between where choosing began and the cursor. */
  function extend(from: { readonly row: number, readonly tick: number }): void {
    anchor.value ??= from
    chooseBox(anchor.value.row, rows.cursorRow.value, Math.min(anchor.value.tick, grooves.cursorTick), Math.max(anchor.value.tick, grooves.cursorTick) + grooves.stepTicks)
  }

  /** Chooses the hits of some rows between two ticks. */
  function chooseBox(row: number, otherRow: number, from: number, to: number): void {
    const [first, last] = [Math.min(row, otherRow), Math.max(row, otherRow)]
    grooves.chosen = new Set(rows.rows.value.slice(first, last + 1).flatMap(one => one.hits.filter(hit => hit.tick >= from && hit.tick < to)))
  }

  /** Draws a hit at the cursor, or erases what is there. */
  function drawOrErase(): void {
    const there = atCursor()
    if (there.size > 0) return grooves.edit('Erase a hit', pattern => eraseHits(pattern, there))
    draw(rows.cursorRow.value, grooves.cursorTick)
  }

  /** Draws a hit on a row, at the velocity that keys play at. Hits of one stroke are undone together. */
  function draw(row: number, tick: number, gesture?: string): void {
    const view = rows.rows.value[row]
    if (!view) return
    const hit: Hit = { tick: Math.round(tick), velocity: settings.playing.velocity, length: Math.max(1, Math.round(grooves.stepTicks / 2)) }
    grooves.edit('Draw hits', (pattern) => {
      const { pattern: grown, partId } = view.padIndex === null ? { pattern, partId: view.parts[0]?.id } : grooves.withPart(pattern, view.padIndex)
      return partId === undefined ? pattern : { ...addHits(grown, partId, [hit]), chosen: new Set() }
    }, gesture)
    if (!grooves.isRunning && view.padIndex !== null) hear(view.padIndex, hit.velocity)
  }

  /** While nothing runs, what is drawn is heard. */
  function hear(padIndex: number, velocity: number): void {
    kit.playPad(padIndex, velocity)
    setTimeout(() => kit.playPad(padIndex, 0), HEARD_MS)
  }

  function erase(): void {
    const hits = edited()
    if (hits.size > 0) grooves.edit(`Erase ${counted(hits.size, 'hit')}`, pattern => eraseHits(pattern, hits))
  }

  /** Moves in time: by steps, or by single ticks. Moves of one gesture are undone together. */
  function shift(ticks: number, gesture?: string): void {
    const hits = edited()
    grooves.edit(`Move ${counted(hits.size, 'hit')}`, pattern => moveHits(pattern, hits, ticks), gesture)
  }

  /** Moves to the rows above or below. */
  function shiftRows(by: number, gesture?: string): void {
    const hits = edited()
    grooves.edit(`Move ${counted(hits.size, 'hit')} to another pad`, (pattern) => {
      let grown = pattern
      const all = rows.rows.value
      const targets = new Map<string, string | undefined>()
      for (const [index, row] of all.entries()) {
        const to = all[index + by]
        for (const part of row.parts) {
          if (!to || !part.hits.some(hit => hits.has(hit))) continue
          const made = to.padIndex === null ? { pattern: grown, partId: to.parts[0]?.id } : grooves.withPart(grown, to.padIndex)
          grown = made.pattern
          targets.set(part.id, made.partId)
        }
      }
      return moveToParts(grown, hits, partId => targets.get(partId))
    }, gesture)
    rows.goToRow(rows.cursorRow.value + by)
  }

  function louder(by: number): void {
    const hits = edited()
    grooves.edit(`Velocity of ${counted(hits.size, 'hit')}`, pattern => setVelocity(pattern, hits, hit => hit.velocity + by), 'velocity')
  }

  function setVelocities(hits: ReadonlySet<Hit>, velocity: number, gesture: string): void {
    grooves.edit(`Velocity of ${counted(hits.size, 'hit')}`, (pattern, chosen) => {
      const { pattern: next, chosen: after } = changeHits(pattern, hits, hit => ({ ...hit, velocity: clampVelocity(velocity) }))
      return { pattern: next, chosen: chosen.size > 0 ? after : new Set() }
    }, gesture)
  }

  function chooseAll(): void {
    grooves.chosen = new Set(rows.rows.value.flatMap(row => row.hits))
  }

  /** The chosen hits; without any, those of the current row. */
  function chosenOrRow(): ReadonlySet<Hit> {
    return grooves.chosen.size > 0 ? grooves.chosen : new Set(rows.rowAtHand.value?.hits)
  }

  function quantizeChosen(): void {
    const hits = chosenOrRow()
    const { grid, quantize: options } = settings.groove
    grooves.edit(`Quantize ${counted(hits.size, 'hit')}`, pattern => quantize(pattern, hits, { grid, ...options }))
  }

  function asPlayedChosen(): void {
    const hits = chosenOrRow()
    grooves.edit(`${counted(hits.size, 'hit')} as played`, pattern => asPlayed(pattern, hits))
  }

  function copy(): void {
    const hits = edited()
    if (hits.size === 0) return
    grooves.clip = copyHits(grooves.pattern, hits)
    say(`${counted(hits.size, 'hit')} copied.`)
  }

  function cut(): void {
    copy()
    erase()
  }

  function paste(): void {
    const { clip } = grooves
    if (clip) grooves.edit(`Paste ${counted(clip.hits.length, 'hit')}`, pattern => pasteHits(pattern, clip, grooves.cursorTick))
  }

  /** The bar at the cursor is copied over the one after it, of all parts. */
  function repeatBar(): void {
    const bar = Math.floor(grooves.cursorTick / barTicks(grooves.pattern.metre))
    grooves.edit(`Copy bar ${bar + 1} to ${bar + 2}`, pattern => copyBars(pattern, bar, 1, bar + 1))
    moveBar(1)
  }

  function moveBar(by: number): void {
    const bar = barTicks(grooves.pattern.metre)
    grooves.cursorTick = Math.max(0, Math.min(lengthTicks(grooves.pattern) - bar, (Math.floor(grooves.cursorTick / bar) + by) * bar))
  }

  /** Plays the bar at the cursor in a loop, or those of the chosen hits; once more all of them. */
  function loopHere(): void {
    if (grooves.region) {
      grooves.region = null
      return
    }
    const bar = barTicks(grooves.pattern.metre)
    const ticks = grooves.chosen.size > 0 ? [...grooves.chosen].map(hit => hit.tick) : [grooves.cursorTick]
    grooves.region = { from: Math.floor(Math.min(...ticks) / bar), to: Math.floor(Math.max(...ticks) / bar) + 1 }
  }

  function letGo(): boolean {
    anchor.value = undefined
    if (grooves.chosen.size === 0) return false
    grooves.chosen = new Set()
    return true
  }

  function zoom(factor: number): void {
    settings.groove = { ...settings.groove, pixelsPerQuarter: Math.max(16, Math.min(640, settings.groove.pixelsPerQuarter * factor)) }
  }

  function chooseRow(): void {
    grooves.chosen = hitsWithin(grooves.pattern, 0, Infinity, new Set(rows.rowAtHand.value?.parts.map(part => part.id)))
  }

  return { edited, moveCursor, moveRow, moveBar, chooseBox, chooseAll, chooseRow, chosenOrRow, drawOrErase, draw, erase, shift, shiftRows, louder, setVelocities, quantizeChosen, asPlayedChosen, copy, cut, paste, repeatBar, loopHere, letGo, zoom }
})
