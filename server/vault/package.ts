import { readdir, stat } from 'node:fs/promises'
import { join, relative, sep } from 'node:path'
import { decodeAudio, LARGEST_FILE_BYTES } from '../../core/audio/decode'
import { formerForms } from '../../core/audio/formerForms'
import { EmporionError, messageOf } from '../../core/errors'
import { bagProblems, declarationProblem, MANIFEST, oxumProblem, parseManifest, TAG_MANIFEST } from '../../core/formats/package/bag'
import { readKitFile, type KitFile } from '../../core/formats/package/kitFile'
import { soundsOf, type SoundRef } from '../../core/kit/document'
import { hashFile } from '../base/hash'
import { readUserFile } from '../base/opener'
import { isSound } from '../library/analyse'
import { revisionFolder, revisionNumber } from './layout'

const LARGEST_TEXT_BYTES = 64_000_000
/** Problems that a message names; the rest is counted. */
const NAMED_PROBLEMS = 3

/** The one that reads packages, whichever door they come in by: what it holds, and all that is wrong with it. */
export interface CheckedPackage {
  /** Null where `kit.json` can't be read. */
  readonly file: KitFile | null
  /** One sentence each, naming the file; none where every file is as it was stored and every sample is what the kit calls it. */
  readonly problems: readonly string[]
}

export interface Checking {
  readonly roots: readonly string[]
  readonly signal: AbortSignal
  readonly onSample?: (done: number, total: number, name: string, bytes: number) => void
}

/** The folder of the bag that a folder is, or the latest revision of the preset that it is; undefined for anything else. */
export async function bagAt(folder: string): Promise<string | undefined> {
  for (const sign of ['bagit.txt', join('data', 'kit.json')]) {
    if (await isFile(join(folder, sign))) return folder
  }
  const latest = Math.max(0, ...(await readdir(folder)).map(name => revisionNumber(name) ?? 0))
  return latest > 0 ? bagAt(join(folder, revisionFolder(latest))) : undefined
}

/** The folder of the bag in what was unpacked: this one, or one within it. @throws EmporionError `invalid` */
export async function bagWithin(folder: string): Promise<string> {
  const inner = (await readdir(folder, { withFileTypes: true })).filter(entry => entry.isDirectory() && !entry.name.startsWith('.')).map(entry => join(folder, entry.name))
  for (const holder of [folder, ...inner]) {
    const bag = await bagAt(holder)
    if (bag) return bag
  }
  throw new EmporionError('invalid', { what: 'This is not a kit package: it has no bagit.txt.', kept: 'Nothing was imported.', next: 'To bring in samples from an archive, drop it on the Library.' })
}

/**
 * Reads a package and checks it whole: what its declaration, manifests and Payload-Oxum say, that the kit can be read, and that
 * each sample, decoded, is the sound that the kit calls it.
 */
export async function readPackage(bag: string, checking: Checking): Promise<CheckedPackage> {
  const declaration = await textIn(bag, 'bagit.txt', checking)
  const problems = [
    declaration === undefined ? 'bagit.txt is missing.' : declarationProblem(declaration),
    ...await manifestProblems(bag, checking),
  ]
  const file = await kitFileIn(bag, checking)
  if (typeof file === 'string') return { file: null, problems: told([...problems, file]) }
  if (file.kit.name.trim() === '') problems.push('data/kit.json gives the kit a blank name.')
  return { file, problems: told([...problems, ...await sampleProblems(bag, file, checking)]) }
}

function told(problems: readonly (string | undefined)[]): string[] {
  return [...new Set(problems.filter(problem => problem !== undefined))]
}

/** A text of the bag; undefined where there is none that can be opened. */
async function textIn(bag: string, name: string, { roots }: Checking): Promise<string | undefined> {
  return (await readUserFile(join(bag, name), roots, LARGEST_TEXT_BYTES).catch(() => undefined))?.toString('utf8')
}

/** `kit.json`, or what is wrong with it. */
async function kitFileIn(bag: string, checking: Checking): Promise<KitFile | string> {
  const text = await textIn(bag, join('data', 'kit.json'), checking)
  if (text === undefined) return 'data/kit.json is missing.'
  try {
    return readKitFile(text)
  }
  catch (thrown) {
    return messageOf(thrown)
  }
}

/** As `readPackage`. @throws EmporionError `invalid` for a package with anything wrong, naming the files */
export async function readWholePackage(bag: string, kept: string, checking: Checking): Promise<KitFile> {
  const { file, problems } = await readPackage(bag, checking)
  if (!file || problems.length > 0) throw damaged(problems, kept)
  return file
}

