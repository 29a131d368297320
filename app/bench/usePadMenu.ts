import { computed } from 'vue'
import { clearPads, setPads } from '~~/core/kit/edits'
import { padLabel } from '~~/core/kit/padLabel'
import { soundFileUrl } from '../sound'
import { useClip } from './clip'
import { useKeyChoices } from '../parts/keys/keys'
import { useKit } from './kit'
import { useMenu, type MenuItem } from '../parts/menu'
import { padState, type PadState } from './padStates'
import { downloadUrl } from '../parts/useDownload'
import { counted } from '../parts/useFormat'
import { usePadLikes } from './usePadLikes'
import { usePadPresets } from './usePadPresets'

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

  /** Switches the state of a pad, and of all selected ones where it is one of them, to what it is not. */
  function toggle(key: PadState['key'], index = kit.padIndex): void {
    const isOn = !kit.kit.pads[index]![key]
    const pads = kit.chosenPads.has(index) || index === kit.padIndex ? kit.editedPads : [index]
    const { on, off } = padState(key)
    kit.edit(`${isOn ? on : off} ${pads.length === 1 ? padLabel(pads[0]!) : counted(pads.length, 'pad')}`, now => setPads(now, pads, { [key]: isOn }))
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
      ...([['muted', 'padMute'], ['soloed', 'padSolo'], ['held', 'padHold']] as const).map(([key, command], i) => ({
        does: `${padState(key)[kit.pad[key] ? 'off' : 'on']} ${which.value}`, key: keys.labelOf(command), act: () => toggle(key), divided: i === 0,
      })),
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
