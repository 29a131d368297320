import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { FEATURES } from '../../audio/analysis/features'
import { fold, searchText } from '../tokens'
import { naturalKey } from '../naturalKey'
import { parseQuery } from '../query/parse'
import { Bits } from './bits'
import { Catalogue } from './catalogue'
import { Found, type Scope } from './find'
import { countFolders } from './folders'
import { orderedBy, SORTS } from './order'
import type { CatalogueRow } from './row'
import { Vectors } from './vectors'

const NOW = Date.parse('2026-11-24T12:00:00Z')
const context = { nowMs: NOW, relatedTo: () => [] }

function row(id: number, path: string, more: Partial<CatalogueRow> = {}): CatalogueRow {
  const folders = path.split('/').slice(0, -1).join('/')
  return {
    id, isListed: true, sortKey: naturalKey(path.split('/').at(-1)!), words: searchText(`Ferry/${path}`), folders: [folders ? `1/${folders}` : '1'],
    kind: null, tags: [], lengthSeconds: 0.5, effectiveSeconds: 0.4, hitLufs: -20, truePeakDb: -3, brightness: 50, pitchNote: null, tempo: null,
    sampleRate: 44_100, bitDepth: 16, channels: 1, flags: [], favourite: false, aside: false, isDamaged: false, isMeasured: true, fileCount: 1, addedSeconds: NOW / 1000 - 86_400 * id, ...more,
  }
}

function catalogueOf(rows: readonly CatalogueRow[]): Catalogue {
  const catalogue = new Catalogue()
  catalogue.setSources(new Map([[1, 'Ferry'], [2, 'Harbour']]))
  catalogue.apply(rows)
  return catalogue
}

function find(catalogue: Catalogue, text: string, scope: Scope = {}): Found {
  const read = parseQuery(text)
  expect(read.problems).toEqual([])
  return new Found(catalogue, read, scope, context)
}

const idsOf = (catalogue: Catalogue, text: string, scope?: Scope) => [...find(catalogue, text, scope).inOrder(catalogue.byName)].map(slot => catalogue.columns.ids[slot])

const SOUNDS = [
  row(1, 'Kicks/Deep Kick 01.wav', { kind: 'kick', brightness: 20, tags: ['dry'], favourite: true }),
  row(2, 'Kicks/Deep Kick 10.wav', { kind: 'kick', brightness: 30, flags: ['clipped'], effectiveSeconds: 0.9 }),
  row(3, 'Kicks/Deep Kick 2.wav', { kind: 'kick', aside: true }),
  row(4, 'unsorted/013.wav', { kind: 'kick', tags: ['dry', 'late night'] }),
  row(5, 'Hats/OpenHat.wav', { kind: 'hat.open', brightness: 90, pitchNote: 61.2 }),
  row(6, 'Hats/CHH tight.wav', { kind: 'hat.closed', brightness: 95 }),
  row(7, 'Loops/Kick loop.wav', { kind: 'loop', lengthSeconds: 4, effectiveSeconds: 4, flags: ['loop'], tempo: 92.5 }),
  row(8, 'Kicks/gone.wav', { isListed: false, kind: 'kick' }),
]

