import { kitRoutes, type KitView } from '~~/contract/kits'
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import { EmporionError } from '~~/core/errors'
import { differenceOf } from '~~/core/document/difference'
import type { Kit } from '~~/core/kit/document'
import { joinKits, MOST_KITS } from '~~/core/kit/joinKits'
import { api } from '../parts/useApi'
import { onServerEvent, tabId } from '../parts/useServerEvents'
import { useKit } from '../bench'
import { newest } from '../parts/newest'

/** Kits of which it is remembered who plays along with them. */
const MOST_REMEMBERED = 100

/** A pad of one of the kits that are heard. */
export interface PadPlace {
  /** Null for the kit that is previewed instead of the current one: it is only listened to. */
  readonly kitId: string | null
  readonly padIndex: number
}

/** Kits that are heard under the pattern: the current one or another in its place, and those that play along with it. */
export const useCompany = defineStore('company', () => {
  const kit = useKit()
  const fetched = shallowRef<readonly KitView[]>([])
  /** Who plays along with each kit. */
  const byKit = useLocalStorage<Record<string, string[]>>('emporion-company-of', {})
  /** Another kit that is previewed instead of the current one. */
  const instead = shallowRef<{ readonly kit: Kit, readonly id: string }>()
  let saving: Promise<unknown> = Promise.resolve()

  const invited = computed(() => (byKit.value[kit.id ?? ''] ?? []).filter(one => one !== kit.id))
  /** No kit plays twice: neither the current one, nor the one that is heard in its place. */
  const along = computed(() => fetched.value.filter(({ id }) => invited.value.includes(id) && id !== kit.id && id !== instead.value?.id))
  const kits = computed<readonly Kit[]>(() => [instead.value?.kit ?? kit.kit, ...along.value.map(one => one.kit)])
  const joined = computed(() => joinKits(kits.value))

  const isOther = computed(() => along.value.length > 0 || instead.value !== undefined)

  // A kit alone is heard by itself: its edits are not handed on twice.
  watch([joined, isOther], ([now, isHeard], [, wasHeard]) => {
    if (isHeard || wasHeard) kit.hear('company', isHeard ? () => now : undefined)
  })
  watch(() => kit.id, () => void meet())
  onServerEvent((event) => {
    if (event.type === 'kit' && event.from !== tabId && invited.value.includes(event.kitId)) void meet()
  })

  /** Lets another kit be heard in place of the current one, or no more. */
  function hearInstead(other: { readonly kit: Kit, readonly id: string } | undefined): void {
    instead.value = other
  }

  function remember(kitIds: string[]): void {
    if (kit.id === undefined) return
    const { [kit.id]: _old, ...others } = byKit.value
    byKit.value = { ...Object.fromEntries(Object.entries(others).slice(-MOST_REMEMBERED)), ...kitIds.length > 0 ? { [kit.id]: kitIds } : {} }
  }

  /** Lets another kit play along with the current one. That is remembered for this kit. @throws EmporionError `limit` */
  async function invite(kitId: string): Promise<void> {
    if (kitId === kit.id || invited.value.includes(kitId)) return
    if (invited.value.length + 1 >= MOST_KITS) throw new EmporionError('limit', { what: `${MOST_KITS} kits play together at most.`, kept: 'Those that play along stay.', next: 'Remove one of them first.' })
    remember([...invited.value, kitId])
    await meet()
  }

  function dismiss(kitId: string): void {
    remember(invited.value.filter(one => one !== kitId))
  }

  /** Fetches the kits that play along, as they are now; those that are gone do so no more. */
  const meet = newest(
    () => Promise.all(invited.value.map(one => api(kitRoutes.read, { params: { id: one } }).catch(() => undefined))),
    found => fetched.value = found.filter(one => one !== undefined),
  )

  /** The kit and pad of an index into the joined kits. */
  function placeOf(index: number): PadPlace {
    let padIndex = index
    for (const [at, one] of kits.value.entries()) {
      if (padIndex < one.pads.length) return { kitId: at > 0 ? along.value[at - 1]!.id : instead.value ? null : kit.id ?? null, padIndex }
      padIndex -= one.pads.length
    }
    return { kitId: null, padIndex }
  }

  /**
   * Changes a kit that plays along. It is heard at once, and saved in the order of the changes.
   *
   * @throws EmporionError where it could not be saved: then it is as it was stored
   */
  async function edit(kitId: string, change: (kit: Kit) => Kit): Promise<void> {
    const before = fetched.value.find(one => one.id === kitId)
    if (!before) return
    const after = change(before.kit)
    put(kitId, { kit: after })
    const saved = saving.then(async () => {
      const { revision: baseRevision } = fetched.value.find(one => one.id === kitId) ?? before
      const { revision } = await api(kitRoutes.save, { params: { id: kitId }, body: { difference: differenceOf(before.kit, after), baseRevision, from: tabId } })
      put(kitId, { revision })
    })
    saving = saved.catch(() => meet())
    await saved
  }

  function put(kitId: string, change: Partial<KitView>): void {
    fetched.value = fetched.value.map(one => one.id === kitId ? { ...one, ...change } : one)
  }

  return { along, kits, joined, hearInstead, invite, dismiss, meet, placeOf, edit }
})
