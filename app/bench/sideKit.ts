import { kitRoutes } from '~~/contract/kits'
import { vaultRoutes } from '~~/contract/vault'
import { defineStore } from 'pinia'
import { computed, ref, shallowReactive, shallowRef } from 'vue'
import { copyPads, pastePads, type Pasted } from '~~/core/kit/clips'
import type { Kit } from '~~/core/kit/document'
import { padLabel } from '~~/core/kit/padLabel'
import { KitPlayer, type LoadedSound } from '../sound'
import { api } from '../parts/useApi'
import { counted } from '../parts/useFormat'
import { say } from '../parts/useSay'
import { useKit } from './kit'
import { newest } from '../parts/newest'

/** A kit at work or a stored preset, by what it is opened with. */
export type SideSource = { readonly type: 'kit', readonly id: string } | { readonly type: 'preset', readonly id: string }

/** Copy to: where nothing is replaced, or from the current pad on whatever lies there. */
export type CopyPlace = 'free' | 'over'

/** The first pad from one on at which so many in a row are empty; the one itself where there are none. */
function firstFree(kit: Kit, from: number, count: number): number {
  for (let first = from; first + count <= kit.pads.length; first++) {
    if (kit.pads.slice(first, first + count).every(pad => pad.layers.length === 0)) return first
  }
  return from
}

/** A second kit, opened beside the first to copy pads from. It is only looked at and played. */
export const useSideKit = defineStore('sideKit', () => {
  const kit = useKit()
  const source = ref<SideSource>()
  const side = shallowRef<Kit>()
  const chosen = shallowRef<ReadonlySet<number>>(new Set())
  const cursor = ref(0)
  const sounds = shallowReactive(new Map<string, LoadedSound>())
  let player: KitPlayer | undefined

  const filled = computed(() => side.value?.pads.flatMap((pad, index) => pad.layers.length > 0 ? [index] : []) ?? [])

  async function kitOf({ type, id }: SideSource): Promise<Kit | undefined> {
    if (type === 'kit') return (await api(kitRoutes.read, { params: { id } })).kit
    return (await api(vaultRoutes.read, { params: { id } })).revision.file?.kit
  }

  /** Shows a kit, or none. What is asked for last counts: one that is closed while it is on its way does not open. */
  const show = newest(async (wanted: SideSource | undefined) => wanted && await kitOf(wanted), (found, wanted) => {
    source.value = wanted
    side.value = found
    chosen.value = new Set()
    cursor.value = filled.value[0] ?? 0
    if (!found) return player?.stop()
    player ??= new KitPlayer((id, state) => sounds.set(id, state), () => undefined)
    player.setKit(found)
  })

  function open(wanted: SideSource): Promise<void> {
    return show(wanted)
  }

  function close(): Promise<void> {
    return show(undefined)
  }

  /** Makes a pad the current one: alone, added to those that are selected or taken away, or with all between it and the one before. */
  function select(index: number, how: 'alone' | 'toggle' | 'extend' = 'alone'): void {
    // Of several, the one that was current before is the first.
    const next = new Set(chosen.value.size > 0 ? chosen.value : [cursor.value])
    if (how === 'toggle' && (!next.has(index) || next.size === 1)) next.add(index)
    else if (how === 'toggle') next.delete(index)
    else if (how === 'extend') for (const pad of filled.value) if (pad >= Math.min(cursor.value, index) && pad <= Math.max(cursor.value, index)) next.add(pad)
    chosen.value = how === 'alone' ? new Set() : next
    cursor.value = index
  }

  function selectAll(): void {
    chosen.value = new Set(filled.value)
  }

  const selected = computed(() => chosen.value.size > 0 ? [...chosen.value].sort((a, b) => a - b) : [cursor.value])
  const place = ref<CopyPlace>('free')

  /** What copying would do: on free pads from the current one on, or over whatever lies there. */
  const preview = computed(() => {
    const from = side.value
    if (!from || filled.value.length === 0) return undefined
    const first = place.value === 'free' ? firstFree(kit.kit, kit.padIndex, selected.value.length) : kit.padIndex
    return { ...pastePads(kit.kit, first, copyPads(from, selected.value), false), first }
  })

  /** Velocity 0 lets it go. */
  function play(index: number, velocity: number): void {
    const pad = side.value?.pads[index]
    if (pad) void player?.note(pad.note, velocity)
  }

  /** Copies the selected pads as the preview shows, and says what became another by it. */
  function copy(): void {
    const [from, pasted] = [side.value, preview.value]
    if (!from || !pasted) return
    if (!kit.edit(`Copy ${counted(pasted.padIndexes.length, 'pad')} from ${from.name}`, () => pasted.kit)) return
    say(pastedText(pasted, from.name))
    kit.select(Math.min(kit.kit.pads.length - 1, pasted.first + pasted.padIndexes.length))
  }

  return { source, side, chosen, selected, cursor, filled, sounds, place, preview, open, close, select, selectAll, play, copy }
})

/** What pasting did, in a sentence for each thing that somebody should know. */
export function pastedText({ padIndexes, renumbered, outputsLost, replaced, leftOver }: Pasted, from: string): string {
  const [first, last] = [padIndexes[0], padIndexes.at(-1)]
  const sentences = [
    first === undefined ? 'No pad was copied.' : `${counted(padIndexes.length, 'pad')} of "${from}" ${padIndexes.length === 1 ? 'is' : 'are'} on ${first === last ? padLabel(first) : `${padLabel(first)} to ${padLabel(last!)}`}.`,
    replaced.length > 0 && `${counted(replaced.length, 'pad')} that held a sound ${replaced.length === 1 ? 'was' : 'were'} replaced.`,
    ...renumbered.map(group => group.to === null ? `Choke group ${group.from} was left out: all 32 are taken here.` : `Choke group ${group.from} is ${group.to} here.`),
    outputsLost.length > 0 && `Without an output named ${outputsLost.map(name => `"${name}"`).join(', ')} here, they go to the first.`,
    leftOver > 0 && `${counted(leftOver, 'pad')} found no place.`,
  ]
  return sentences.filter(Boolean).join(' ')
}
