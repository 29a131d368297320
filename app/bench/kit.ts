import { vaultRoutes } from '~~/contract/vault'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { emptyKit, type Kit } from '~~/core/kit/document'
import { placeByKind } from '~~/core/kit/byKind'
import { placeSounds, setLayer, type Placement } from '~~/core/kit/edits'
import { knownSound } from '~~/core/kit/parts'
import type { Placing } from '~~/core/kit/placing'
import { startHistory, type History } from '~~/core/document/history'
import { kitRoutes, type KitSummary, type KitView } from '~~/contract/kits'
import type { SoundRow } from '~~/contract/library'
import { api } from '../parts/useApi'
import { say, sayError } from '../parts/useSay'
import { onServerEvent } from '../parts/useServerEvents'
import { counted } from '../parts/useFormat'
import { useFirstSteps } from '../library'
import { forgetHistory, KIT_HISTORIES } from '../parts/documents/histories'
import { useKitSound } from './kitSound'
import { usePadChoice } from './padChoice'
import { useDocument, type StoredDocument } from '../parts/documents/useDocument'

const LAST_KIT = 'emporion-last-kit'

/** The open kit: its document with undo, its saving, the current pad, and its playing. */
export const useKit = defineStore('kit', () => {
  const presetId = ref<string | null>(null)
  const presetRevision = ref<number | null>(null)
  /** The pattern that was last played on it, as it was when it was opened. */
  const patternId = ref<string | null>(null)

  const { id, present: kit, writtenBy, ...document } = useDocument<Kit>({
    empty: emptyKit('New kit'),
    shelf: KIT_HISTORIES,
    send: (kitId, edit) => api(kitRoutes.save, { params: { id: kitId }, body: edit }),
    fetch: async kitId => storedOf(await api(kitRoutes.read, { params: { id: kitId } })),
    changeIn: event => event.type === 'kit' ? { ...event, id: event.kitId } : undefined,
    onConflict: keepBoth,
    onEdited: () => {
      keepWithin()
      sendHeard()
    },
    onFollowed: () => sendHeard(),
  })
  const { settled } = document
  const { padIndex, layerIndex, chosenPads, pad, bank, editedPads, select, chooseFilled, keepWithin } = usePadChoice(() => kit.value)
  const { player, sendHeard, ...sound } = useKitSound(() => kit.value)
  const filledPads = computed(() => kit.value.pads.filter(candidate => candidate.layers.length > 0).length)

  onServerEvent((event) => {
    if (event.type !== 'library' && event.type !== 'vault') return
    player.retryMissing()
    void sound.lookForFiles()
  })

  let openings = 0
  let opening: Promise<void> = Promise.resolve()

  /** Takes up what is fetched, unless something else was asked for in the meantime. */
  function takeUp(fetch: () => Promise<KitView | undefined>): Promise<void> {
    return opening = takeUpNow(fetch)
  }

  /** Waits until the kit that is on its way is open: what is put on pads before would be put on the one that it replaces. */
  async function opened(): Promise<void> {
    await opening.catch(() => undefined)
  }

  /**
   * Waits for what an edit needs. Where another kit was taken up meanwhile it throws, and says so: what was meant for one
   * is not done to another.
   */
  async function stillAtHand<T>(needed: Promise<T>): Promise<T> {
    const asked = { id: id.value, name: kit.value.name }
    const answer = await needed
    if (asked.id !== undefined && id.value !== asked.id) throw new Error(`Another kit was opened before this could be done to "${asked.name}". Neither was changed. Open "${asked.name}" and do it again.`)
    return answer
  }

  async function takeUpNow(fetch: () => Promise<KitView | undefined>): Promise<void> {
    const own = ++openings
    await settled()
    const view = await fetch()
    if (!view || own !== openings) return
    const recalled = await document.recall(storedOf(view))
    // What was edited while it was on its way is of the kit before.
    await settled()
    if (own === openings) take(view, recalled)
  }

  /** Takes up the kit that was open last, or the first there is, or a new one. */
  function openLast(): Promise<void> {
    return takeUp(async () => {
      const wanted = localStorage.getItem(LAST_KIT)
      const all = await list()
      const found = all.find(candidate => candidate.id === wanted) ?? all[0]
      return found ? api(kitRoutes.read, { params: { id: found.id } }) : api(kitRoutes.add, { body: {} })
    })
  }

  function list(): Promise<readonly KitSummary[]> {
    return api(kitRoutes.list)
  }

  function open(kitId: string): Promise<void> {
    return takeUp(() => api(kitRoutes.read, { params: { id: kitId } }))
  }

  /** Makes a kit at work, empty or as it is given, and takes it up. */
  function create(from?: Kit): Promise<void> {
    return takeUp(() => api(kitRoutes.add, { body: { kit: from } }))
  }

  /** Makes several kits at work at once, and takes up the first. */
  function createSet(kits: readonly Kit[]): Promise<void> {
    return takeUp(async () => (await api(kitRoutes.addSet, { body: { kits } }))[0])
  }

  function openPreset(preset: string, number?: number): Promise<void> {
    return takeUp(() => api(vaultRoutes.open, { params: { id: preset }, query: { revision: number } }))
  }

  async function remove(kitId: string): Promise<void> {
    // What is still on its way to a kit that is gone would be kept as a kit of its own.
    if (kitId === id.value) await settled()
    await api(kitRoutes.remove, { params: { id: kitId } })
    forgetHistory(KIT_HISTORIES, kitId)
    if (kitId === id.value) await openLast()
  }

  function take(view: KitView, recalled: History<Kit>): void {
    document.take(storedOf(view), recalled)
    presetId.value = view.presetId
    presetRevision.value = view.presetRevision
    patternId.value = view.patternId
    select(0)
    layerIndex.value = 0
    localStorage.setItem(LAST_KIT, view.id)
    player.stop()
    sendHeard()
    void sound.lookForFiles()
  }

  /** Makes an edit. Edits that share a `gesture` are undone as one. Gives false, and says why, where nothing can be edited. */
  function edit(label: string, change: (kit: Kit) => Kit, gesture?: string): boolean {
    if (id.value === undefined) {
      sayError(new Error('The kit is still on its way here, so nothing was changed. Do that again in a moment.'))
      return false
    }
    if (writtenBy.value !== null) {
      sayError(new Error(`"${kit.value.name}" was written by a newer Emporion (document version ${writtenBy.value}) and can only be read here. It was not changed. Make a copy.`))
      return false
    }
    document.edit(change(kit.value), label, gesture)
    return true
  }

  /** A copy of what is shown becomes a kit of its own. */
  async function copyToWorkOn(): Promise<void> {
    await create({ ...kit.value, name: `${kit.value.name} copy`.slice(0, 120) })
  }

  /** Puts sounds of the library on pads from `index` on and says what happened. A single one may be given its level. Gives whether it did. */
  function place(index: number, rows: readonly SoundRow[], gainDb?: number): boolean {
    if (rows.length === 0) return false
    const result = placeSounds(kit.value, index, rows.map(knownSound))
    if (!putOn(rows, gainDb === undefined ? result : { ...result, kit: setLayer(result.kit, index, 0, { gainDb }) })) return false
    if (rows.length > 1 && result.leftOver.length === 0) say(`${counted(rows.length, 'sound')} put on pads from ${kit.value.pads[result.padIndexes[0] ?? 0]?.note} on.`)
    return true
  }

  /** Puts sounds on the free pads that fit their kinds. */
  function placeFitting(rows: readonly SoundRow[]): void {
    if (rows.length === 0) return
    const result = placeByKind(kit.value, rows.map(knownSound))
    if (putOn(rows, result) && result.leftOver.length === 0) say(`${counted(rows.length, 'sound')} put on free pads by kind.`)
  }

  /** Takes over what placing sounds in some way makes of the kit. */
  function takePlacing({ kit: placed, placed: went }: Placing): void {
    const pads = new Set(went.map(({ padIndex: at }) => at))
    if (!edit(`Put ${counted(went.length, 'sound')} on ${counted(pads.size, 'pad')}`, () => placed)) return
    if (went.length > 0) useFirstSteps().did('kit')
    if (went[0]) select(went[0].padIndex)
    say(`${counted(went.length, 'sound')} put on ${counted(pads.size, 'pad')}.`)
  }

  function putOn(rows: readonly SoundRow[], { kit: placed, padIndexes, leftOver }: Placement): boolean {
    if (!edit(rows.length === 1 ? `Put "${rows[0]!.name}" on a pad` : `Put ${counted(padIndexes.length, 'sound')} on pads`, () => placed)) return false
    if (padIndexes[0] !== undefined) {
      select(padIndexes[0])
      useFirstSteps().did('kit')
    }
    if (leftOver.length > 0) {
      sayError(new Error(`${counted(leftOver.length, 'sound')} found no free pad: a kit has 128 pads at most. Placed: ${counted(padIndexes.length, 'sound')}.`))
    }
    return true
  }

  /** Another tab changed or deleted the kit that is edited here: what this one made becomes a kit of its own, and nothing is lost. */
  async function keepBoth(state: Kit, elsewhere: 'changed' | 'deleted'): Promise<void> {
    const name = elsewhere === 'changed' ? `${state.name} (other tab)`.slice(0, 120) : state.name
    const copy = await api(kitRoutes.add, { body: { kit: { ...state, name } } })
    const before = padIndex.value
    take(copy, startHistory(copy.kit))
    select(before)
    sayError(new Error(elsewhere === 'changed'
      ? `"${state.name}" was changed in another tab at the same time. Your version is kept here as "${copy.kit.name}"; the other one is under "Open kits".`
      : `"${state.name}" was deleted in another tab. As you went on with it here, your version is kept as a new kit of that name.`))
  }

  const { undo, redo, stepTo, steps, canUndo, canRedo, saveState, savedAt } = document
  return {
    id, kit, pad, padIndex, layerIndex, bank, chosenPads, editedPads, filledPads, presetId, presetRevision, saveState, savedAt, canUndo, canRedo, steps, writtenBy, patternId, player, ...sound,
    openLast, opened, stillAtHand, list, open, create, createSet, copyToWorkOn, openPreset, remove, edit, undo, redo, stepTo, place, placeFitting, takePlacing, select, chooseFilled, settled,
  }
})

/** A kit as a document. */
function storedOf({ id, kit, revision, updatedAt, writtenBy }: KitView): StoredDocument<Kit> {
  return { id, state: kit, revision, savedAt: updatedAt, writtenBy }
}
