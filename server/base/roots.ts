import { realpath } from 'node:fs/promises'
import { isAbsolute, resolve, sep } from 'node:path'
import { EmporionError } from '../../core/errors'

export function notThere(path: string): EmporionError {
  return new EmporionError('not-found', { what: `${path} is not there.`, next: 'Check the path, or that its drive is connected.' })
}

/** True when `path` is `root` or lies below it. Both absolute and without links. */
export function liesBelow(path: string, root: string): boolean {
  return path === root || path.startsWith(root.endsWith(sep) ? root : root + sep)
}

/**
 * The real path of something that may be read: links are resolved first, and what they lead to must lie below one
 * of the roots.
 *
 * @throws EmporionError `not-found`, or `outside` when it lies elsewhere
 */
export async function allowedPath(path: string, roots: readonly string[]): Promise<string> {
  if (!isAbsolute(path)) {
    throw new EmporionError('invalid', { what: `"${path}" is not a whole path.`, next: `Give the path from the root on, such as ${roots[0]}.` })
  }
  const wanted = resolve(path)
  const real = await realpath(wanted).catch(() => undefined)
  const outside = () => new EmporionError('outside', {
    what: `${path} lies outside the folders that Emporion may read (${roots.join(', ')}).`,
    next: 'Start Emporion with --root FOLDER to allow another one.',
  })
  if (real === undefined) {
    if (!roots.some(root => liesBelow(wanted, root))) throw outside()
    throw notThere(path)
  }
  // Roots are seldom links themselves.
  if (roots.some(root => liesBelow(real, root))) return real
  const realRoots = await Promise.all(roots.map(root => realpath(root).catch(() => root)))
  if (!realRoots.some(root => liesBelow(real, root))) throw outside()
  return real
}
