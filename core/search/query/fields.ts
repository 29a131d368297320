import type { Flag } from '../../audio/analysis/figures'
import type { ConditionOfFigure, KeptFigure } from '../../figures/declaration'
import { KEPT_FIGURES } from '../../figures/register'
import type { State } from './tree'

/** A condition of the search line: what it is called and what can be asked with it. */
export interface Field extends ConditionOfFigure {
  readonly name: string
  /** What follows the name. */
  readonly takes: 'number' | 'kind' | 'text' | 'state' | 'since' | 'sound'
}

const number = (name: string, condition: ConditionOfFigure): Field => ({ name, takes: 'number', ...condition })

/** Every condition, in the order in which they are explained. */
export const FIELDS: readonly Field[] = [
  { name: 'kind', takes: 'kind', does: 'a kind with its subkinds, or unknown', example: 'kind=hat.closed', also: ['type'] },
  { name: 'tag', takes: 'text', does: 'a tag', example: 'tag=dry', also: ['tags'] },
  { name: 'in', takes: 'text', does: 'a folder by its words, or several in a row', example: 'in="night ferry/kicks"', also: ['folder', 'path'] },
  { name: 'source', takes: 'text', does: 'a source', example: 'source=harbour' },
  { name: 'pack', takes: 'text', does: 'the uppermost folder of a source', example: 'pack="deck tapes"' },
  ...KEPT_FIGURES.flatMap((figure: KeptFigure) => [number(figure.name, figure.condition), ...(figure.otherConditions ?? []).map(other => number(other.name, other))]),
  { name: 'is', takes: 'state', does: 'what it is, or what is wrong with it', example: '-is=clipped' },
  { name: 'since', takes: 'since', does: 'came to the library since then', example: 'since=7d' },
  { name: 'like', takes: 'sound', does: 'the nearest to a sound, by ear', example: 'like=412' },
  { name: 'same', takes: 'sound', does: 'the same recording as a sound', example: 'same=412' },
  { name: 'family', takes: 'sound', does: 'strokes and takes of one instrument', example: 'family=412' },
]

export const FIELD_BY_NAME: ReadonlyMap<string, Field> = new Map(FIELDS.flatMap(field => [field.name, ...field.also ?? []].map(name => [name, field])))

/** What can be asked with `is=`: what a person made of a sound, and the flags of its figures. */
export const STATES: readonly { readonly name: State, readonly does: string }[] = [
  { name: 'favourite', does: 'a favourite' },
  { name: 'aside', does: 'set aside' },
  { name: 'used', does: 'used in a kit or preset' },
  { name: 'damaged', does: 'could be read with losses only' },
  { name: 'copied', does: 'lies in several files' },
  { name: 'measured', does: 'has its figures' },
]

export const FLAG_NAMES: readonly Flag[] = ['silent', 'clipped', 'dc-offset', 'mono-as-stereo', 'out-of-phase', 'several-hits', 'late-start', 'loop']
