import { EmporionError } from '../../errors'
import { counted, whole } from '../../wording'

/** A payload file of a bag: its path below the bag's folder begins with `data/`. */
export interface BagEntry {
  readonly path: string
  readonly sha256: string
  readonly bytes: number
}

/** `bagit.txt` of every bag. Source: RFC 8493, 2.1.1. */
export const BAG_DECLARATION = 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n'

/** Versions of BagIt whose bags are read: RFC 8493 tells 0.97 and 1.0 apart by details that ours do not use. */
const READ_VERSIONS: readonly string[] = ['0.97', '1.0']

/** What is wrong with a `bagit.txt`, in one sentence. Source: RFC 8493, 2.1.1. */
export function declarationProblem(text: string): string | undefined {
  const match = /^BagIt-Version: (\d+\.\d+)\r?\nTag-File-Character-Encoding: ([^\r\n]+)\r?\n?$/.exec(text)
  if (!match) return 'bagit.txt does not state the version and encoding of a bag.'
  if (!READ_VERSIONS.includes(match[1]!)) return `bagit.txt states version ${match[1]} of BagIt; ${READ_VERSIONS.join(' and ')} can be read.`
  if (match[2]!.trim().toUpperCase() !== 'UTF-8') return `bagit.txt states the encoding ${match[2]!.trim()}; only UTF-8 can be read.`
  return undefined
}

/** What is wrong with the Payload-Oxum of a `bag-info.txt`, if it has one. Source: RFC 8493, 2.2.2. */
export function oxumProblem(bagInfo: string, bytes: number, files: number): string | undefined {
  const match = /^Payload-Oxum:[ \t]*(\d+)\.(\d+)[ \t]*$/m.exec(bagInfo.replace(/\r\n?/g, '\n'))
  if (!match || (Number(match[1]) === bytes && Number(match[2]) === files)) return undefined
  return `bag-info.txt speaks of ${counted(Number(match[1]), 'byte')} in ${counted(Number(match[2]), 'file')}; there ${bytes === 1 ? 'is' : 'are'} ${whole(bytes)} in ${whole(files)}.`
}

export const MANIFEST = 'manifest-sha256.txt'
export const TAG_MANIFEST = 'tagmanifest-sha256.txt'

/** A manifest: one line a file, its checksum and its path. Source: RFC 8493, 2.1.3. */
export function manifestText(entries: readonly { readonly path: string, readonly sha256: string }[]): string {
  return entries.map(entry => `${entry.sha256}  ${encodePath(entry.path)}\n`).join('')
}

/** `bag-info.txt`: the given texts and the Payload-Oxum. Source: RFC 8493, 2.2.2. */
export function bagInfoText(entries: readonly BagEntry[], info: Readonly<Record<string, string>>): string {
  const bytes = entries.reduce((sum, entry) => sum + entry.bytes, 0)
  const lines = { ...info, 'Payload-Oxum': `${bytes}.${entries.length}` }
  return Object.entries(lines).map(([label, value]) => `${label}: ${value.replace(/[\r\n]+/g, ' ')}\n`).join('')
}

/**
 * Reads a manifest into path -> SHA-256.
 *
 * @throws EmporionError `invalid` on a line that is none, a path twice, or one that leaves the bag
 */
export function parseManifest(text: string): Map<string, string> {
  const found = new Map<string, string>()
  for (const line of text.split(/\r\n|\r|\n/)) {
    if (line.trim() === '') continue
    const match = /^([0-9a-fA-F]{64})[ \t]+\*?(.+)$/.exec(line)
    const path = match ? decodePath(match[2]!) : ''
    if (!match || !staysInside(path)) throw new EmporionError('invalid', `The package's list of contents has a line that cannot be used: "${line.slice(0, 120)}".`)
    if (found.has(path)) throw new EmporionError('invalid', `The package lists ${path} twice.`)
    found.set(path, match[1]!.toLowerCase())
  }
  return found
}

/**
 * Compares what a manifest lists with what is there.
 *
 * @param present SHA-256 of each payload file by its path
 * @returns one sentence for each difference; none when the bag is complete and valid
 */
export function bagProblems(manifest: ReadonlyMap<string, string>, present: ReadonlyMap<string, string>): string[] {
  const problems: string[] = []
  for (const [path, sha256] of manifest) {
    const actual = present.get(path)
    if (actual === undefined) problems.push(`${path} is missing.`)
    else if (actual !== sha256) problems.push(`${path} is not what was stored: its contents have changed.`)
  }
  for (const path of present.keys()) {
    if (path.startsWith('data/') && !manifest.has(path)) problems.push(`${path} is there but not listed.`)
  }
  return problems
}

/** True for a relative path that names something below its folder and nothing else. */
export function staysInside(path: string): boolean {
  return path !== '' && !path.includes('\0') && !/^([/\\]|[A-Za-z]:)/.test(path)
    && path.split(/[/\\]/).every(part => part !== '..' && part !== '.' && part !== '')
}

function encodePath(path: string): string {
  return path.replace(/%/g, '%25').replace(/\n/g, '%0A').replace(/\r/g, '%0D')
}

function decodePath(path: string): string {
  return path.replace(/%0A/gi, '\n').replace(/%0D/gi, '\r').replace(/%25/g, '%')
}
