import { searchText } from '../tokens'
import { Bits } from './bits'
import { Columns, MARK, type SavedColumns } from './columns'
import { isCalledByContent } from './folderNames'
import { mergedOrder } from './mergedOrder'
import type { CatalogueRow } from './row'
import { WordIndex, type SavedWords } from './wordIndex'

/** A folder in which sounds lie. */
export interface CatalogueFolder {
  readonly sourceId: number
  /** Below the source's folder, empty for itself. */
  readonly path: string
  /** The words of each of its parts, as names are searched by. */
  readonly parts: readonly (readonly string[])[]
}

/** A catalogue that was written down. */
export interface SavedCatalogue {
  readonly columns: SavedColumns
  readonly words: SavedWords
  readonly order: Int32Array
  readonly texts: readonly string[]
  readonly sortKeys: readonly string[]
  readonly folders: readonly string[]
  readonly furtherFolders: readonly (readonly [number, readonly number[]])[]
  readonly tagNames: readonly string[]
  readonly tags: readonly (readonly number[])[]
}

/**
 * All sounds of a library as columns of figures and an index of words, so that any search is a matter of milliseconds. The
 * database stays the truth: rows that have changed there are taken over by `apply`.
 */
export class Catalogue {
  readonly columns = new Columns()
  readonly words = new WordIndex()
  readonly folders: CatalogueFolder[] = []
  readonly tagNames: string[] = []
  /** The folders of a sound beyond its first. */
  readonly furtherFolders = new Map<number, readonly number[]>()
  /** Goes up whenever something may be found by something else than before. */
  revision = 0
  /** Goes up whenever other sounds are used in kits and presets: nothing else is found or counted otherwise. */
  usesRevision = 0
  /** Goes up whenever sounds may stand in another order. */
  orderRevision = 0
  /** Names of the sources by their number. */
  sourceNames: ReadonlyMap<number, string> = new Map()

  private readonly slots = new Map<number, number>()
  private readonly folderNumbers = new Map<string, number>()
  private readonly tagNumbers = new Map<string, number>()
  private readonly texts: string[] = []
  private readonly sortKeys: string[] = []
  private readonly tags: (readonly number[] | undefined)[] = []
  private readonly marks = new Map<number, Bits>()
  private order: Int32Array = new Int32Array()
  private moved: number[] = []
  private packs: { readonly names: string[], readonly ofFolder: Int32Array } | undefined

  /** Sounds ever seen, those without files among them. */
  get size(): number {
    return this.texts.length
  }

  slotOf(id: number): number | undefined {
    return this.slots.get(id)
  }

  /** The words of a sound in their order. */
  textOf(slot: number): string {
    return this.texts[slot]!
  }

  tagsOf(slot: number): readonly number[] {
    return this.tags[slot] ?? NONE
  }

  /** The numbers of all folders that a sound lies in. */
  foldersOf(slot: number): readonly number[] {
    return this.furtherFolders.get(slot) ?? [this.columns.folders[slot]!]
  }

  /** Takes rows over as they are now. */
  apply(rows: readonly CatalogueRow[]): void {
    if (rows.length === 0) return
    const gone = new Map<string, Set<number>>()
    for (const row of rows) {
      const known = this.slots.get(row.id)
      const slot = known ?? this.texts.length
      if (known === undefined) this.slots.set(row.id, slot)
      const folders = row.folders.map(folder => this.folderNumber(folder))
      if (this.columns.write(slot, row, folders[0] ?? -1, known !== undefined)) this.orderRevision++
      if (folders.length > 1) this.furtherFolders.set(slot, folders)
      else this.furtherFolders.delete(slot)
      this.tags[slot] = row.tags.length > 0 ? row.tags.map(tag => this.tagNumber(tag)) : undefined
      this.index(slot, row.words, gone)
      if (this.sortKeys[slot] !== row.sortKey) {
        this.moved.push(slot)
        this.orderRevision++
      }
      this.sortKeys[slot] = row.sortKey
    }
    this.words.remove(gone)
    this.changed()
  }

  /** Says which sounds are used in kits and presets, by their ids. */
  setUsed(ids: Iterable<number>): void {
    const { marks } = this.columns
    const used = new Bits(this.size)
    for (const id of ids) {
      const slot = this.slots.get(id)
      if (slot !== undefined) used.add(slot)
    }
    if (used.isSame(this.marked(MARK.used))) return
    for (let slot = 0; slot < this.size; slot++) marks[slot] = used.has(slot) ? marks[slot]! | MARK.used : marks[slot]! & ~MARK.used
    this.marks.delete(MARK.used)
    this.usesRevision++
  }

  /** Gives sources their names. */
  setSources(names: ReadonlyMap<number, string>): void {
    if (names.size === this.sourceNames.size && [...names].every(([id, name]) => this.sourceNames.get(id) === name)) return
    this.sourceNames = names
    this.orderRevision++
    this.packs = undefined
    this.changed()
  }

  /** Slots in the order of their names. */
  get byName(): Int32Array {
    if (this.moved.length > 0) {
      this.order = mergedOrder(this.order, this.moved, this.sortKeys, this.columns.ids)
      this.moved = []
    }
    return this.order
  }

