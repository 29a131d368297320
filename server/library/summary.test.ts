import { describe, expect, it } from 'vitest'
import { stem, summaryOf, witnessesOf, type FolderRule, type KnownSound, type PlaceOfSound } from './summary'

const sound = (of: Partial<KnownSound> = {}): KnownSound => ({
  id: 7, audioKind: null, audioConfidence: null, audioEvidence: null, handKind: null, handTags: [], handNote: '', kind: null, kindConfidence: null, kindEvidence: null, tempo: null,
  lengthSeconds: 0.5, flags: [], tagBpm: null, ...of,
})
const place = (path: string, of: Partial<PlaceOfSound> = {}): PlaceOfSound => ({
  soundId: 7, sourceId: 1, source: 'Ferry', path, kind: null, kindConfidence: null, kindEvidence: null, tagKind: null, tagConfidence: null, tagEvidence: null, ...of,
})
const rule = (folder: string, of: Partial<FolderRule> = {}): FolderRule => ({ sourceId: 1, folder, kind: null, tags: [], ...of })

describe('the row of a sound', () => {
  it('is named and placed by the first of its files, and found by the words of all', () => {
    const row = summaryOf(sound({ handTags: ['deck'], handNote: 'by the rail' }), [place('Deck/Bow/Hull_03.wav'), place('Spare/Thud.aif', { sourceId: 2, source: 'Quay' })], [])
    expect(row).toMatchObject({ id: 7, name: 'Hull_03', folder: 'Ferry/Deck/Bow', folders: ['1/Deck/Bow', '2/Spare'], source_ids: [1, 2], file_count: 2, tags: ['deck'] })
    for (const word of ['hull', 'bow', 'quay', 'thud', 'deck', 'rail']) expect(row.words.toLowerCase()).toContain(word)
  })

  it('counts a folder and a source once, however many of its files lie there', () => {
    const row = summaryOf(sound(), [place('A/one.wav'), place('A/two.wav'), place('A/three.wav')], [])
    expect(row).toMatchObject({ folders: ['1/A'], source_ids: [1], file_count: 3 })
  })

  it('is found by the first sixteen of very many files, and its sorting key stays short enough for an index', () => {
    const row = summaryOf(sound(), Array.from({ length: 40 }, (_, i) => place(`${'Long folder '.repeat(100)}/Take number${i}.wav`)), [])
    expect(row.words).toContain('number15')
    expect(row.words).not.toContain('number16')
    expect(row.sort_key!.length).toBeLessThanOrEqual(640)
    expect(row.file_count).toBe(40)
  })

  it('whose files are gone keeps its name and kind: they are left as they stand', () => {
    const row = summaryOf(sound({ kind: 'kick', kindConfidence: 0.9, kindEvidence: 'its name' }), [], [])
    expect(row).toMatchObject({ name: undefined, folder: undefined, sort_key: undefined, kind: 'kick', kind_confidence: 0.9, file_count: 0 })
  })
})

describe('the kind of a sound', () => {
  const named = place('Toms/Boom.wav', { kind: 'tom', kindConfidence: 0.7, kindEvidence: 'folder Toms' })
  const heard = { audioKind: 'kick', audioConfidence: 0.8, audioEvidence: 'by ear' }

  it('is what was set by hand, before a rule, before what witnesses say', () => {
    const rules = [rule('Toms', { kind: 'hand' })]
    expect(summaryOf(sound({ ...heard, handKind: 'wood' }), [named], rules)).toMatchObject({ kind: 'wood', kind_confidence: 1, kind_evidence: 'your own word' })
    expect(summaryOf(sound(heard), [named], rules)).toMatchObject({ kind: 'hand', kind_confidence: 1, kind_evidence: 'your rule for the folder "Toms"' })
    expect(summaryOf(sound(heard), [named], []).kind).toBe('tom')
    expect(summaryOf(sound(heard), [place('x/013.wav')], []).kind).toBe('kick')
  })

  it('follows the rule of the nearest folder; tags of all that hold are joined', () => {
    const rules = [rule('', { kind: 'metal', tags: ['night'] }), rule('Toms', { kind: 'tom', tags: ['low'] }), rule('Toms/Floor', { tags: ['floor', 'low'] })]
    const row = summaryOf(sound({ handTags: ['mine'] }), [place('Toms/Floor/Boom.wav')], rules)
    expect(row).toMatchObject({ kind: 'tom', tags: ['mine', 'floor', 'low', 'night'] })
    expect(summaryOf(sound(), [place('Other/Boom.wav')], rules)).toMatchObject({ kind: 'metal', kind_evidence: 'your rule for the whole source', tags: ['night'] })
  })

  it('does not follow rules of other sources, nor of a folder whose name only begins alike', () => {
    const rules = [rule('Toms', { kind: 'tom' }), rule('Deck', { sourceId: 2, kind: 'metal' })]
    expect(summaryOf(sound(heard), [place('Toms 2/a.wav'), place('Deck/b.wav')], rules).kind).toBe('kick')
  })
})

