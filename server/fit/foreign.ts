import { mkdir, mkdtemp, readdir, realpath, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { basename, dirname, extname, join, relative, sep } from 'node:path'
import { AUDIO_EXTENSIONS } from '../../core/audio/extensions'
import type { MiddleC } from '../../core/audio/notes'
import { writeWave } from '../../core/audio/wave/write'
import { EmporionError, messageOf } from '../../core/errors'
import { openDls, type DlsCollection } from '../../core/formats/dls/instruments'
import { readDlsInstrument } from '../../core/formats/dls/read'
import type { ReadKit } from '../../core/formats/read'
import { INDEX_NAME } from '../../core/formats/samples/index'
import type { Numbering } from '../../core/formats/samples/numbering'
import { readSampleSet, type SampleFile } from '../../core/formats/samples/read'
import { openBank, type Bank } from '../../core/formats/sf2/bank'
import { findPreset, readPreset } from '../../core/formats/sf2/read'
import { readSfzKit, stemOf } from '../../core/formats/sfz/read'
import { byLoss } from '../../core/formats/zones/zone'
import { readUserFile, readUserFileSync } from '../base/opener'
import { allowedPath } from '../base/roots'
import { decodeFile, identityOf } from '../library/analyse'
import { namesInArchive, unzipInto } from '../library/unzip'
import { bagAt, damaged, readWholePackage } from '../vault/package'
import { withFile } from './fileSource'
import { FolderFiles } from './folderFiles'
import { besideFile, isSfz, nearestFirst, sfzAsked, sfzFilesIn, sfzText } from './sfzFiles'
import type { LoadedKit, Steering } from './loadedKit'
import type { ForeignFormat, ForeignListing } from '../../contract/fit'

export interface ForeignAsked {
  /** A preset by its name, its `bank:program`, or its number from 1; the first without it. */
  readonly preset?: string
  /** How a folder of samples is numbered; found out without it. */
  readonly numbering?: Numbering
  readonly middleC: MiddleC
  /** Where its samples lie meanwhile; in the system's place without it. */
  readonly tempDir?: string
}

const MOST_SAMPLES = 2_048
const LARGEST_TEXT_BYTES = 16_000_000
const ARTICLES: Readonly<Record<ForeignFormat, string>> = { 'SoundFont': 'a SoundFont bank', 'DLS': 'a DLS collection', 'SFZ': 'an SFZ file', 'sample set': 'a folder of samples', 'kit package': 'a kit package', 'archive': 'an archive' }
const NOTHING_READ = 'Nothing was read into the vault.'

/** What a file or folder holds, without its samples. @throws EmporionError `unreadable` for what is no kit */
export async function listForeign(path: string, roots: readonly string[]): Promise<ForeignListing> {
  const name = stemOf(basename(path))
  const format = await formatOf(path, roots)
  if (format === 'SoundFont') {
    return withFile(path, roots, async (source) => {
      const bank = await openBank(source)
      return { format, name: bank.name || name, choices: bank.presets.map(preset => ({ name: preset.name || `Preset ${preset.program}`, place: `${preset.bank}:${preset.program}` })) }
    })
  }
  if (format === 'DLS') {
    return withFile(path, roots, async (source) => {
      const collection = await openDls(source)
      return { format, name: collection.name || name, choices: collection.instruments.map(one => ({ name: one.name || `Instrument ${one.program}`, place: `${one.isDrums ? 'drums' : one.bank}:${one.program}` })) }
    })
  }
  const within = format === 'SFZ' && !isSfz(path) ? await sfzFilesIn(path) : format === 'archive' ? await sfzInArchive(await allowedPath(path, roots)) : []
  if (within.length > 1) return { format, name, choices: within.map(place => ({ name: stemOf(place), place })) }
  return { format, name, choices: [{ name, place: '' }] }
}

/**
 * Reads a kit of another form into one of ours, its samples into a folder of its own for as long as they are needed.
 *
 * @param roots below which its files lie, links resolved
 * @throws EmporionError
 */
export async function readForeign(path: string, roots: readonly string[], asked: ForeignAsked, steering: Steering): Promise<LoadedKit> {
  const work = await mkdtemp(join(asked.tempDir ?? tmpdir(), 'emporion-kit-'))
  const close = () => rm(work, { recursive: true, force: true })
  try {
    const format = await formatOf(path, roots)
    refuseIdle(path, format, asked)
    if (format === 'archive') return await readArchive(path, roots, asked, steering, work, close)
    if (format === 'kit package') return await readBag(path, roots, steering, close)
    const read = await readKit(path, roots, format, asked, steering)
    return await withSamples(read, work, close, steering)
  }
  catch (thrown) {
    await close()
    throw thrown
  }
}

async function formatOf(path: string, roots: readonly string[]): Promise<ForeignFormat> {
  const real = await allowedPath(path, roots)
  if ((await stat(real)).isDirectory()) {
    if (await bagAt(path)) return 'kit package'
    return await isSfzFolder(path) ? 'SFZ' : 'sample set'
  }
  const head = await withFile(path, roots, source => source.read(0, Math.min(12, source.size)))
  const text = String.fromCharCode(...head)
  if (text.startsWith('RIFF') && text.slice(8) === 'sfbk') return 'SoundFont'
  if (text.startsWith('RIFF') && text.slice(8) === 'DLS ') return 'DLS'
  if (text.startsWith('PK')) return 'archive'
  if (isSfz(path)) return 'SFZ'
  throw new EmporionError('unreadable', { what: `${path} is no kit that Emporion knows: neither a SoundFont bank, a DLS collection, an SFZ file, an archive nor a folder.`, next: 'Choose one of these.' })
}

/** What was asked for and can have no effect is an error: whoever asks for it expects something else. */
function refuseIdle(path: string, format: ForeignFormat, { preset, numbering }: ForeignAsked): void {
  if (format === 'archive') return
  const wrong = preset !== undefined && format !== 'SoundFont' && format !== 'DLS' && !(format === 'SFZ' && !isSfz(path))
    ? 'so there is no preset to choose'
    : numbering !== undefined && format !== 'sample set' ? 'so its samples are not numbered by their names' : undefined
  if (wrong) throw new EmporionError('invalid', { what: `${basename(path)} is read as ${ARTICLES[format]} and holds one kit, ${wrong}.`, kept: NOTHING_READ, next: 'Leave that out.' })
}

function readKit(path: string, roots: readonly string[], format: ForeignFormat, asked: ForeignAsked, { signal, onStep }: Steering): Promise<ReadKit> {
  const step = (done: number, total: number, at: string) => {
    signal.throwIfAborted()
    onStep(done, total, at, 0)
  }
  switch (format) {
    case 'SoundFont':
      return withFile(path, roots, async (source) => {
        const bank = await openBank(source)
        return readPreset(bank, presetAt(bank, asked.preset), identityOf, step)
      })
    case 'DLS':
      return withFile(path, roots, async (source) => {
        const collection = await openDls(source)
        return readDlsInstrument(collection, instrumentAt(collection, asked.preset), identityOf)
      })
    case 'SFZ':
      return readSfz(path, roots, asked.preset, step)
    default:
      return readFolder(path, roots, asked, step)
  }
}

/** A folder of samples is one even if there are SFZ files somewhere further down. */
async function isSfzFolder(folder: string): Promise<boolean> {
  const found = await sfzFilesIn(folder)
  return found.length > 0 && (found.some(path => !path.includes('/')) || !(await readdir(folder)).some(isAudio))
}

function isAudio(name: string): boolean {
  return !name.startsWith('.') && AUDIO_EXTENSIONS.includes(extname(name).slice(1).toLowerCase())
}

function presetAt(bank: Bank, asked: string | undefined): number {
  if (asked === undefined) return 0
  const found = findPreset(bank.presets, asked)
  if (found === undefined) throw new EmporionError('not-found', { what: `The bank has no preset "${asked}".`, next: `It has ${bank.presets.slice(0, 12).map(preset => `${preset.bank}:${preset.program} ${preset.name}`).join(', ')}${bank.presets.length > 12 ? ' and others' : ''}.` })
  return found
}

function instrumentAt(collection: DlsCollection, asked: string | undefined): number {
  if (asked === undefined) return 0
  const found = findPreset(collection.instruments, asked)
  if (found === undefined) throw new EmporionError('not-found', { what: `The collection has no instrument "${asked}".`, next: `It has ${collection.instruments.slice(0, 12).map(one => one.name).join(', ')}.` })
  return found
}

async function readSfz(path: string, roots: readonly string[], asked: string | undefined, step: (done: number, total: number, at: string) => void): Promise<ReadKit> {
  const { file, root } = (await stat(path)).isDirectory() ? { file: join(path, sfzAsked(await sfzFilesIn(path), asked)), root: path } : besideFile(await realpath(path))
  const text = sfzText(await readUserFile(file, roots, LARGEST_TEXT_BYTES))
  // What lies beside the file's folder may be outside of what may be read.
  const files = new FolderFiles(await allowedPath(root, roots).catch(() => dirname(file)))
  const folder = relative(files.root, await realpath(dirname(file))).split(sep).join('/')
  return readSfzKit({
    text, path: basename(file), folder, name: stemOf(basename(file)), identify: identityOf, onSample: step,
    include: (wanted) => {
      const found = files.find(wanted, folder)
      return found && sfzText(readUserFileSync(found, [files.root], LARGEST_TEXT_BYTES))
    },
    decode: async (wanted) => {
      const found = files.find(wanted)
      if (!found) throw new EmporionError('not-found', 'The file is not there.')
      return decodeFile(found, [files.root])
    },
  })
}

async function readFolder(path: string, roots: readonly string[], { numbering, middleC }: ForeignAsked, step: (done: number, total: number, at: string) => void): Promise<ReadKit> {
  const names = (await readdir(path)).filter(isAudio)
  if (names.length > MOST_SAMPLES) throw new EmporionError('limit', { what: `${path} holds ${names.length} audio files; a kit is made of ${MOST_SAMPLES} at most.`, next: 'To bring in so many, add the folder as a source in the Library.' })
  const files: SampleFile[] = []
  const unreadable: string[] = []
  for (const [i, name] of names.entries()) {
    step(i + 1, names.length, name)
    await decodeFile(join(path, name), roots).then(audio => files.push({ path: name, audio })).catch((thrown: unknown) => unreadable.push(`${name}: ${messageOf(thrown)}`))
  }
  const index = await readUserFile(join(path, INDEX_NAME), roots, LARGEST_TEXT_BYTES).then(bytes => bytes.toString('utf8'), () => undefined)
  const read = readSampleSet({ name: basename(path), files, middleC, identify: identityOf, ...(numbering ? { numbering } : {}), ...(index === undefined ? {} : { index }) })
  return { ...read, missing: [...read.missing, ...unreadable] }
}

/** Writes what was read out of a format into files, bit for bit. */
async function withSamples(read: ReadKit, work: string, close: () => Promise<void>, { signal }: Steering): Promise<LoadedKit> {
  const paths = new Map<string, string>()
  let count = 0
  for (const [id, { channels, sampleRate, depth }] of read.audio) {
    signal.throwIfAborted()
    const path = join(work, `${++count}.wav`)
    await writeFile(path, writeWave(channels, sampleRate, { depth }))
    paths.set(id, path)
  }
  return { kit: read.kit, locate: id => Promise.resolve(paths.get(id)), remarks: byLoss(read.notCarried).map(({ where, what }) => `${where}: ${what}`), lost: read.notCarried.filter(({ loss }) => loss === 'lost').length, missing: read.missing, close }
}

async function readArchive(path: string, roots: readonly string[], asked: ForeignAsked, steering: Steering, work: string, close: () => Promise<void>): Promise<LoadedKit> {
  const unpacked = join(work, stemOf(basename(path)) || 'archive')
  await mkdir(unpacked)
  const bad = await unzipInto(await allowedPath(path, roots), unpacked, { signal: steering.signal, onEntry: ({ entries, total, bytes, path: at }) => steering.onStep(entries, total, at, bytes) })
  const folder = await folderWithin(unpacked)
  const leftOut = bad.map(({ path: entry, reason }) => `${entry}: ${reason}`)
  const own = [await realpath(unpacked)]
  if (await bagAt(folder)) {
    if (leftOut.length > 0) throw damaged(leftOut, NOTHING_READ)
    return readBag(folder, own, steering, close)
  }
  const inner = await readForeign(folder, own, asked, steering)
  return { ...inner, missing: [...inner.missing, ...leftOut], close: async () => {
    await inner.close()
    await close()
  } }
}

/** SFZ files of an archive that is no kit package. */
async function sfzInArchive(path: string): Promise<string[]> {
  const names = await namesInArchive(path)
  return names.some(name => basename(name) === 'bagit.txt') ? [] : nearestFirst(names.filter(isSfz))
}

/** Archives often hold one folder with everything in it. */
async function folderWithin(folder: string): Promise<string> {
  const entries = await readdir(folder, { withFileTypes: true })
  const [only] = entries
  return entries.length === 1 && only?.isDirectory() ? folderWithin(join(folder, only.name)) : folder
}

async function readBag(folder: string, roots: readonly string[], { signal, onStep }: Steering, close: () => Promise<void>): Promise<LoadedKit> {
  const bag = (await bagAt(folder))!
  const { kit, samples } = await readWholePackage(bag, NOTHING_READ, { roots, signal, onSample: onStep })
  return { kit, locate: id => Promise.resolve(samples[id] && join(bag, 'data', samples[id].path)), remarks: [], lost: 0, missing: [], close }
}