  /** The sounds that have a mark. Not to be changed. */
  marked(mark: number): Bits {
    const known = this.marks.get(mark)
    if (known) return known
    const { marks } = this.columns
    const found = Bits.where(this.size, slot => (marks[slot]! & mark) !== 0)
    this.marks.set(mark, found)
    return found
  }

  /**
   * The packs, and the pack of each folder: the uppermost folders of the sources, or the source itself for what lies loose in it, and
   * for all of it where at least half of its uppermost folders are called after what lies in them, such as "Kicks" or "Loops".
   */
  get packNumbers(): { readonly names: readonly string[], readonly ofFolder: Int32Array } {
    if (this.packs?.ofFolder.length === this.folders.length) return this.packs
    const numbers = new Map<string, number>()
    const isPack = this.sourcesThatArePacks()
    const ofFolder = Int32Array.from(this.folders, ({ path, sourceId }) => {
      const top = path.split('/', 1)[0]!
      const name = top === '' || isPack.has(sourceId) ? this.sourceNames.get(sourceId) ?? top : top
      if (!numbers.has(name)) numbers.set(name, numbers.size)
      return numbers.get(name)!
    })
    this.packs = { names: [...numbers.keys()], ofFolder }
    return this.packs
  }

  private sourcesThatArePacks(): ReadonlySet<number> {
    const tops = new Map<number, Set<string>>()
    for (const { path, sourceId } of this.folders) {
      const top = path.split('/', 1)[0]!
      if (top !== '') tops.set(sourceId, (tops.get(sourceId) ?? new Set()).add(top))
    }
    return new Set([...tops].flatMap(([sourceId, names]) => [...names].filter(isCalledByContent).length * 2 >= names.size ? [sourceId] : []))
  }

  /** The sounds that lie in a folder of which something is so. */
  inFolders(isSo: (folder: CatalogueFolder, number: number) => boolean): Bits {
    const wanted = this.folders.map(isSo)
    const { folders } = this.columns
    const found = Bits.where(this.size, slot => wanted[folders[slot]!] === true)
    for (const [slot, numbers] of this.furtherFolders) if (numbers.some(number => wanted[number])) found.add(slot)
    return found
  }

  /** All that is here, to be written down. */
  save(): SavedCatalogue {
    return {
      columns: this.columns.save(this.size), words: this.words.save(), order: this.byName, texts: this.texts, sortKeys: this.sortKeys,
      folders: this.folders.map(({ sourceId, path }) => path === '' ? String(sourceId) : `${sourceId}/${path}`), furtherFolders: [...this.furtherFolders],
      tagNames: this.tagNames, tags: this.texts.map((_, slot) => this.tagsOf(slot)),
    }
  }

  /** Takes up what was written down. The catalogue must be empty. */
  restore(saved: SavedCatalogue): void {
    this.columns.restore(saved.columns)
    this.words.restore(saved.words)
    this.order = saved.order
    for (const folder of saved.folders) this.folderNumber(folder)
    for (const [slot, numbers] of saved.furtherFolders) this.furtherFolders.set(slot, numbers)
    for (const tag of saved.tagNames) this.tagNumber(tag)
    saved.texts.forEach((text, slot) => {
      this.texts.push(text)
      this.sortKeys.push(saved.sortKeys[slot]!)
      this.tags.push(saved.tags[slot]!.length > 0 ? saved.tags[slot] : undefined)
      this.slots.set(saved.columns.ids[slot]!, slot)
    })
    this.orderRevision++
    this.changed()
  }

  private index(slot: number, words: string, gone: Map<string, Set<number>>): void {
    const before = this.texts[slot]
    if (before === words) return
    this.texts[slot] = words
    if (before === undefined) {
      this.words.add(slot, words.split(' '))
      return
    }
    const now = wordsIn(words)
    const former = wordsIn(before)
    for (const word of former) {
      if (now.has(word)) continue
      const sounds = gone.get(word)
      if (sounds) sounds.add(slot)
      else gone.set(word, new Set([slot]))
    }
    this.words.add(slot, [...now].filter(word => !former.has(word)))
  }

  private changed(): void {
    this.marks.clear()
    this.revision++
  }

  private folderNumber(text: string): number {
    const known = this.folderNumbers.get(text)
    if (known !== undefined) return known
    const slash = text.indexOf('/')
    const path = slash < 0 ? '' : text.slice(slash + 1)
    this.folders.push({ sourceId: Number(slash < 0 ? text : text.slice(0, slash)), path, parts: path === '' ? [] : path.split('/').map(namedWords) })
    this.folderNumbers.set(text, this.folders.length - 1)
    return this.folders.length - 1
  }

  private tagNumber(tag: string): number {
    const known = this.tagNumbers.get(tag)
    if (known !== undefined) return known
    this.tagNames.push(tag)
    this.tagNumbers.set(tag, this.tagNames.length - 1)
    return this.tagNames.length - 1
  }
}

const NONE: readonly number[] = []

/** The words of a name in their order: as written and, behind a `|`, cut where it is cut. */
export function namedWords(name: string): string[] {
  return searchText(name).split(' ')
}

function wordsIn(text: string): Set<string> {
  const words = new Set(text.split(' '))
  words.delete('|')
  words.delete('')
  return words
}
