import { z } from 'zod'
import { EmporionError } from '../errors'

/** Where in a document something lies: keys of objects and places in lists, from the outside in. */
export type Path = readonly (string | number)[]

/** One change. `was` and `is` are values; one that is not there has none. With `from` they are elements of the list at `at`, from that place on. */
export type Change =
  | { readonly at: Path, readonly was?: unknown, readonly is?: unknown }
  | { readonly at: Path, readonly from: number, readonly was: readonly unknown[], readonly is: readonly unknown[] }

/** What leads from one state of a document to another, and back. It is JSON, and small where little changed. */
export type Difference = readonly Change[]

const DEEPEST = 24
const pathSchema = z.array(z.union([z.string().max(200).refine(key => key !== '__proto__'), z.int().min(0)])).max(DEEPEST).readonly()

/** A difference as it comes in: whether it leads to a whole document is seen when it is applied. */
export const differenceSchema = z.array(z.union([
  z.strictObject({ at: pathSchema, from: z.int().min(0), was: z.array(z.unknown()).readonly(), is: z.array(z.unknown()).readonly() }),
  z.strictObject({ at: pathSchema, was: z.unknown().optional(), is: z.unknown().optional() }),
])).readonly()

type Node = Readonly<Record<string, unknown>>

const isNode = (value: unknown): value is Node => typeof value === 'object' && value !== null && !Array.isArray(value)

/** What leads from one state to another. States are JSON and immutable: what is the same object in both is not looked into. */
export function differenceOf(before: unknown, after: unknown): Difference {
  const found: Change[] = []
  compare(before, after, [], found)
  return found
}

function compare(before: unknown, after: unknown, at: Path, found: Change[]): void {
  if (Object.is(before, after)) return
  if (Array.isArray(before) && Array.isArray(after)) return compareLists(before, after, at, found)
  if (!isNode(before) || !isNode(after)) return void found.push({ at, was: before, is: after })
  for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
    const [was, is] = [before[key], after[key]]
    // A key without a value is none: JSON knows nothing else.
    if (was === undefined || is === undefined) {
      if (was !== is) found.push({ at: [...at, key], ...was === undefined ? {} : { was }, ...is === undefined ? {} : { is } })
    }
    else compare(was, is, [...at, key], found)
  }
}

function compareLists(before: readonly unknown[], after: readonly unknown[], at: Path, found: Change[]): void {
  const shorter = Math.min(before.length, after.length)
  let start = 0
  while (start < shorter && Object.is(before[start], after[start])) start++
  let alike = 0
  while (alike < shorter - start && Object.is(before[before.length - 1 - alike], after[after.length - 1 - alike])) alike++
  if (before.length === after.length) {
    for (let i = start; i < after.length - alike; i++) compare(before[i], after[i], [...at, i], found)
    return
  }
  found.push({ at, from: start, was: before.slice(start, before.length - alike), is: after.slice(start, after.length - alike) })
}

/**
 * The state that a difference leads to. What it does not touch stays the same objects.
 *
 * @throws EmporionError `invalid` where it changes something that the state does not have
 */
export function applyDifference<T>(state: T, difference: Difference): T {
  // Objects that were made here are changed in place: a list of a thousand changes is copied once.
  const own = new Set<unknown>()
  let root: unknown = state
  for (const change of difference) root = changed(root, change, 0, own)
  return root as T
}

function changed(value: unknown, change: Change, depth: number, own: Set<unknown>): unknown {
  if (depth === change.at.length) {
    if (!('from' in change)) return change.is
    if (!Array.isArray(value) || change.from + change.was.length > value.length) throw nowhere(change.at)
    return value.toSpliced(change.from, change.was.length, ...change.is)
  }
  const key = change.at[depth]!
  if (Array.isArray(value)) {
    if (typeof key !== 'number' || key >= value.length) throw nowhere(change.at)
    const list = owned<unknown[]>(value, () => [...value], own)
    list[key] = changed(list[key], change, depth + 1, own)
    return list
  }
  if (!isNode(value) || typeof key !== 'string') throw nowhere(change.at)
  const isLast = depth === change.at.length - 1
  if (!isLast && !Object.hasOwn(value, key)) throw nowhere(change.at)
  const node = owned<Record<string, unknown>>(value, () => ({ ...value }), own)
  if (isLast && !('from' in change) && change.is === undefined) Reflect.deleteProperty(node, key)
  else node[key] = changed(node[key], change, depth + 1, own)
  return node
}

function owned<T>(value: unknown, copy: () => T, own: Set<unknown>): T {
  if (own.has(value)) return value as T
  const made = copy()
  own.add(made)
  return made
}

function nowhere(at: Path): EmporionError {
  return new EmporionError('invalid', { what: `The edit changes something that is not there: ${at.join(' / ') || 'the whole'}.`, kept: 'Nothing was changed.' })
}

/** The way back. */
export function invertDifference(difference: Difference): Difference {
  return difference.toReversed().map((change): Change => {
    if ('from' in change) return { at: change.at, from: change.from, was: change.is, is: change.was }
    return { at: change.at, ...'is' in change ? { was: change.is } : {}, ...'was' in change ? { is: change.was } : {} }
  })
}
