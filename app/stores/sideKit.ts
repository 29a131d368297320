import { defineStore } from 'pinia'
import { computed, ref, shallowReactive, shallowRef } from 'vue'
import { copyPads, pastePads, type Pasted } from '~~/core/kit/clips'
import type { Kit } from '~~/core/kit/document'
import { padLabel } from '~~/core/kit/padLabel'
import type { KitView } from '~~/server/kits/drafts'
import { KitPlayer, type LoadedSound } from '../audio/kitPlayer'
import { api } from '../composables/useApi'
import { counted } from '../composables/useFormat'
import { say } from '../composables/useSay'
import { useKit } from './kit'
import { newest } from './newest'

/** A kit at work or a stored preset, by what it is opened with. */
export type SideSource = { readonly type: 'kit', readonly id: string } | { readonly type: 'preset', readonly id: string }

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
    if (type === 'kit') return (await api<KitView>(`/api/kits/${id}`)).kit
    return (await api<{ revision: { file: { kit: Kit } | null, problem: string | null } }>(`/api/vault/${encodeURIComponent(id)}`)).revision.file?.kit
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

  /** Makes a pad of it the one at hand, chosen with others where it is toggled. */
  function select(index: number, how: 'alone' | 'toggle' = 'alone'): void {
    cursor.value = index
    if (how === 'alone') chosen.value = new Set()
    else {
      const next = new Set(chosen.value)
      if (!next.delete(index)) next.add(index)
      chosen.value = next
    }
  }

  /** Velocity 0 lets it go. */
  function play(index: number, velocity: number): void {
    const pad = side.value?.pads[index]
    if (pad) void player?.note(pad.note, velocity)
  }

  /** Copies the chosen pads, or the one at hand, onto this kit's pads from one on, and says what became another by it. */
  function copyTo(padIndex: number): void {
    const from = side.value
    if (!from) return
    const pads = chosen.value.size > 0 ? [...chosen.value].sort((a, b) => a - b) : [cursor.value]
    const pasted = pastePads(kit.kit, padIndex, copyPads(from, pads), false)
    if (!kit.edit(`Copy ${counted(pasted.padIndexes.length, 'pad')} from ${from.name}`, () => pasted.kit)) return
    say(pastedText(pasted, from.name))
    kit.select(Math.min(kit.kit.pads.length - 1, padIndex + pasted.padIndexes.length))
  }

  return { source, side, chosen, cursor, filled, sounds, open, close, select, play, copyTo }
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