/** What to say of a package with something wrong. */
export function damaged(problems: readonly string[], kept: string): EmporionError {
  const more = problems.length - NAMED_PROBLEMS
  return new EmporionError('invalid', { what: `The package is damaged: ${problems.slice(0, NAMED_PROBLEMS).join(' ')}${more > 0 ? ` And ${more} more.` : ''}`, kept, next: 'Export it again where it came from.' })
}

async function manifestProblems(bag: string, checking: Checking): Promise<(string | undefined)[]> {
  const manifest = await textIn(bag, MANIFEST, checking)
  if (manifest === undefined) return [`${MANIFEST} is missing.`]
  const [info, tags] = [await textIn(bag, 'bag-info.txt', checking), await textIn(bag, TAG_MANIFEST, checking)]
  const present = await payloadOf(bag, checking)
  const bytes = [...present.values()].reduce((sum, file) => sum + file.bytes, 0)
  try {
    const listedTags = parseManifest(tags ?? '')
    const hashedTags = await Promise.all([...listedTags.keys()].map(async path => [path, (await hashFile(join(bag, path), checking.roots).catch(() => undefined))?.sha256] as const))
    return [
      ...bagProblems(parseManifest(manifest), new Map([...present].map(([path, { sha256 }]) => [path, sha256]))),
      info === undefined ? undefined : oxumProblem(info, bytes, present.size),
      ...bagProblems(listedTags, new Map(hashedTags.flatMap(([path, sha256]) => sha256 === undefined ? [] : [[path, sha256] as const]))),
    ]
  }
  catch (thrown) {
    return [messageOf(thrown)]
  }
}

interface Payload {
  readonly sha256: string
  readonly bytes: number
}

async function payloadOf(bag: string, checking: Checking): Promise<Map<string, Payload>> {
  const present = new Map<string, Payload>()
  for (const entry of await readdir(join(bag, 'data'), { recursive: true, withFileTypes: true }).catch(() => [])) {
    if (entry.isDirectory()) continue
    checking.signal.throwIfAborted()
    const path = join(entry.parentPath, entry.name)
    const hashed = await hashFile(path, checking.roots).catch(() => undefined)
    // What can't be opened is missing to whoever reads the package.
    if (hashed) present.set(relative(bag, path).split(sep).join('/'), hashed)
  }
  return present
}

async function sampleProblems(bag: string, file: KitFile, checking: Checking): Promise<(string | undefined)[]> {
  const problems: (string | undefined)[] = []
  const sounds = soundsOf(file.kit)
  for (const [i, sound] of sounds.entries()) {
    checking.signal.throwIfAborted()
    const { path, bytes } = file.samples[sound.id]!
    problems.push(await sampleProblem(join(bag, 'data', path), `data/${path}`, bytes, sound, checking))
    checking.onSample?.(i + 1, sounds.length, sound.name, bytes)
  }
  return problems
}

async function sampleProblem(place: string, path: string, statedBytes: number, sound: SoundRef, { roots }: Checking): Promise<string | undefined> {
  const bytes = await readUserFile(place, roots, LARGEST_FILE_BYTES).catch((thrown: unknown) => thrown instanceof EmporionError && thrown.code === 'not-found' ? 'missing' : 'closed')
  if (bytes === 'missing') return `${path} is missing.`
  if (bytes === 'closed') return `${path} can't be opened.`
  if (bytes.length !== statedBytes) return `${path} has ${bytes.length} bytes; kit.json speaks of ${statedBytes}.`
  try {
    const audio = await decodeAudio(bytes)
    if (!isSound(audio, sound.id)) return `${path} is not the sound "${sound.name}" that the kit plays.`
    if (audio.frames !== sound.frames || audio.sampleRate !== sound.sampleRate || (audio.channels.length !== sound.channels && !formerForms(audio).some(form => form.channels.length === sound.channels))) {
      return `${path} has ${audio.channels.length} channels of ${audio.frames} frames at ${audio.sampleRate} Hz; kit.json speaks of ${sound.channels} of ${sound.frames} at ${sound.sampleRate}.`
    }
    return undefined
  }
  catch (thrown) {
    return `${path} can't be read as audio: ${messageOf(thrown)}`
  }
}

async function isFile(path: string): Promise<boolean> {
  return (await stat(path).catch(() => undefined))?.isFile() === true
}