describe('a search', () => {
  const catalogue = catalogueOf(SOUNDS)

  it('finds words where words begin so, in the order that people count', () => {
    expect(idsOf(catalogue, 'deep')).toEqual([1, 2])
    expect(idsOf(catalogue, 'kick 10')).toEqual([2])
  })

  it('finds what a word means below what is called so, marked as such', () => {
    const found = find(catalogue, 'kick')
    expect([...found.inOrder(catalogue.byName)].map(slot => [catalogue.columns.ids[slot], found.foundBy(slot)])).toEqual([[1, 'words'], [2, 'words'], [7, 'words'], [4, 'kind']])
    expect(idsOf(catalogue, 'bd')).toEqual([4, 1, 2])
    expect(idsOf(catalogue, 'open hat')).toEqual([5])
    expect(idsOf(catalogue, 'closed hat')).toEqual([6])
  })

  it('finds what is spelled nearly so, and parts of words, below all others', () => {
    expect(idsOf(catalogue, 'deap')).toEqual([1, 2])
    expect(find(catalogue, 'deap').counts).toEqual({ words: 0, kind: 0, near: 2 })
    expect(idsOf(catalogue, 'ight')).toEqual([6])
    expect(idsOf(catalogue, 'zzzz')).toEqual([])
  })

  it('leaves out what is not wanted, by the words alone', () => {
    expect(idsOf(catalogue, 'kind=kick -deep')).toEqual([4])
    expect(idsOf(catalogue, 'kick -in=loops')).toEqual([1, 2, 4])
  })

  it.each([
    ['"deep kick"', [1, 2]], ['"kick deep"', []], ['kind=hat', [6, 5]], ['tag=dry', [4, 1]], ['tag="late night"', [4]], ['in=hats', [6, 5]], ['in=ferry/hats', [6, 5]], ['in=hat', [6, 5]], ['in=ats', []], ['pack=ferry', [4, 6, 1, 2, 7, 5]], ['pack=kick', []], ['source=fer is=favourite', [1]],
    ['source=ferry is=favourite', [1]], ['sounds>0.5', [2, 7]], ['bright<=20', [1]], ['note=C#3', [5]], ['pitch=270..290', [5]],
    ['is=clipped', [2]], ['is=aside', [3]], ['since=3d', [1, 2]], ['kind=kick or kind=loop', [4, 1, 2, 7]], ['-is=loop kick -is=clipped', [1, 4]], ['is=used', []],
  ])('%s', (text, ids) => {
    expect(idsOf(catalogue, text)).toEqual(ids)
  })

  it('finds folders by words of their names, and a pack that is called so before others that hold the word', () => {
    const folders = catalogueOf([row(1, 'Deck/01 Kicks - Hard/a.wav'), row(2, 'Deck tapes/RackToms/b.wav'), row(3, 'Deck/Drum Loops/c.wav'), row(4, 'Kick rolls/d.wav')])
    expect(idsOf(folders, 'in=kicks')).toEqual([1])
    expect(idsOf(folders, 'in="kicks hard"')).toEqual([1])
    expect(idsOf(folders, 'in="hard kicks"')).toEqual([])
    expect(idsOf(folders, 'in="deck/kick"')).toEqual([1])
    expect(idsOf(folders, 'in="rack tom"')).toEqual([2])
    expect(idsOf(folders, 'in=racktoms')).toEqual([2])
    expect(idsOf(folders, '-in=loops')).toEqual([1, 2, 4])
    expect(idsOf(folders, 'in="deck/tapes"')).toEqual([])
    expect(idsOf(folders, 'in="--"')).toEqual([])
    expect(idsOf(folders, 'pack=deck')).toEqual([1, 3])
    expect(idsOf(folders, 'pack=tapes')).toEqual([2])
  })

  it('counts the sounds below each folder, a copy in two of them in both, and knows where there are more', () => {
    const tree = catalogueOf([row(1, 'Deck/Kicks/a.wav'), row(2, 'Deck/Kicks/Hard/b.wav'), row(3, 'Deckhouse/c.wav'), row(4, 'd.wav'), row(5, 'Deck/e.wav', { folders: ['1/Deck', '1/Deck/Kicks', '2/Quay'] })])
    const all = find(tree, '').inOrder(tree.byName)
    const under = (path: string) => countFolders(tree, all, { sourceId: 1, path }).toSorted((a, b) => a.path < b.path ? -1 : 1)
    expect(countFolders(tree, all, undefined).toSorted((a, b) => a.sourceId - b.sourceId)).toEqual([{ sourceId: 1, path: '', count: 5, hasMore: true }, { sourceId: 2, path: '', count: 1, hasMore: true }])
    expect(under('')).toEqual([{ sourceId: 1, path: 'Deck', count: 3, hasMore: true }, { sourceId: 1, path: 'Deckhouse', count: 1, hasMore: false }])
    expect(under('Deck')).toEqual([{ sourceId: 1, path: 'Deck/Kicks', count: 3, hasMore: true }])
    expect(under('Deck/Kicks')).toEqual([{ sourceId: 1, path: 'Deck/Kicks/Hard', count: 1, hasMore: false }])
    expect(under('Deck/Kicks/Hard')).toEqual([])
  })

  it('takes a source for a pack where at least half of its folders are called after what lies in them', () => {
    const ferry = [row(1, 'Kicks/a.wav'), row(2, '02 Closed Hats/b.wav'), row(3, 'One Shots/Tin/c.wav'), row(4, 'Gangway/d.wav')]
    const harbour = [row(5, 'Gangway/e.wav', { folders: ['2/Gangway'] }), row(6, 'Boiler room/f.wav', { folders: ['2/Boiler room'] }), row(7, 'Kicks/g.wav', { folders: ['2/Kicks'] })]
    const { names, ofFolder } = catalogueOf([...ferry, ...harbour]).packNumbers
    expect([...ofFolder].map(number => names[number])).toEqual(['Ferry', 'Ferry', 'Ferry', 'Ferry', 'Gangway', 'Boiler room', 'Kicks'])
  })

  it('counts what it hides', () => {
    const found = find(catalogue, 'kick bright<=30', { sourceId: 1, folder: 'Kicks' })
    expect(idsOf(catalogue, 'kick bright<=30', { sourceId: 1, folder: 'Kicks' })).toEqual([1, 2])
    // Left out: 3 by brightness and set aside, 4 and 7 by place and brightness.
    expect(found.hidden()).toEqual({ aside: 0, elsewhere: 0, byPart: [0, 0] })
    expect(find(catalogue, 'deep').hidden()).toMatchObject({ aside: 1 })
    expect(find(catalogue, 'kick', { sourceId: 1, folder: 'Kicks' }).hidden()).toMatchObject({ elsewhere: 2 })
    expect(find(catalogue, 'kick sounds<0.5 -is=loop').hidden().byPart).toEqual([0, 1, 0])
  })

  it('a scope holds its folder and what lies below, and nothing that only begins so', () => {
    const nested = catalogueOf([row(1, 'a/b/x.wav'), row(2, 'a/bc/x.wav'), row(3, 'a/b/c/x.wav'), row(4, 'x.wav', { folders: ['2', '1/a/b'] })])
    expect(idsOf(nested, '', { sourceId: 1, folder: 'a/b' })).toEqual([1, 3, 4])
    expect(idsOf(nested, '', { sourceId: 2 })).toEqual([4])
  })

  it('facets count what else could be chosen in them', () => {
    const facets = find(catalogue, 'kind=kick bright<=30').facets()
    expect(facets.kinds).toEqual([{ name: 'kick', count: 2 }])
    expect(find(catalogue, 'kind=kick').facets().kinds).toEqual([
      { name: 'kick', count: 3 }, { name: 'hat.closed', count: 1 }, { name: 'hat.open', count: 1 }, { name: 'loop', count: 1 }])
    expect(find(catalogue, 'tag=dry').facets().tags).toEqual([{ name: 'dry', count: 2 }, { name: 'late night', count: 1 }])
    const all = find(catalogue, '').facets()
    expect(all.grid.flat().reduce((sum, count) => sum + count, 0)).toBe(6)
    expect(all.bars.sounds.counts.reduce((sum, count) => sum + count, 0)).toBe(6)
    expect(all.bars.note.counts.reduce((sum, count) => sum + count, 0)).toBe(1)
    expect(all.states).toContainEqual({ name: 'clipped', count: 1 })
    expect(all.packs).toContainEqual({ name: 'Ferry', count: 6 })
  })
})

