import { staysInside } from '../package/bag'

/**
 * The path of a sample or an included file below the folder of its SFZ file: backslashes become slashes, `.` and `..` are
 * resolved.
 *
 * @returns undefined for a path that leaves the folder, or that names nothing
 */
export function pathBelow(path: string): string | undefined {
  const parts: string[] = []
  if (/^([/\\]|[A-Za-z]:)/.test(path)) return undefined
  for (const part of path.split(/[/\\]+/)) {
    if (part === '' || part === '.') continue
    if (part !== '..') parts.push(part)
    else if (parts.pop() === undefined) return undefined
  }
  const whole = parts.join('/')
  return staysInside(whole) ? whole : undefined
}