describe('the tempo of a sound', () => {
  const loop = { lengthSeconds: 4, flags: ['several-hits', 'loop'] as const, audioKind: 'loop', audioConfidence: 0.9, audioEvidence: '12 hits' }

  it('is read from the names of its files, in bare numbers for loops alone: by ear, by name, or by hand', () => {
    const numbered = place('Deck 120.wav')
    expect(summaryOf(sound(loop), [place('013.wav'), numbered], []).tempo).toBe(120)
    expect(summaryOf(sound(loop), [place('Bongo 120.wav', { kind: 'hand.bongo', kindConfidence: 0.9, kindEvidence: 'Bongo' })], [])).toMatchObject({ tempo: 120, kind: 'loop' })
    expect(summaryOf(sound({ lengthSeconds: 4 }), [numbered], []).tempo).toBeUndefined()
    expect(summaryOf(sound({ lengthSeconds: 4, handKind: 'loop' }), [numbered], []).tempo).toBe(120)
    expect(summaryOf(sound({ lengthSeconds: 4 }), [place('Deck 120.wav', { kind: 'loop', kindConfidence: 0.9, kindEvidence: 'Deck' })], []).tempo).toBe(120)
  })

  it('is that of its tags where they state one, and stays where its files are gone', () => {
    expect(summaryOf(sound({ ...loop, tagBpm: 118 }), [place('Deck 120.wav')], []).tempo).toBe(118)
    expect(summaryOf(sound({ ...loop, tempo: 118 }), [], []).tempo).toBe(118)
    expect(summaryOf(sound({ ...loop, tempo: 118 }), [place('Deck.wav')], []).tempo).toBeUndefined()
  })
})

describe('witnesses', () => {
  it('are kept apart; of several files the surest speaks', () => {
    const witnesses = witnessesOf(sound({ audioKind: 'clap', audioConfidence: 0.5, audioEvidence: 'by ear' }), [
      place('a.wav', { kind: 'tom', kindConfidence: 0.4, kindEvidence: 'a' }),
      place('b.wav', { kind: 'kick', kindConfidence: 0.9, kindEvidence: 'b', tagKind: 'snare', tagConfidence: 0.6, tagEvidence: 'title' }),
      place('c.wav'),
    ])
    expect(witnesses).toEqual({
      file: { path: 'snare', confidence: 0.6, evidence: 'title' },
      name: { path: 'kick', confidence: 0.9, evidence: 'b' },
      audio: { path: 'clap', confidence: 0.5, evidence: 'by ear' },
    })
    expect(witnessesOf(sound(), [])).toEqual({ file: null, name: null, audio: null })
  })
})

describe('the name of a file', () => {
  it('goes without folders and ending, but keeps what only looks like one', () => {
    expect(['a/b/Kick.wav', 'Kick.v2.wav', '.hidden', 'plain', 'x/.wav'].map(stem)).toEqual(['Kick', 'Kick.v2', '.hidden', 'plain', '.wav'])
  })
})
