import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { addArticulation, changeArticulation, moveController, removeArticulation, setArticulation, setGroupVoices } from './articulationEdits'
import { emptyKit, kitSchema } from './document'
import { placeSounds, setPads } from './edits'
import { addLayer, setAlternate } from './layerEdits'

const kit = placeSounds(emptyKit('K'), 0, [testSound(1)]).kit

describe('articulations of a kit', () => {
  it('are added with free names, changed, and taken away with all that refers to them', () => {
    const two = setArticulation(addArticulation(addArticulation(kit, 24), 25), 'articulation-2')
    expect(two.articulations.map(({ name, key }) => [name, key])).toEqual([['Articulation 1', 24], ['Articulation 2', 25]])
    const named = setPads(changeArticulation(two, 'articulation-2', { name: 'Brushes', whileHeld: true }), [0], { articulation: 'articulation-2' })
    expect(kitSchema.parse(named)).toEqual(named)
    const gone = removeArticulation(named, 'articulation-2')
    expect([gone.articulation, gone.pads[0]!.articulation, gone.articulations.length]).toEqual([null, null, 1])
    expect(kitSchema.parse(gone)).toEqual(gone)
    expect(addArticulation(removeArticulation(two, 'articulation-1'), null).articulations.map(({ name }) => name)).toEqual(['Articulation 2', 'Articulation 1'])
  })

  it('a controller moves what listens to it, and nothing else', () => {
    const layered = addLayer(kit, 0, testSound(2).sound)
    const listening = setPads(setAlternate(layered, 0, 0), [0], { alternateController: 4 })
    expect(moveController(listening, 4, 100).pads[0]!.alternate).toBe(100)
    expect(moveController(listening, 5, 100)).toBe(listening)
    const chosen = { ...addArticulation(addArticulation(kit, 24), 25), articulationController: 1 }
    expect([0, 63, 64, 127].map(value => moveController(chosen, 1, value).articulation)).toEqual(['articulation-1', 'articulation-1', 'articulation-2', 'articulation-2'])
  })

  it('groups have voices of their own, or none', () => {
    const limited = setGroupVoices(setGroupVoices(kit, 3, 2), 1, 900)
    expect(limited.groupPolyphony).toEqual([{ group: 1, voices: 256 }, { group: 3, voices: 2 }])
    expect(setGroupVoices(limited, 1, null).groupPolyphony).toEqual([{ group: 3, voices: 2 }])
  })
})
