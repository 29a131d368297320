import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import type { Kit } from '~~/core/kit/document'
import { joinKits } from '~~/core/kit/joinKits'
import type { KitView } from '~~/server/kits/drafts'
import { api } from '../composables/useApi'
import { onServerEvent } from '../composables/useServerEvents'
import { useKit } from './kit'
import { newest } from './newest'

/** Kits that are heard under the pattern: the one at hand or another in its place, and those that play along. */
export const useCompany = defineStore('company', () => {
  const kit = useKit()
  const along = shallowRef<readonly KitView[]>([])
  const invited = useLocalStorage<string[]>('emporion-company', [])
  /** Another kit that is heard in place of the one at hand. */
  const instead = shallowRef<Kit>()

  const kits = computed<readonly Kit[]>(() => [instead.value ?? kit.kit, ...along.value.map(one => one.kit)])
  const joined = computed(() => joinKits(kits.value))

  const isOther = computed(() => along.value.length > 0 || instead.value !== undefined)

  // A kit alone is heard by itself: its edits are not handed on twice.
  watch([joined, isOther], ([now, isHeard], [, wasHeard]) => {
    if (isHeard || wasHeard) kit.hear('company', isHeard ? () => now : undefined)
  })
  watch(() => kit.id, () => along.value = along.value.filter(one => one.id !== kit.id))
  onServerEvent((event) => {
    if (event.type === 'kit' && invited.value.includes(event.kitId)) void meet()
  })

  /** Lets another kit be heard in place of the one at hand, or no more. */
  function hearInstead(other: Kit | undefined): void {
    instead.value = other
  }

  /** Lets another kit play along, or no more. They are remembered. */
  async function invite(kitId: string): Promise<void> {
    invited.value = [...invited.value.filter(one => one !== kitId), kitId]
    await meet()
  }

  function dismiss(kitId: string): void {
    invited.value = invited.value.filter(one => one !== kitId)
    along.value = along.value.filter(one => one.id !== kitId)
  }

  /** Fetches the kits that play along, as they are now; those that are gone do so no more. */
  const meet = newest(
    () => Promise.all(invited.value.filter(one => one !== kit.id).map(one => api<KitView>(`/api/kits/${one}`).catch(() => undefined))),
    // Who was dismissed or taken to hand meanwhile does not come along.
    found => along.value = found.filter(one => one !== undefined).filter(one => invited.value.includes(one.id) && one.id !== kit.id),
  )

  return { along, kits, joined, hearInstead, invite, dismiss, meet }
})
