import { beforeEach, describe, expect, it, vi } from 'vitest'
import { applyDifference } from '~~/core/document/difference'
import { EmporionError } from '~~/core/errors'
import type { StudioEvent } from '~~/contract/events'
import { useDocument, type SentEdit, type StoredDocument } from './useDocument'

let tell: (event: StudioEvent) => void = () => undefined
let comeBack: () => void = () => undefined
vi.mock('../useServerEvents', () => ({ onServerEvent: (listener: typeof tell) => tell = listener, onReconnected: (listener: typeof comeBack) => comeBack = listener, tabId: 'own' }))
vi.mock('../useSay', () => ({ sayError: () => undefined }))
vi.mock('../useApi', () => ({ toEmporionError: (thrown: unknown) => thrown }))

interface Note {
  readonly name: string
  readonly lines: readonly string[]
}

/** A server with notes, and a page that has one open. */
function opened() {
  const notes = new Map<string, StoredDocument<Note>>([['a', { id: 'a', state: { name: 'A', lines: ['one'] }, revision: 1, savedAt: '2026-01-01T00:00:00Z' }]])
  const sent: SentEdit[] = []
  const conflicts: (readonly [Note, string])[] = []
  const edited: Note[] = []
  const saves = { isAllowed: true }
  const document = useDocument<Note>({
    empty: { name: 'None', lines: [] },
    shelf: { prefix: 'note:', textOf: note => JSON.stringify(note) },
    send: async (id, edit) => {
      const known = notes.get(id)
      if (!known) throw new EmporionError('not-found', 'It is gone.')
      if (known.revision !== edit.baseRevision) throw new EmporionError('conflict', 'Changed elsewhere.')
      sent.push(edit)
      notes.set(id, { ...known, state: applyDifference(known.state, edit.difference), revision: known.revision + 1 })
      return { revision: known.revision + 1 }
    },
    fetch: async id => notes.get(id),
    changeIn: event => event.type === 'pattern' ? { ...event, id: event.patternId } : undefined,
    onConflict: async (state, elsewhere) => void conflicts.push([state, elsewhere]),
    onEdited: (state) => {
      edited.push(state)
      return saves.isAllowed
    },
  })
  document.take(notes.get('a')!)
  const change = (id: string, state: Note) => notes.set(id, { ...notes.get(id)!, state, revision: notes.get(id)!.revision + 1 })
  return { notes, sent, conflicts, edited, saves, document, change }
}

const rest = () => new Promise(resolve => setTimeout(resolve, 60))
const changed = (revision: number, from: string): StudioEvent => ({ type: 'pattern', patternId: 'a', revision, from })

beforeEach(() => {
  vi.stubGlobal('window', new EventTarget())
})

describe('a document that is open', () => {
  it('is saved by what changed of it, several edits in one go', async () => {
    const { document, notes, sent } = opened()
    document.edit({ ...document.present.value, name: 'B' }, 'Rename')
    document.edit({ ...document.present.value, lines: ['one', 'two'] }, 'Add a line')
    await document.settled()
    expect(sent).toEqual([{ difference: [{ at: ['name'], was: 'A', is: 'B' }, { at: ['lines'], from: 1, was: [], is: ['two'] }], baseRevision: 1, from: 'own' }])
    expect(notes.get('a')).toMatchObject({ state: { name: 'B', lines: ['one', 'two'] }, revision: 2 })
    expect(document.saveState.value).toBe('saved')
  })

  it('goes back and forth by steps; those of one gesture are one, and each is saved', async () => {
    const { document, notes, edited } = opened()
    for (const name of ['B', 'C', 'D']) document.edit({ ...document.present.value, name }, 'Rename', 'name')
    document.edit({ ...document.present.value, lines: [] }, 'Empty it')
    expect(document.steps.value.map(step => step.label)).toEqual(['Start', 'Rename', 'Empty it'])
    document.undo()
    document.undo()
    expect([document.present.value.name, document.canUndo.value, document.canRedo.value]).toEqual(['A', undefined, 'Rename'])
    document.stepTo(2)
    document.redo()
    await document.settled()
    expect(notes.get('a')!.state).toEqual({ name: 'D', lines: [] })
    expect(edited).toHaveLength(7)
  })

  it('takes back a gesture that is broken off, and nothing that was before it', async () => {
    const { document } = opened()
    document.edit({ ...document.present.value, name: 'B' }, 'Rename')
    for (const lines of [['x'], ['y']]) document.edit({ ...document.present.value, lines }, 'Draw', 'pointer 1')
    document.takeBack('pointer 2')
    expect(document.present.value.lines).toEqual(['y'])
    document.takeBack('pointer 1')
    expect([document.present.value, document.canUndo.value, document.canRedo.value]).toEqual([{ name: 'B', lines: ['one'] }, 'Rename', undefined])
    document.takeBack('pointer 1')
    expect(document.present.value.name).toBe('B')
  })

  it('shows what another tab saved, as a step, and nothing of what it saved itself', async () => {
    const { document, change } = opened()
    change('a', { name: 'Elsewhere', lines: [] })
    tell(changed(2, 'own'))
    tell({ type: 'kits' })
    await rest()
    expect(document.present.value.name).toBe('A')
    tell(changed(2, 'other'))
    await rest()
    expect(document.present.value.name).toBe('Elsewhere')
    expect(document.canUndo.value).toBe('Edit in another tab')
    document.edit({ ...document.present.value, name: 'Both' }, 'Rename')
    await document.settled()
    expect(document.saveState.value).toBe('saved')
  })

  it('looks for what it missed when the server is back', async () => {
    const { document, change } = opened()
    change('a', { name: 'Meanwhile', lines: [] })
    comeBack()
    await rest()
    expect(document.present.value.name).toBe('Meanwhile')
  })

  it('that was changed or deleted elsewhere while it was edited here is handed over to be kept', async () => {
    const { document, change, conflicts, notes } = opened()
    change('a', { name: 'Elsewhere', lines: [] })
    document.edit({ ...document.present.value, name: 'Mine' }, 'Rename')
    tell(changed(2, 'other'))
    await rest()
    expect(document.present.value.name).toBe('Mine')
    expect(conflicts).toEqual([[{ name: 'Mine', lines: ['one'] }, 'changed']])
    notes.delete('a')
    document.edit({ ...document.present.value, name: 'Still mine' }, 'Rename')
    await rest()
    expect(conflicts[1]).toEqual([{ name: 'Still mine', lines: ['one'] }, 'deleted'])
  })

  it('is not saved where its edits are to become those of another, and goes on as that', async () => {
    const { document, saves, sent, notes } = opened()
    saves.isAllowed = false
    const before = document.present.value
    document.edit({ ...before, name: 'Own' }, 'Rename')
    await rest()
    expect(sent).toEqual([])
    notes.set('b', { id: 'b', state: before, revision: 1, savedAt: '2026-01-01T00:00:00Z' })
    await document.moveTo(notes.get('b')!)
    expect([notes.get('b')!.state.name, notes.get('a')!.state.name, document.id.value]).toEqual(['Own', 'A', 'b'])
  })

  it('tells of a newer Emporion\'s document which version wrote it', () => {
    const { document, notes } = opened()
    document.take({ ...notes.get('a')!, writtenBy: 9 })
    expect(document.writtenBy.value).toBe(9)
    document.take(notes.get('a')!)
    expect(document.writtenBy.value).toBeNull()
  })
})
