import { vaultRoutes, type BinEntry, type Imported, type VaultView } from '~~/contract/vault'
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { OwnPattern, PresetType } from '~~/core/formats/package/kitFile'
import type { Kit } from '~~/core/kit/document'
import type { Heard } from '~~/contract/bounce'
import type { Stored } from '~~/contract/jobs'
import { api } from '../parts/useApi'
import { onReconnected, onServerEvent } from '../parts/useServerEvents'
import { useFirstSteps } from '../library'
import { useJobs } from '../parts/jobs'
import { useKit } from '../bench'
import { newest } from '../parts/newest'

/** The presets of the vault. */
export const useVault = defineStore('vault', () => {
  const jobs = useJobs()
  const vault = shallowRef<VaultView>()
  const bin = shallowRef<readonly BinEntry[]>([])

  onServerEvent((event) => {
    if (event.type === 'vault') void load()
  })
  onReconnected(() => void load())

  const load = newest(() => Promise.all([api(vaultRoutes.list), api(vaultRoutes.bin)]), ([presets, deleted]) => {
    vault.value = presets
    bin.value = deleted
  })

  /** Stores the current kit, as a new preset or as the next revision of one, with a pattern as its own or without. */
  async function store(name: string, presetId: string | null, pattern?: OwnPattern, heard: Heard = 'as heard'): Promise<Stored> {
    const kit = useKit()
    await kit.settled()
    const { id: kitId } = kit
    const job = await api(vaultRoutes.store, { body: { kitId: kitId ?? null, kit: kit.kit, heard, name, presetId, pattern } })
    const stored = await jobs.finished(job)
    useFirstSteps().did('store')
    // Another kit may have been opened meanwhile: it does not come from this preset.
    if (kit.id === kitId) {
      kit.presetId = stored.presetId
      kit.presetRevision = stored.revision
      // The kit and the preset that it is now are one thing, and have one name.
      if (kit.kit.name !== stored.name) kit.edit(`Name it "${stored.name}"`, state => ({ ...state, name: stored.name }))
    }
    await load()
    return stored
  }

  /** Stores something of its own as a new preset: a pad, or a blueprint. */
  async function storeAs(type: PresetType, name: string, kit: Kit): Promise<Stored> {
    const stored = await jobs.finished(await api(vaultRoutes.store, { body: { kitId: null, type, kit, name, presetId: null } }))
    await load()
    return stored
  }

  async function rename(id: string, name: string): Promise<void> {
    await api(vaultRoutes.rename, { params: { id }, body: { name } })
    await load()
  }

  async function duplicate(id: string, name: string): Promise<Stored> {
    const stored = await jobs.finished(await api(vaultRoutes.duplicate, { params: { id }, body: { name } }))
    await load()
    return stored
  }

  async function remove(id: string): Promise<void> {
    await api(vaultRoutes.remove, { params: { id } })
    await load()
  }

  async function restore(entry: string): Promise<string> {
    const { name } = await api(vaultRoutes.restore, { body: { entry } })
    await load()
    return name
  }

  async function emptyBin(): Promise<number> {
    const { deleted } = await api(vaultRoutes.emptyBin)
    await load()
    return deleted
  }

  async function importFile(file: File): Promise<Imported> {
    const job = await api(vaultRoutes.import, { body: file })
    return jobs.finished(job)
  }

  /** Goes on with an import whose name was taken. */
  async function importAs(archive: string, onConflict: 'revision' | 'rename' | 'give-up'): Promise<Imported | undefined> {
    const job = await api(vaultRoutes.importAs, { body: { archive, onConflict } })
    return job ? jobs.finished(job) : undefined
  }

  return { vault, bin, load, store, storeAs, rename, duplicate, remove, restore, emptyBin, importFile, importAs }
})