describe('rows that change', () => {
  it('are found by what they say now and no longer by what they said', () => {
    const catalogue = catalogueOf(SOUNDS)
    catalogue.apply([row(4, 'unsorted/Anchor.wav', { kind: 'snare' })])
    expect(idsOf(catalogue, '013')).toEqual([])
    expect(idsOf(catalogue, 'anchor')).toEqual([4])
    expect(idsOf(catalogue, '').at(0)).toBe(4)
  })

  it('leave the same catalogue whichever way they came', () => {
    const path = fc.tuple(fc.constantFrom('a', 'b', 'a/c'), fc.constantFrom('Kick', 'Snare', 'deep kick', 'Tom'), fc.nat(20)).map(([folder, name, n]) => `${folder}/${name} ${n}.wav`)
    const change = fc.record({ id: fc.integer({ min: 1, max: 12 }), path, isListed: fc.boolean(), tags: fc.subarray(['dry', 'wet']) })
    fc.assert(fc.property(fc.array(change, { maxLength: 40 }), fc.integer({ min: 1, max: 5 }), (changes, step) => {
      const rows = changes.map(({ id, path: at, ...more }) => row(id, at, more))
      const piecemeal = new Catalogue()
      piecemeal.setSources(new Map([[1, 'Ferry']]))
      for (let i = 0; i < rows.length; i += step) piecemeal.apply([...new Map(rows.slice(i, i + step).map(one => [one.id, one])).values()])
      const atOnce = catalogueOf([...new Map(rows.map(one => [one.id, one])).values()])
      for (const text of ['', 'kick', 'deep', 'tag=dry', 'in=c', '-kick', 'sna', 'kik']) expect(idsOf(piecemeal, text)).toEqual(idsOf(atOnce, text))
    }))
  })

  it('are the same in a catalogue that was written down and taken up again, and go on changing there', () => {
    const catalogue = catalogueOf([...SOUNDS, row(9, 'a/x.wav', { folders: ['1/a', '2/b'], tags: ['dry'] })])
    const taken = new Catalogue()
    taken.restore(structuredClone(catalogue.save()))
    taken.setSources(catalogue.sourceNames)
    for (const text of ['', 'kick', 'deep', 'tag=dry', 'in=b', 'bright>50', 'deap', 'is=clipped', 'pack=ferry']) expect(idsOf(taken, text)).toEqual(idsOf(catalogue, text))
    expect(find(taken, '').facets()).toEqual(find(catalogue, '').facets())
    for (const one of [taken, catalogue]) one.apply([row(1, 'Kicks/Renamed.wav', { kind: 'rim' }), ...Array.from({ length: 1200 }, (_, i) => row(100 + i, `New/Fresh ${i}.wav`))])
    for (const text of ['', 'renamed', 'deep', 'fresh 11', 'kind=rim']) expect(idsOf(taken, text)).toEqual(idsOf(catalogue, text))
  })

  it('agree with a plain filter of names, written separately', () => {
    const names = Array.from({ length: 400 }, (_, i) => `${['Kick', 'Snare', 'Tom', 'Zither'][i % 4]} ${['dark', 'bright', 'Dry'][i % 3]} ${i}`)
    const catalogue = catalogueOf(names.map((name, i) => row(i + 1, `${name}.wav`)))
    for (const words of [['zither'], ['zi', 'dark'], ['dry', '1'], ['39']]) {
      const wanted = names.flatMap((name, i) => words.every(word => ['ferry', 'wav', ...fold(name).split(' ')].some(part => part.startsWith(word))) ? [i + 1] : [])
      const found = find(catalogue, words.join(' '))
      expect([...found.inOrder(catalogue.byName)].slice(0, found.counts.words).map(slot => catalogue.columns.ids[slot]!).sort((a, b) => a - b)).toEqual(wanted)
    }
  })
})

