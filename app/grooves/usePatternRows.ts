import { createSharedComposable } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Hit, Part } from '~~/core/groove/document'
import { padLabel } from '~~/core/kit/padLabel'
import { setPads } from '~~/core/kit/edits'
import { counted } from '~~/core/wording'
import { useCompany, type PadPlace } from './company'
import { sayError, saying } from '../parts/useSay'
import { useGrooves } from './grooves'
import { useKit } from '../bench'
import { useSettings } from '../parts/settings'

/** A row of the pattern: a pad with the parts that it sounds, or a part that no pad sounds. */
export interface PatternRowView {
  readonly key: string
  /** Of the kits that are heard, one after the other; null for a part without a pad. */
  readonly padIndex: number | null
  /** The kit that the pad belongs to, and its index there. */
  readonly place: PadPlace | null
  readonly label: string
  readonly name: string
  readonly kind: string | null
  readonly parts: readonly Part[]
  readonly hits: readonly Hit[]
  /** The kit that it belongs to, where several play. */
  readonly kitName: string | null
}

/** The rows of the pattern, in the order of the kit sheet; which of them are shown, and which is current. */
export const usePatternRows = createSharedComposable(() => {
  const kit = useKit()
  const grooves = useGrooves()
  const company = useCompany()
  const settings = useSettings()
  /** Only the rows of the chosen pads. */
  const isAlone = ref(false)
  /** The current row where it is none of the kit's own pads. */
  const elsewhere = ref<string>()

  const all = computed<readonly PatternRowView[]>(() => {
    let first = 0
    const pads = company.kits.flatMap((one, number) => {
      const start = first
      first += one.pads.length
      return one.pads.flatMap((pad, at): PatternRowView[] => {
        const index = start + at
        const parts = grooves.partsByPad.get(index) ?? []
        if (pad.layers.length === 0 && parts.length === 0 && (number > 0 || !settings.groove.showsEmpty)) return []
        return [{ key: `pad-${index}`, padIndex: index, place: company.placeOf(index), label: padLabel(at), name: pad.layers.length > 0 ? pad.name : 'empty', kind: pad.role, parts, hits: hitsOf(parts), kitName: company.kits.length > 1 ? one.name : null }]
      })
    })
    const lost = grooves.unheard.parts.map((part): PatternRowView => ({ key: part.id, padIndex: null, place: null, label: '–', name: `${part.name}: no pad`, kind: part.role, parts: [part], hits: part.hits, kitName: null }))
    return [...pads, ...lost]
  })
  const rows = computed(() => isAlone.value ? all.value.filter(row => row.padIndex !== null && kit.editedPads.includes(row.padIndex)) : all.value)
  const cursorRow = computed(() => {
    const key = elsewhere.value ?? `pad-${kit.padIndex}`
    const found = rows.value.findIndex(row => row.key === key)
    return found >= 0 ? found : Math.max(0, rows.value.findIndex(row => row.padIndex === kit.padIndex))
  })
  const rowAtHand = computed(() => rows.value[cursorRow.value])

  /** Takes a row to hand; a pad of the kit itself becomes the current pad everywhere. */
  function goToRow(index: number, how: 'alone' | 'extend' | 'toggle' = 'alone'): void {
    const row = rows.value[Math.max(0, Math.min(rows.value.length - 1, index))]
    if (!row) return
    const isOwn = row.place !== null && row.place.kitId === kit.id
    elsewhere.value = isOwn ? undefined : row.key
    if (isOwn) kit.select(row.padIndex!, how)
  }

  /** Mutes or solos the pad of a row, in whichever kit it is; of the current kit, all selected pads with it. */
  async function toggle(row: PatternRowView | undefined, state: 'muted' | 'soloed'): Promise<void> {
    if (!row?.place) return
    const { kitId, padIndex } = row.place
    const pads = kitId === kit.id ? kit.kit.pads : company.along.find(one => one.id === kitId)?.kit.pads
    // What is only listened to is not changed.
    if (kitId === null || !pads) return sayError(new Error(`${row.kitName ?? 'This kit'} is only being heard. Use it first, then mute or solo its pads.`))
    const isOn = !pads[padIndex]![state]
    const verb = state === 'muted' ? isOn ? 'Mute' : 'Unmute' : isOn ? 'Solo' : 'End the solo of'
    if (kitId !== kit.id) return saying(() => company.edit(kitId, now => setPads(now, [padIndex], { [state]: isOn })))
    const indexes = kit.chosenPads.has(padIndex) ? kit.editedPads : [padIndex]
    kit.edit(`${verb} ${indexes.length === 1 ? row.label : counted(indexes.length, 'pad')}`, now => setPads(now, indexes, { [state]: isOn }))
  }

  return { rows, isAlone, cursorRow, rowAtHand, goToRow, toggle }
})

function hitsOf(parts: readonly Part[]): readonly Hit[] {
  return parts.length === 1 ? parts[0]!.hits : parts.flatMap(part => part.hits)
}
