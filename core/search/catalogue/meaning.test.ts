import { describe, expect, it } from 'vitest'
import { parseQuery } from '../query/parse'
import { naturalKey } from '../naturalKey'
import { searchText } from '../tokens'
import { Catalogue } from './catalogue'
import { Found } from './find'
import type { CatalogueRow } from './row'

function row(id: number, name: string, kind: string | null): CatalogueRow {
  return {
    id, isListed: true, sortKey: naturalKey(name), words: searchText(`Pier/${name}`), folders: ['1'], kind, tags: [], lengthSeconds: 0.5, effectiveSeconds: 0.4, hitLufs: -20, truePeakDb: -3, brightness: 50, pitchNote: null, tempo: null,
    sampleRate: 44_100, bitDepth: 16, channels: 1, flags: [], favourite: false, aside: false, isDamaged: false, isMeasured: true, fileCount: 1, addedSeconds: 1,
  }
}

function catalogueOf(...rows: CatalogueRow[]): Catalogue {
  const catalogue = new Catalogue()
  catalogue.setSources(new Map([[1, 'Pier']]))
  catalogue.apply(rows)
  return catalogue
}

const TOMS = ['tw07 tomhigh orig 1', 'tw07 tomhigh orig 2', 'R1 tomhigh', 'R2 tomhigh', 'R3 tom high', 'R4 other', 'r1 unnamed'].map((name, i) => row(i + 1, name, 'tom.high'))

function found(catalogue: Catalogue, text: string) {
  const search = new Found(catalogue, parseQuery(text), {}, { nowMs: 0, relatedTo: () => [] })
  return [...search.inOrder(catalogue.byName)].map(slot => [catalogue.columns.ids[slot], search.foundBy(slot)])
}

describe('words that mean a kind, beside others', () => {
  const catalogue = catalogueOf(...TOMS, row(8, 'R1 kick', 'kick'))

  it('leave numbers and words beside them in force', () => {
    expect(found(catalogue, 'tw07 tomhigh orig')).toEqual([[1, 'words'], [2, 'words']])
    expect(found(catalogue, 'R1 tomhigh')).toEqual([[3, 'words'], [7, 'kind']])
    expect(found(catalogue, 'tomhigh R3')).toEqual([[5, 'kind']])
  })

  it('mean it together where they stand for it together', () => {
    expect(new Set(found(catalogue, 'high tom').map(([id]) => id))).toEqual(new Set([1, 2, 3, 4, 5, 6, 7]))
    expect(found(catalogue, 'high tom')[0]).toEqual([5, 'words'])
  })
})

describe('what a change of the catalogue concerns', () => {
  it('sounds that kits use change neither results nor orders, and nothing at all where they are the same', () => {
    const catalogue = catalogueOf(...TOMS)
    const { revision, orderRevision } = catalogue
    catalogue.setUsed([1, 2])
    expect([catalogue.revision, catalogue.orderRevision, catalogue.usesRevision]).toEqual([revision, orderRevision, 1])
    catalogue.setUsed([2, 1])
    expect(catalogue.usesRevision).toBe(1)
    expect(found(catalogue, 'is=used').map(([id]) => id)).toEqual([1, 2])
    catalogue.setUsed([3])
    expect(found(catalogue, 'is=used').map(([id]) => id)).toEqual([3])
    expect(catalogue.revision).toBe(revision)
  })

  it('a star changes results and no order; a length changes both; names of sources that stay change nothing', () => {
    const catalogue = catalogueOf(...TOMS)
    const before = { revision: catalogue.revision, order: catalogue.orderRevision }
    catalogue.setSources(new Map([[1, 'Pier']]))
    expect([catalogue.revision, catalogue.orderRevision]).toEqual([before.revision, before.order])
    catalogue.apply([{ ...TOMS[0]!, favourite: true }])
    expect([catalogue.revision, catalogue.orderRevision]).toEqual([before.revision + 1, before.order])
    catalogue.apply([{ ...TOMS[0]!, lengthSeconds: 3 }])
    expect([catalogue.revision, catalogue.orderRevision]).toEqual([before.revision + 2, before.order + 1])
  })
})