describe('an order', () => {
  const figure = fc.option(fc.float({ noNaN: true, min: -100, max: 100 }), { nil: null })

  it('is that of the figure, then of the name; what is not known comes last either way', () => {
    fc.assert(fc.property(fc.array(figure, { minLength: 1, maxLength: 60 }), fc.boolean(), (values, isDescending) => {
      const catalogue = catalogueOf(values.map((hitLufs, i) => row(i + 1, `s ${i}.wav`, { hitLufs })))
      const sorted = [...orderedBy(catalogue, 'loudness', isDescending)].map(slot => values[slot]!)
      const known = sorted.filter(value => value !== null)
      expect(sorted.slice(0, known.length)).toEqual(known)
      expect(known).toEqual([...known].sort((a, b) => isDescending ? b - a : a - b))
    }))
  })

  it('holds every sound once, by whatever it is', () => {
    const catalogue = catalogueOf(SOUNDS)
    for (const by of SORTS) {
      for (const isDescending of [false, true]) expect([...orderedBy(catalogue, by, isDescending)].sort((a, b) => a - b)).toEqual([0, 1, 2, 3, 4, 5, 6, 7])
    }
    expect([...orderedBy(catalogue, 'added', true)].map(slot => catalogue.columns.ids[slot])).toEqual([1, 2, 3, 4, 5, 6, 7, 8])
  })
})

describe('tempo', () => {
  it('is found as exactly as it is written, and by a range; what has none is in no range, and comes last', () => {
    const catalogue = catalogueOf([...SOUNDS, row(9, 'Loops/Slow.wav', { kind: 'loop', tempo: 74 }), row(10, 'Loops/Fast.wav', { kind: 'loop', tempo: 140 })])
    expect(idsOf(catalogue, 'tempo=92.5')).toEqual([7])
    expect(idsOf(catalogue, 'bpm=92')).toEqual([7])
    expect(idsOf(catalogue, 'tempo=93.1')).toEqual([])
    expect(idsOf(catalogue, 'tempo=70..100')).toEqual([7, 9])
    expect(idsOf(catalogue, 'kick tempo>90bpm')).toEqual([7])
    expect([...orderedBy(catalogue, 'tempo', true)].slice(0, 3).map(slot => catalogue.columns.ids[slot])).toEqual([10, 7, 9])
  })
})

