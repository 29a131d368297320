import { vaultRoutes } from '~~/contract/vault'
import { copyPads, pastePads } from '~~/core/kit/clips'
import { emptyKit, type Kit } from '~~/core/kit/document'
import { padLabel } from '~~/core/kit/padLabel'
import { useKit } from './kit'
import { pastedText } from './sideKit'
import { useVault } from '../vault'
import { api } from '../parts/useApi'
import { askName } from '../parts/useAskName'
import { say, saying } from '../parts/useSay'
import { NO_SOUND_ON_PAD } from '~~/core/kit/words'

/** Single pads that are stored with their samples and put onto any pad. */
export function usePadPresets() {
  const kit = useKit()
  const vault = useVault()

  /** Asks for a name and stores the current pad. */
  async function storePad(): Promise<void> {
    const { pad, padIndex } = kit
    if (pad.layers.length === 0) return say(NO_SOUND_ON_PAD)
    const name = await askName({ title: `Store pad ${padLabel(padIndex)}`, text: 'It is kept in the vault with its own copies of its samples, and can be put onto any pad.', value: pad.name, does: 'Store this pad', of: 'preset' })
    if (!name) return
    const { pads: [copied], outputs } = copyPads(kit.kit, [padIndex])
    const base = emptyKit(name)
    const alone: Kit = { ...base, outputs: [...outputs], pads: base.pads.with(0, { ...copied!, note: base.pads[0]!.note, soloed: false, muted: false }).map((one, i) => i === 0 ? one : { ...one, output: outputs[0]!.id }) }
    const stored = await saying(() => vault.storeAs('pad', name, alone))
    if (stored) say(`"${stored.name}" is stored as a pad preset.`)
  }

  /** Puts a stored pad onto the current pad. */
  async function load(presetId: string): Promise<void> {
    const { padIndex } = kit
    await saying(async () => {
      const { name, revision } = await kit.stillAtHand(api(vaultRoutes.read, { params: { id: presetId } }))
      if (!revision.file) throw new Error(revision.problem ?? `"${name}" cannot be read.`)
      const stored = revision.file.kit
      const at = stored.pads.findIndex(pad => pad.layers.length > 0)
      const pasted = pastePads(kit.kit, padIndex, copyPads(stored, [Math.max(0, at)]), false)
      if (kit.edit(`Put "${name}" on ${padLabel(padIndex)}`, () => pasted.kit)) say(pastedText(pasted, name))
    })
  }

  return { storePad, load }
}
