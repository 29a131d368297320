import { staysInside } from '../package/bag'

/**
 * The path of a sample or an included file below the folder that was given: backslashes become slashes, `.` and `..` are resolved.
 *
 * @param folder that of the SFZ file, below the folder that was given
 * @returns undefined for a path that leaves the folder, or that names nothing
 */
export function pathBelow(path: string, folder = ''): string | undefined {
  const parts = folder.split('/').filter(part => part !== '')
  if (/^([/\\]|[A-Za-z]:)/.test(path)) return undefined
  for (const part of path.split(/[/\\]+/)) {
    if (part === '' || part === '.') continue
    if (part !== '..') parts.push(part)
    else if (parts.pop() === undefined) return undefined
  }
  const whole = parts.join('/')
  return staysInside(whole) ? whole : undefined
}
