import { readdir, readFile, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { z } from 'zod'
import { EmporionError, messageOf } from '../../core/errors'
import { MANIFEST, parseManifest } from '../../core/formats/package/bag'
import { readKitFile, type KitFile } from '../../core/formats/package/kitFile'
import { text } from '../../core/text'
import { PRESET_FILE, revisionNumber, revisionPath } from './layout'

const presetFileSchema = z.object({ id: z.string().min(1).max(80), name: text(120).min(1) })
export type PresetFile = z.infer<typeof presetFileSchema>

/** One revision as it lies on disk. */
export interface RevisionOnDisk {
  readonly number: number
  readonly storedAt: Date
  readonly pads: number
  readonly samples: number
  readonly bytes: number
  readonly file: KitFile | null
  readonly problem: string | null
}

export interface PresetOnDisk extends PresetFile {
  readonly folder: string
  readonly revisions: readonly number[]
}

/** Every preset of a vault, by its folder. Folders that hold no preset are counted. */
export async function readVault(vaultDir: string): Promise<{ presets: PresetOnDisk[], others: number }> {
  const names = (await readdir(vaultDir, { withFileTypes: true })).filter(entry => !entry.name.startsWith('.'))
  const presets: PresetOnDisk[] = []
  let others = 0
  for (const entry of names) {
    const preset = entry.isDirectory() ? await readPreset(vaultDir, entry.name) : undefined
    if (preset) presets.push(preset)
    else others++
  }
  return { presets, others }
}

/** Reads one preset's folder; undefined when it holds no revision. Without its `preset.json` the folder's name serves. */
export async function readPreset(vaultDir: string, folder: string): Promise<PresetOnDisk | undefined> {
  const entries = await readdir(join(vaultDir, folder)).catch(() => [])
  const revisions = entries.flatMap(name => revisionNumber(name) ?? []).sort((a, b) => a - b)
  if (revisions.length === 0) return undefined
  const text = await readFile(join(vaultDir, folder, PRESET_FILE), 'utf8').catch(() => '')
  const named = presetFileSchema.safeParse(parseOrNull(text))
  return { ...(named.success ? named.data : { id: `folder:${folder}`.slice(0, 80), name: folder }), folder, revisions }
}

/** Reads one revision. What is wrong with it is said in `problem`, so that one broken preset hides no other. */
export async function readRevision(vaultDir: string, folder: string, number: number): Promise<RevisionOnDisk> {
  const path = revisionPath(vaultDir, folder, number)
  try {
    const file = readKitFile(await readFile(join(path, 'data', 'kit.json'), 'utf8'))
    const sizes = await payloadSizes(path)
    const missing = Object.values(file.samples).filter(sample => !sizes.has(`data/${sample.path}`))
    return {
      number,
      storedAt: (await stat(join(path, 'bagit.txt'))).mtime,
      pads: file.kit.pads.filter(pad => pad.layers.length > 0).length,
      samples: Object.keys(file.samples).length,
      bytes: [...sizes.values()].reduce((sum, size) => sum + size, 0),
      file,
      problem: missing.length > 0 ? `${missing.length} of its samples are missing from ${path}.` : null,
    }
  }
  catch (thrown) {
    const reason = thrown instanceof EmporionError ? thrown.message : `It could not be read: ${messageOf(thrown)}.`
    return { number, storedAt: new Date(0), pads: 0, samples: 0, bytes: 0, file: null, problem: reason }
  }
}

async function payloadSizes(path: string): Promise<Map<string, number>> {
  const listed = parseManifest(await readFile(join(path, MANIFEST), 'utf8'))
  const sizes = new Map<string, number>()
  for (const name of listed.keys()) {
    const found = await stat(join(path, name)).catch(() => undefined)
    if (found) sizes.set(name, found.size)
  }
  return sizes
}

function parseOrNull(text: string): unknown {
  try {
    return JSON.parse(text)
  }
  catch {
    return null
  }
}
