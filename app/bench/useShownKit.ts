import { computed } from 'vue'
import { PADS_PER_BANK } from '~~/core/kit/document'
import { useKit } from './kit'
import { usePlacing } from './placing'
import { pictureOf } from '../parts/useWaveformPainter'

/** What becomes of a pad when sounds are placed. */
export type Becomes = 'new' | 'replaced' | 'left'

/** The kit as the bench shows it: the current one, or what placing would make of it, as long as that is being chosen. */
export function useShownKit() {
  const kit = useKit()
  const placing = usePlacing()
  const shown = computed(() => placing.isOpen ? placing.preview.kit : kit.kit)
  /** The current pad, or the one that is looked at. */
  const atHand = computed(() => placing.isOpen ? placing.padInSight : kit.padIndex)
  const bank = computed(() => Math.floor(atHand.value / PADS_PER_BANK))
  const placed = computed(() => new Map(placing.preview.placed.map(({ padIndex }) => [padIndex, placing.preview.replaced.includes(padIndex) ? 'replaced' : 'new'] as const)))
  const rows = computed(() => new Map(placing.rows.map(row => [row.hash, row])))

  /** What becomes of a pad; nothing where no placing is shown. */
  function becomes(index: number): Becomes | undefined {
    return placing.isOpen ? placed.value.get(index) ?? 'left' : undefined
  }

  /** The outline of a sound of the kit that is loaded, or else of one that would come onto it. */
  function outlineOf(sound: string): Int8Array | undefined {
    const row = placing.isOpen ? rows.value.get(sound) : undefined
    return kit.sounds.get(sound)?.outline ?? (row && pictureOf(row).outline)
  }

  return { shown, atHand, bank, becomes, outlineOf }
}
