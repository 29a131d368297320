import { createHash } from 'node:crypto'
import type { Dirent } from 'node:fs'
import { lstat, readdir, readFile, stat } from 'node:fs/promises'
import { join } from 'node:path'
import PQueue from 'p-queue'
import { z } from 'zod'
import { EmporionError, reasonOf } from '../../core/errors'
import { MANIFEST, parseManifest } from '../../core/formats/package/bag'
import { readKitFile, type KitFile } from '../../core/formats/package/kitFile'
import { portableName } from '../../core/formats/package/names'
import { inNaturalOrder } from '../../core/search/naturalKey'
import { keepable, text } from '../../core/text'
import { PRESET_FILE, revisionNumber, revisionPath } from './layout'
import type { FileState, RevisionOnDisk } from '../../contract/vault'

const LONGEST_ID = 80
const presetFileSchema = z.object({ id: text(LONGEST_ID).min(1), name: text(120).min(1) })
export type PresetFile = z.infer<typeof presetFileSchema>

const FOLDERS_AT_ONCE = 32

export interface PresetOnDisk extends PresetFile {
  readonly folder: string
  readonly revisions: readonly number[]
}

/** What lies in a vault, presets or not, in the order of its names. */
export async function listVault(vaultDir: string): Promise<Dirent[]> {
  const entries = (await readdir(vaultDir, { withFileTypes: true })).filter(entry => !entry.name.startsWith('.'))
  return inNaturalOrder(entries, entry => entry.name)
}

/** Every preset of a vault, by its folder. Folders that hold no preset are counted. */
export async function readVault(vaultDir: string): Promise<{ presets: PresetOnDisk[], others: number }> {
  const entries = await listVault(vaultDir)
  const read = await new PQueue({ concurrency: FOLDERS_AT_ONCE }).addAll(entries.map(entry => async () => entry.isDirectory() ? readPreset(vaultDir, entry.name) : undefined))
  const presets = read.filter(preset => preset !== undefined)
  return { presets: withOwnIds(presets), others: entries.length - presets.length }
}

/**
 * A folder that was copied by hand says that it is the preset that it was copied from. The one that is called as the preset
 * is stays it, or the first of them; the others are presets of their own, called by their folders.
 */
function withOwnIds(presets: readonly PresetOnDisk[]): PresetOnDisk[] {
  const keepers = new Map<string, PresetOnDisk>()
  for (const preset of presets) {
    const other = keepers.get(preset.id)
    if (!other || isCalledByName(preset) && !isCalledByName(other)) keepers.set(preset.id, preset)
  }
  return presets.map(preset => keepers.get(preset.id) === preset ? preset : { ...preset, ...namedByFolder(preset.folder) })
}

function isCalledByName({ name, folder }: PresetOnDisk): boolean {
  return folder === portableName(name, 'Preset')
}

function namedByFolder(folder: string): PresetFile {
  const id = `folder:${folder}`
  return { id: id.length <= LONGEST_ID ? id : `${id.slice(0, 63)}:${createHash('sha256').update(folder).digest('hex').slice(0, 16)}`, name: keepable(folder, 120) }
}

/** Reads one preset's folder; undefined when it holds no revision. Without its `preset.json` the folder's name serves. */
export async function readPreset(vaultDir: string, folder: string): Promise<PresetOnDisk | undefined> {
  const entries = await readdir(join(vaultDir, folder)).catch(() => [])
  const revisions = entries.flatMap(name => revisionNumber(name) ?? []).sort((a, b) => a - b)
  if (revisions.length === 0) return undefined
  const named = presetFileSchema.safeParse(parseOrNull(await readFile(join(vaultDir, folder, PRESET_FILE), 'utf8').catch(() => '')))
  return { ...(named.success ? named.data : namedByFolder(folder)), folder, revisions }
}

/** Reads one revision. What is wrong with it is said in `problem`, so that one broken preset hides no other. */
export async function readRevision(vaultDir: string, folder: string, number: number): Promise<RevisionOnDisk> {
  const path = revisionPath(vaultDir, folder, number)
  try {
    const file = readKitFile(await readFile(join(path, 'data', 'kit.json'), 'utf8'))
    const states = await payloadStates(path)
    return {
      number,
      storedAt: (await stat(join(path, 'bagit.txt'))).mtime,
      pads: file.kit.pads.filter(pad => pad.layers.length > 0).length,
      samples: Object.keys(file.samples).length,
      bytes: [...states.values()].reduce((sum, { size }) => sum + size, 0),
      file,
      states,
      problem: problemOf(file, states),
    }
  }
  catch (thrown) {
    const reason = thrown instanceof EmporionError ? thrown.message : `It could not be read: ${reasonOf(thrown)}.`
    return { number, storedAt: new Date(0), pads: 0, samples: 0, bytes: 0, file: null, states: new Map(), problem: reason }
  }
}

/** What can be seen to be wrong without a look into each sample. */
function problemOf({ samples }: KitFile, states: ReadonlyMap<string, FileState>): string | null {
  const wrong = Object.values(samples).filter(({ path, bytes }) => states.get(`data/${path}`)?.size !== bytes)
  const [first] = wrong
  if (!first) return null
  const what = states.has(`data/${first.path}`) ? 'is not what was stored' : 'is missing'
  return wrong.length === 1 ? `${first.path} ${what}.` : `${first.path} ${what}, and ${wrong.length - 1} more of its samples.`
}

async function payloadStates(path: string): Promise<Map<string, FileState>> {
  const listed = parseManifest(await readFile(join(path, MANIFEST), 'utf8'))
  const states = new Map<string, FileState>()
  for (const name of listed.keys()) {
    const found = await lstat(join(path, name)).catch(() => undefined)
    if (found?.isFile()) states.set(name, { size: found.size, modifiedMs: found.mtimeMs })
  }
  return states
}

function parseOrNull(text: string): unknown {
  try {
    return JSON.parse(text)
  }
  catch {
    return null
  }
}
