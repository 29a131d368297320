import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { emptyKit, type Kit } from './document'
import { placeSounds, setPads } from './edits'
import { silencingOf, silencingWords, unsilenced } from './silencing'

const four: Kit = placeSounds(emptyKit('Night deck'), 0, [1, 2, 3, 4].map(testSound)).kit
const words = (kit: Kit) => silencingWords(kit, silencingOf(kit)!)

describe('what mutes and solos leave unheard', () => {
  it('is nothing where all is heard, and where no filled pad is concerned', () => {
    expect(silencingOf(four)).toBeUndefined()
    expect(silencingOf(setPads(four, [9], { muted: true }))).toBeUndefined()
    expect(silencingOf(setPads(four, [0, 1, 2, 3], { soloed: true }))).toBeUndefined()
  })

  it('names the pads, and by whom', () => {
    expect(words(setPads(four, [1], { muted: true }))).toEqual(['A2 Sound 2 is muted.'])
    expect(words(setPads(four, [0, 1], { muted: true }))).toEqual(['A1 Sound 1 and A2 Sound 2 are muted.'])
    expect(words(setPads(setPads(four, [1], { muted: true }), [2], { soloed: true }))).toEqual(['A2 Sound 2 is muted.', 'A1 Sound 1 and A4 Sound 4 are silent because A3 Sound 3 is soloed.'])
    // A solo on an empty pad silences all.
    expect(words(setPads(four, [8], { soloed: true }))).toEqual(['A1 Sound 1, A2 Sound 2, A3 Sound 3 and A4 Sound 4 are silent because A9 is soloed.'])
  })

  it('is taken away whole, and touches nothing else', () => {
    const silent = setPads(setPads(four, [1], { muted: true }), [2], { soloed: true })
    expect(unsilenced(silent)).toEqual(four)
    expect(unsilenced(silent).pads[0]).toBe(silent.pads[0])
  })
})