describe('figures between others', () => {
  it('are those that a plain look finds, with the ends or without them, and none that is not known', () => {
    const loudness = fc.option(fc.integer({ min: -40, max: 4 }).map(half => half / 2), { freq: 4 })
    fc.assert(fc.property(fc.array(loudness, { maxLength: 70 }), fc.integer({ min: -40, max: 4 }).map(half => half / 2), fc.constantFrom('<', '<=', '>', '>='), (figures, limit, sign) => {
      const made = catalogueOf(figures.map((hitLufs, i) => row(i + 1, `Kicks/Kick ${i}.wav`, { hitLufs })))
      const isSo = (value: number) => ({ '<': value < limit, '<=': value <= limit, '>': value > limit, '>=': value >= limit })[sign]!
      expect(new Set(idsOf(made, `loudness${sign}${limit}`))).toEqual(new Set(figures.flatMap((value, i) => value !== null && isSo(value) ? [i + 1] : [])))
    }))
  })

  it('few of many come in the same order as all of them', () => {
    const many = catalogueOf(Array.from({ length: 400 }, (_, i) => row(i + 1, `Kicks/Kick ${(i * 37) % 400}.wav`, { brightness: i % 50 === 0 ? 99 : 10 })))
    const all = idsOf(many, '')
    expect(idsOf(many, 'bright>50')).toEqual(all.filter(id => (id! - 1) % 50 === 0))
    expect(idsOf(many, 'bright>50')).toHaveLength(8)
  })
})

describe('sets of bits', () => {
  it('behave as sets do', () => {
    const set = fc.uniqueArray(fc.nat(99))
    fc.assert(fc.property(set, set, (a, b) => {
      const [x, y] = [a, b].map(items => Bits.where(100, n => items.includes(n))) as [Bits, Bits]
      const listed = (bits: Bits) => {
        const found: number[] = []
        bits.each(n => found.push(n))
        return found
      }
      const inOrder = (items: number[]) => items.sort((m, n) => m - n)
      expect(listed(x.copy().keep(y))).toEqual(inOrder(a.filter(n => b.includes(n))))
      expect(listed(x.copy().join(y))).toEqual(inOrder([...new Set([...a, ...b])]))
      expect(listed(x.copy().subtract(y))).toEqual(inOrder(a.filter(n => !b.includes(n))))
      expect(x.count()).toBe(a.length)
      expect(x.countWith(y)).toBe(a.filter(n => b.includes(n)).length)
      expect(listed(Bits.full(100).subtract(x))).toHaveLength(100 - a.length)
    }))
  })
})

describe('nearness', () => {
  it('finds the nearest vectors, as a plain look at all of them does', () => {
    const vector = fc.uint8Array({ minLength: FEATURES, maxLength: FEATURES })
    fc.assert(fc.property(fc.array(vector, { minLength: 1, maxLength: 40 }), vector, fc.integer({ min: 1, max: 10 }), (rows, wanted, most) => {
      const vectors = new Vectors()
      rows.forEach((one, slot) => vectors.set(slot, one))
      const distance = (one: Uint8Array) => one.reduce((sum, value, i) => sum + Math.min(12, Math.abs(value - wanted[i]!)), 0)
      const plain = rows.map((one, slot) => ({ slot, distance: distance(one) })).sort((a, b) => a.distance - b.distance || a.slot - b.slot).slice(0, most)
      expect(vectors.nearest(wanted, Bits.full(rows.length), most).map(({ slot }) => slot)).toEqual(plain.map(({ slot }) => slot))
      const taken = new Vectors()
      taken.restore(structuredClone(vectors.save()))
      taken.set(2000, wanted)
      expect(taken.nearest(wanted, Bits.full(rows.length), most)).toEqual(vectors.nearest(wanted, Bits.full(rows.length), most))
      expect(taken.get(2000)).toEqual(wanted)
    }), { numRuns: 40 })
  })

  it('is whole for the same and names what differs', () => {
    const vectors = new Vectors()
    const one = new Uint8Array(FEATURES).fill(100)
    vectors.set(0, one)
    expect(vectors.nearest(one, Bits.full(1), 5)[0]!.nearness).toEqual({ whole: 1, length: 1, colour: 1, pitch: 1 })
  })
})
