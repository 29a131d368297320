import { knownSound } from '~~/core/kit/parts'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { kitSet } from '~~/core/kit/kitSet'
import { beyondLimits } from '~~/core/kit/limits'
import { nextFreeNote } from '~~/core/kit/noteEdits'
import { place, type PlacingWay } from '~~/core/kit/placing'
import type { SoundRow } from '~~/contract/library'
import { useKit } from './kit'
import { useSettings } from '../parts/settings'
import { useTargets } from '../fit'

/** Putting several sounds on pads: the way, and what it would make of the kit, before anything is changed. */
export const usePlacing = defineStore('placing', () => {
  const kit = useKit()
  const settings = useSettings()
  const targets = useTargets()
  const isOpen = ref(false)
  const rows = shallowRef<readonly SoundRow[]>([])
  const startNote = ref(0)
  /** The line of the preview that is looked at. */
  const line = ref(0)

  const way = computed<PlacingWay>(() => {
    const { way: chosen, gap, families, byLevel, adds } = settings.placing
    const skipsTaken = settings.placing.skipsTaken && !adds
    switch (chosen) {
      case 'in order':
        return { type: 'in order', startNote: startNote.value, gap, families, skipsTaken, adds }
      case 'low first':
      case 'high first':
        return { type: 'by pitch', startNote: startNote.value, isFalling: chosen === 'high first', families, skipsTaken, adds }
      case 'velocity layers':
        return { type: chosen, padIndex: kit.padIndex, byLevel, adds }
      case 'round robin':
      case 'stack':
      case 'alternates':
        return { type: chosen, padIndex: kit.padIndex, adds }
      default:
        return { type: chosen, families, adds }
    }
  })
  const preview = computed(() => place(kit.kit, rows.value.map(knownSound), way.value))
  /** What the kit's target would not take of the result, beside what it does not take already. */
  const beyond = computed(() => {
    const limits = targets.limitsOf(kit.kit.target)
    if (!limits) return []
    const before = new Set(beyondLimits(kit.kit, limits).map(one => one.what))
    return beyondLimits(preview.value.kit, limits).filter(one => !before.has(one.what))
  })

  const lastLine = computed(() => Math.max(0, preview.value.placed.length - 1))
  /** The pad where the sound of that line would go. */
  const padInSight = computed(() => preview.value.placed[Math.min(line.value, lastLine.value)]?.padIndex ?? kit.padIndex)

  /** Looks at another line. */
  function look(at: number): void {
    line.value = Math.max(0, Math.min(lastLine.value, at))
  }

  function open(wanted: readonly SoundRow[]): void {
    if (wanted.length === 0) return
    rows.value = wanted
    startNote.value = firstFreeNote()
    if (settings.placing.skipsTaken && preview.value.notPlaced.length > 0) beginLower()
    line.value = 0
    isOpen.value = true
  }

  /** Puts sounds on pads from one on: a single one at once, several as they are chosen to go in the panel, or as the last time where that is wanted. */
  function send(index: number, wanted: readonly SoundRow[]): void {
    if (wanted.length < 2) return void kit.place(index, wanted)
    kit.select(index)
    open(wanted)
    if (settings.placing.skips && preview.value.replaced.length === 0 && preview.value.notPlaced.length === 0) carryOut()
  }

  /** Makes a kit for each kind of the sounds, and takes up the first. */
  async function makeSet(pack: string): Promise<number> {
    const kits = kitSet(pack, rows.value.map(knownSound))
    await kit.createSet(kits)
    isOpen.value = false
    return kits.length
  }

  /** The note of the current pad, or where that holds a sound, the one above all that are taken. */
  function firstFreeNote(): number {
    if (kit.pad.layers.length === 0) return kit.pad.note
    return Math.min(127, Math.max(...kit.kit.pads.filter(pad => pad.layers.length > 0).map(pad => pad.note)) + 1)
  }

  /** Begins on the lowest free note, where more find room so. */
  function beginLower(): void {
    const [from, left] = [startNote.value, preview.value.notPlaced.length]
    startNote.value = nextFreeNote(kit.kit, 127) ?? from
    if (preview.value.notPlaced.length >= left) startNote.value = from
  }

  /** Does what the preview shows. */
  function carryOut(): void {
    kit.takePlacing(preview.value)
    isOpen.value = false
  }

  return { isOpen, rows, startNote, way, preview, beyond, line, padInSight, look, open, send, carryOut, makeSet }
})
