import { noteName, type MiddleC } from '../../audio/notes'
import { kindLabel } from '../../search/kinds'
import { portableName } from '../package/names'

/** What the name of a sample's file can be made of. */
export const PART_NAMES = ['number', 'bank', 'pad', 'layer', 'note', 'note name', 'kind', 'name'] as const
export type PartName = typeof PART_NAMES[number]

/** How files are named: parts in their order, joined by a separator, and what a target asks of names. */
export interface Naming {
  readonly parts: readonly PartName[]
  readonly separator: string
  /** Characters before the ending. */
  readonly longest: number
  readonly case: 'as it is' | 'upper' | 'lower'
  readonly characters: 'letters, digits and signs' | 'letters and digits'
}

/** What is known of a sample for its name. */
export interface Named {
  /** Place of its pad, from 0. */
  readonly slot: number
  readonly slots: number
  readonly bank: string
  /** Number within the bank, from 1. */
  readonly pad: number
  /** Place among the samples of its pad, from 0, and how many those are. */
  readonly layer: number
  readonly layers: number
  readonly note: number
  readonly kind: string | null
  readonly name: string
}

/**
 * Names for the samples of a kit, in their order: within the longest length, and different from each other even where capitals do
 * not count. What tells pads apart is kept whole; of a name that is too long goes what all names begin with, then its middle.
 */
export function sampleNames(all: readonly Named[], naming: Naming, middleC: MiddleC): string[] {
  const taken = new Set<string>()
  const shared = sharedStart(all.map(one => plain(one.name, naming)))
  return all.map((one) => {
    const base = nameOf(one, naming, middleC, shared)
    for (let n = 1; ; n++) {
      const suffix = n === 1 ? '' : suffixOf(n, base, naming)
      const name = base.slice(0, naming.longest - suffix.length).replace(/[. ]+$/, '') + suffix
      if (taken.has(name.toLowerCase())) continue
      taken.add(name.toLowerCase())
      return name
    }
  })
}

/** What tells a name from one before it; behind a number it would be read as a part of that without a letter between. */
function suffixOf(n: number, base: string, { characters, separator, case: letters }: Naming): string {
  if (characters === 'letters, digits and signs') return `${separator.trim() || '_'}${n}`
  return `${/\d$/.test(base) ? cased('x', letters) : ''}${n}`
}

/** Whole words that all of several names begin with. */
function sharedStart(names: readonly string[]): string {
  const [first = '', ...others] = [...new Set(names)]
  if (others.length === 0) return ''
  const words = first.match(/[^ _\-.]+[ _\-.]*/g) ?? []
  let shared = ''
  for (const word of words.slice(0, -1)) {
    if (!others.every(name => name.startsWith(shared + word) && name.length > shared.length + word.length)) break
    shared += word
  }
  return shared
}

/** A name that is too long: without what all share, then without its middle, as both ends tell more. */
function shortened(name: string, shared: string, longest: number): string {
  if (name.length <= longest) return name
  const own = name.startsWith(shared) ? name.slice(shared.length) : name
  if (own.length <= longest) return own
  const end = Math.floor(longest / 2)
  return (own.slice(0, longest - end) + own.slice(own.length - end)).slice(0, longest)
}

function nameOf(one: Named, naming: Naming, middleC: MiddleC, shared: string): string {
  const words = naming.parts.map(part => plain(wordOf(part, one, middleC), naming)).map((word, i) => ({ word, isName: naming.parts[i] === 'name' })).filter(({ word }) => word !== '')
  const separator = naming.characters === 'letters and digits' ? '' : naming.separator
  const room = naming.longest - words.filter(({ isName }) => !isName).reduce((sum, { word }) => sum + word.length + separator.length, 0)
  const cut = words.map(({ word, isName }) => isName ? shortened(word, shared, Math.max(1, room)).trim() : word).join(separator)
  return cased(cut, naming.case).slice(0, naming.longest) || `${one.slot + 1}`
}

function wordOf(part: PartName, one: Named, middleC: MiddleC): string {
  switch (part) {
    case 'number':
      return String(one.slot + 1).padStart(Math.max(2, String(one.slots).length), '0')
    case 'bank':
      return one.bank
    case 'pad':
      return String(one.pad).padStart(2, '0')
    case 'layer':
      return one.layers > 1 ? `v${one.layer + 1}` : ''
    case 'note':
      return String(one.note).padStart(3, '0')
    case 'note name':
      return noteName(one.note, middleC)
    case 'kind':
      return one.kind === null ? '' : kindLabel(one.kind)
    case 'name':
      return one.name
  }
}

function plain(word: string, { characters }: Naming): string {
  if (word === '') return ''
  // A sharp is a sign of its own that not every file system takes.
  const portable = portableName(word.replace(/#/g, 's'), 'x')
  return characters === 'letters and digits' ? portable.replace(/[^A-Za-z0-9]/g, '') : portable
}

function cased(name: string, how: Naming['case']): string {
  return how === 'upper' ? name.toUpperCase() : how === 'lower' ? name.toLowerCase() : name
}
