import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { copyPads, duplicatePads, pastePads, pasteSettings, type PadClip } from '~~/core/kit/clips'
import { clearPads, swapPads } from '~~/core/kit/edits'
import { padLabel } from '~~/core/kit/padLabel'
import { counted } from '../parts/useFormat'
import { say } from '../parts/useSay'
import { useKit } from './kit'
import { pastedText } from './sideKit'

/** Pads that were copied, and what is done with them. They stay copied when another kit is opened. */
export const useClip = defineStore('clip', () => {
  const kit = useKit()
  const clip = shallowRef<PadClip>()
  const from = ref<{ readonly kitId: string | undefined, readonly name: string }>()

  function copy(): void {
    clip.value = copyPads(kit.kit, kit.editedPads)
    from.value = { kitId: kit.id, name: kit.kit.name }
    say(`${counted(kit.editedPads.length, 'pad')} copied.`)
  }

  function cut(): void {
    copy()
    kit.edit(`Cut ${counted(kit.editedPads.length, 'pad')}`, state => clearPads(state, kit.editedPads))
  }

  function paste(): void {
    if (!clip.value || !from.value) return say('No pad was copied yet.')
    const isSameKit = from.value.kitId === kit.id
    const pasted = pastePads(kit.kit, kit.padIndex, clip.value, isSameKit)
    if (kit.edit(`Paste ${counted(pasted.padIndexes.length, 'pad')}`, () => pasted.kit)) say(pastedText(pasted, from.value.name))
  }

  function pasteOnlySettings(): void {
    const copied = clip.value
    if (!copied) return say('No pad was copied yet.')
    kit.edit(`Paste settings onto ${counted(kit.editedPads.length, 'pad')}`, state => pasteSettings(state, kit.editedPads, copied))
  }

  function duplicate(): void {
    const copied = duplicatePads(kit.kit, kit.editedPads)
    kit.edit(`Duplicate ${counted(copied.padIndexes.length, 'pad')}`, () => copied.kit)
    if (copied.padIndexes[0] !== undefined) kit.select(copied.padIndexes[0])
  }

  /** Exchanges two chosen pads. */
  function swap(): void {
    const [first, second, third] = kit.editedPads
    if (first === undefined || second === undefined || third !== undefined) return say('Choose two pads to swap them.')
    kit.edit(`Swap ${padLabel(first)} and ${padLabel(second)}`, state => swapPads(state, first, second))
  }

  return { clip, copy, cut, paste, pasteOnlySettings, duplicate, swap }
})
