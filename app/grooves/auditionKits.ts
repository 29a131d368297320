import { kitRoutes } from '~~/contract/kits'
import { vaultRoutes } from '~~/contract/vault'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Kit } from '~~/core/kit/document'
import { api } from '../parts/useApi'
import { useCompany } from './company'
import { useGrooves } from './grooves'
import { useKit } from '../bench'
import { useVault } from '../vault'

/** A kit at work, or a preset, that can be heard under the pattern. */
export interface HeardKit {
  readonly type: 'kit' | 'preset'
  readonly id: string
  readonly name: string
  readonly pads: number
}

/** Hearing other kits under the current pattern, before one is taken. */
export const useAuditionKits = defineStore('auditionKits', () => {
  const kit = useKit()
  const vault = useVault()
  const grooves = useGrooves()
  const company = useCompany()
  const atWork = shallowRef<readonly HeardKit[]>([])
  const heard = shallowRef<HeardKit>()
  const isOn = computed(() => heard.value !== undefined)
  const cursor = ref(0)
  let request = 0

  const all = computed<readonly HeardKit[]>(() => [
    ...atWork.value,
    ...(vault.vault?.presets ?? []).filter(preset => preset.type === 'kit').map(({ id, name, pads }) => ({ type: 'preset' as const, id, name, pads })),
  ])

  async function load(): Promise<void> {
    await kit.settled()
    atWork.value = (await kit.list()).map(({ id, label, pads }) => ({ type: 'kit' as const, id, name: label, pads }))
  }

  async function documentOf(one: HeardKit): Promise<Kit | undefined> {
    if (one.type === 'kit') return (await api(kitRoutes.read, { params: { id: one.id } })).kit
    const answer = await api(vaultRoutes.read, { params: { id: one.id } })
    return answer.revision.file?.kit
  }

  /** Lets a kit be heard in place of the current one, its sounds loaded first so that the pattern goes on without a gap. */
  async function hear(one: HeardKit): Promise<void> {
    const own = ++request
    const found = await documentOf(one)
    if (!found || own !== request) return
    await Promise.all(found.pads.flatMap(pad => pad.layers.slice(0, 1)).map(layer => kit.player.ensure(layer.sound.id, 'soon')))
    if (own !== request) return
    heard.value = one
    company.hearInstead({ kit: found, id: one.id })
  }

  /** The open kit is heard again. */
  function end(): void {
    request++
    heard.value = undefined
    company.hearInstead(undefined)
  }

  /** Takes what is heard to hand: a kit at work, or a working copy of a preset. The pattern stays. */
  async function take(): Promise<void> {
    const one = heard.value
    if (!one) return
    grooves.keepsPattern = true
    try {
      if (one.type === 'kit') await kit.open(one.id)
      else await kit.openPreset(one.id)
    }
    finally {
      end()
    }
  }

  return { all, heard, isOn, cursor, load, hear, end, take }
})
