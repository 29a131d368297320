import { computed } from 'vue'
import { clearPads, setPads } from '~~/core/kit/edits'
import { padLabel } from '~~/core/kit/padLabel'
import { soundFileUrl } from '../audio/dragOut'
import { useClip } from '../stores/clip'
import { useKeyChoices } from '../stores/keys'
import { useKit } from '../stores/kit'
import { useMenu, type MenuItem } from '../stores/menu'
import { downloadUrl } from './useDownload'
import { counted } from './useFormat'
import { usePadLikes } from './usePadLikes'
import { usePadPresets } from './usePadPresets'

const STATES = { muted: ['Mute', 'Unmute'], soloed: ['Solo', 'End the solo of'], held: ['Hold', 'Let go of'] } as const

/** What can be done with the selected pads, as a menu and by keys. */
export function usePadMenu() {
  const kit = useKit()
  const clip = useClip()
  const keys = useKeyChoices()
  const menu = useMenu()
  const presets = usePadPresets()
  const findLikes = usePadLikes()

  const which = computed(() => kit.editedPads.length === 1 ? padLabel(kit.padIndex) : counted(kit.editedPads.length, 'pad'))

  function clear(): void {
    const pads = kit.editedPads.filter(index => kit.kit.pads[index]!.layers.length > 0)
    if (pads.length > 0) kit.edit(`Clear ${counted(pads.length, 'pad')}`, state => clearPads(state, pads))
  }

  function toggle(state: keyof typeof STATES): void {
    const isOn = !kit.pad[state]
    kit.edit(`${STATES[state][isOn ? 0 : 1]} ${which.value}`, now => setPads(now, kit.editedPads, { [state]: isOn }))
  }

  const items = computed<readonly MenuItem[]>(() => {
    const copied = clip.clip?.pads.length ?? 0
    const isFilled = kit.pad.layers.length > 0
    const sound = kit.pad.layers[0]?.sound
    return [
      { does: `Copy ${which.value}`, key: keys.labelOf('padCopy'), act: clip.copy },
      { does: `Cut ${which.value}`, key: keys.labelOf('padCut'), act: clip.cut },
      { does: copied > 0 ? `Paste ${counted(copied, 'pad')} from ${padLabel(kit.padIndex)} on` : 'Paste', key: keys.labelOf('padPaste'), act: clip.paste, disabled: copied === 0 },
      { does: `Paste settings only onto ${which.value}`, key: keys.labelOf('padPasteSettings'), act: clip.pasteOnlySettings, disabled: copied === 0 },
      { does: `Duplicate ${which.value} onto free pads`, key: keys.labelOf('padDuplicate'), act: clip.duplicate },
      { does: 'Swap the two selected pads', key: keys.labelOf('padSwap'), act: clip.swap, disabled: kit.editedPads.length !== 2 },
      { does: `Clear ${which.value}`, key: keys.labelOf('padClear'), act: clear },
      { does: `${STATES.muted[kit.pad.muted ? 1 : 0]} ${which.value}`, key: keys.labelOf('padMute'), act: () => toggle('muted'), divided: true },
      { does: `${STATES.soloed[kit.pad.soloed ? 1 : 0]} ${which.value}`, key: keys.labelOf('padSolo'), act: () => toggle('soloed') },
      { does: `${STATES.held[kit.pad.held ? 1 : 0]} ${which.value}`, key: keys.labelOf('padHold'), act: () => toggle('held') },
      { does: 'Find similar sounds', key: keys.labelOf('padLike'), act: () => findLikes(), divided: true, disabled: !isFilled },
      { does: sound ? `Save "${sound.name}" as a file` : 'Save its sound as a file', act: () => sound && downloadUrl(soundFileUrl(sound.id)), disabled: !sound },
      { does: `Store ${padLabel(kit.padIndex)} as a pad preset…`, act: presets.storePad, disabled: !isFilled },
    ]
  })

  /** Opens the menu of a pad, of all selected ones where it is one of them. */
  function openMenu(at: Event | Element | null, index: number): void {
    if (!kit.chosenPads.has(index)) kit.select(index)
    menu.open(at, `Pad ${which.value}`, items.value)
  }

  return { which, items, clear, toggle, findLikes, openMenu }
}
