import { EmporionError } from '~~/core/errors'
import { padLabel } from '~~/core/kit/padLabel'
import { MOST_LAYERS, MOST_PADS } from '~~/core/kit/document'
import type { SoundCondition } from '~~/core/search/query/tree'
import { useCompare } from './compare'
import { useKit, usePlacing } from '../bench'
import { useLibrary } from './library'
import { usePlayer } from '../sound'
import { useSaved } from './saved'
import { addedWords, MOST_ON_TRAY, useTray } from '../tray'
import { useTryOut } from '../grooves'
import { askName } from '../parts/useAskName'
import { counted, whole } from '../parts/useFormat'
import { useMarks } from './useMarks'
import { say, saying } from '../parts/useSay'

/** More than this no kit holds. */
const MOST_TOGETHER = MOST_PADS * MOST_LAYERS

/** What can be done with the chosen sounds of the list, or with the one at the cursor. */
export function useSoundActions() {
  const library = useLibrary()
  const player = usePlayer()
  const tray = useTray()
  const kit = useKit()
  const compare = useCompare()
  const tryOut = useTryOut()
  const saved = useSaved()
  const placing = usePlacing()
  const marks = useMarks()

  async function toTray(): Promise<void> {
    await saying(async () => {
      if (library.chosenCount > MOST_ON_TRAY) throw new EmporionError('limit', { what: `${counted(library.chosenCount, 'sound')} are chosen; the tray takes ${whole(MOST_ON_TRAY)} at a time.`, kept: 'The tray is as it was.', next: 'Narrow the search or choose fewer.' })
      const rows = await library.fetchChosen()
      const added = await tray.add(rows)
      if (rows.length > 0) say(addedWords(added))
    })
  }

  async function putOnPad(): Promise<void> {
    const rows = await saying(() => library.fetchChosen(MOST_TOGETHER)) ?? []
    if (rows.length === 0) return
    await kit.opened()
    const last = kit.padIndex
    if (rows.length > 1) return placing.send(last, rows)
    if (kit.place(last, rows)) {
      say(`"${rows[0]!.name}" put on pad ${padLabel(last)}.`)
      kit.select(last + 1)
    }
  }

  async function placeInSomeWay(): Promise<void> {
    if (library.chosenCount > MOST_TOGETHER) say(`${whole(library.chosenCount)} sounds are chosen; the first ${whole(MOST_TOGETHER)} are taken, as many as a kit holds.`)
    placing.open(await saying(() => library.fetchChosen(MOST_TOGETHER)) ?? [])
  }

  /** Keeps the candidate of the try-out, or puts what is chosen on the tray. */
  function keepOrTray(): void {
    if (!tryOut.isOn) return void toTray()
    const { candidate, padIndex } = tryOut
    if (tryOut.keep()) say(`"${candidate?.sound.name}" is kept on pad ${padLabel(padIndex)}.`)
  }

  /** Makes the chosen ones favourites; where the one at the cursor is, none of them. */
  async function toggleFavourite(): Promise<void> {
    const ids = await saying(() => library.fetchChosenIds()) ?? []
    if (ids.length > 0) await marks.set(ids, { favourite: !library.atCursor?.favourite })
  }

  /** Sets the chosen ones aside, or takes that back where they are. */
  async function toggleAside(): Promise<void> {
    const ids = await saying(() => library.fetchChosenIds()) ?? []
    if (ids.length > 0) await marks.set(ids, { aside: !library.atCursor?.setAside })
  }

  async function mark(): Promise<void> {
    await saying(async () => compare.mark(await library.fetchChosen(9)))
  }

  function openCompare(): void {
    if (compare.rows.length < 2) return say('Mark two to eight sounds first, each with its own key.')
    player.stop()
    compare.isOpen = true
  }

  function findLike(field: SoundCondition): void {
    const row = library.atCursor
    if (row) library.setCondition(field, `${field}=${row.id}`)
  }

  function startTryOut(): void {
    if (tryOut.isOn) return tryOut.end()
    tryOut.begin(library.atCursor)
  }

  async function keepSearch(): Promise<void> {
    const name = await askName({ title: 'Save this search', text: 'Saved with its scope and sorting; offered in the empty search line.', value: library.search.q, does: 'Save', of: 'search' })
    if (name && await saying(async () => (await saved.save(name), true))) say(`The search "${name}" was saved.`)
  }

  return { toTray, putOnPad, placeInSomeWay, keepOrTray, toggleFavourite, toggleAside, mark, openCompare, findLike, startTryOut, keepSearch }
}
