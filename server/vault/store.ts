import { createHash, randomUUID } from 'node:crypto'
import { extname, join } from 'node:path'
import { decodeAudio } from '../../core/audio/decode'
import type { DecodedAudio } from '../../core/audio/decoded'
import { tpdfDither } from '../../core/audio/dither'
import { writeWave } from '../../core/audio/wave/write'
import { EmporionError } from '../../core/errors'
import { BAG_DECLARATION, bagInfoText, MANIFEST, manifestText, TAG_MANIFEST, type BagEntry } from '../../core/formats/package/bag'
import { writeKitFile, type OwnPattern, type PresetType } from '../../core/formats/package/kitFile'
import { portableName, UniqueNames } from '../../core/formats/package/names'
import { writeSfz } from '../../core/formats/sfz/write'
import { assignParts } from '../../core/groove/assign'
import { midiFromPattern } from '../../core/groove/midi/fromPattern'
import { timedNotes } from '../../core/groove/played'
import { soundsOf, type Kit, type Layer, type SoundRef } from '../../core/kit/document'
import { unsilenced } from '../../core/kit/silencing'
import { presetExists } from '../../core/kit/words'
import { fadeEdges } from '../../core/render/edges'
import { levelled } from '../../core/render/levelling'
import { renderKit } from '../../core/render/offline'
import { prepareSound } from '../../core/render/prepare'
import { previewNotes } from '../../core/render/preview'
import type { PreparedSound } from '../../core/render/voice'
import type { Heard } from '../../contract/bounce'
import type { Stored } from '../../contract/jobs'
import { isSound } from '../library/analyse'
import { diskError, hasCode, type Disk } from '../base/disk'
import { PRESET_FILE, revisionFolder, STORING_PREFIX } from './layout'
import { readVault, type PresetFile } from './read'
import { counted } from '../../core/wording'

const PREVIEW_RATE = 48_000
const PREVIEW_LONGEST_SECONDS = 30
const PREVIEW_DITHER_SEED = 1

export interface StoreRequest {
  readonly kit: Kit
  readonly name: string
  /** The preset that gets a new revision; null for a new preset. */
  readonly presetId: string | null
  readonly type: PresetType
  /** Whether mutes and solos that were left on count in its preview. */
  readonly heard?: Heard
  /** The pattern that is stored with it; its preview is played then. */
  readonly pattern?: OwnPattern
}

interface PreviewFacts {
  /** So much lower than the kit, that it keeps to the ceiling; 0 or less. */
  readonly loweredDb: number
  readonly isSilent: boolean
}

export interface StoreTools {
  readonly vaultDir: string
  readonly disk: Disk
  readonly signal: AbortSignal
  /** The file that holds a sound, if there is one. */
  readonly locate: (soundId: string) => Promise<string | undefined>
  readonly onSample: (done: number, total: number, name: string, bytes: number) => void
  readonly now: Date
  /** Lets nobody else take a name meanwhile; without it nobody else is there. */
  readonly withNames?: <T>(work: () => Promise<T>) => Promise<T>
}

/**
 * Stores a kit as a preset: a bag (RFC 8493) with the kit, an SFZ of it, copies of its samples bit for bit, and a
 * rendered preview. All is written to a folder of its own, flushed, and only then given its name, so that a full
 * disk or a crash leaves the old revisions and nothing half-written.
 *
 * @throws EmporionError `not-found` (samples are away), `exists` (the name is taken), `conflict` (a sample changed
 *   since it was brought in), `disk-full`
 */
export async function storePreset(request: StoreRequest, tools: StoreTools): Promise<Stored> {
  const { disk, vaultDir } = tools
  await disk.makeFolder(vaultDir)
  const preset = await placeFor(request, vaultDir)
  const files = await locateAll(request.kit, tools)
  const work = join(vaultDir, `${STORING_PREFIX}${randomUUID()}`)
  try {
    const bag = join(work, 'bag')
    const { entries: written, preview } = await writeBag(request, bag, files, tools)
    tools.signal.throwIfAborted()
    const { withNames = free => free() } = tools
    const { folder, revision } = await withNames(() => giveName(work, bag, preset, request.name, tools))
    return {
      presetId: preset.id,
      name: preset.name,
      revision,
      pads: request.kit.pads.filter(pad => pad.layers.length > 0).length,
      samples: files.size,
      bytes: written.reduce((sum, entry) => sum + entry.bytes, 0),
      previewLoweredDb: preview.loweredDb,
      previewSilent: preview.isSilent,
      path: join(vaultDir, folder, revisionFolder(revision)),
    }
  }
  catch (thrown) {
    throw diskError(thrown, `"${request.name}" was not stored`, 'Earlier revisions and the kit on the bench are unharmed.')
  }
  finally {
    await disk.remove(work).catch(() => undefined)
  }
}

interface Place extends PresetFile {
  readonly folder: string
  readonly next: number
  readonly fresh: boolean
}

async function placeFor(request: StoreRequest, vaultDir: string): Promise<Place> {
  const { presets } = await readVault(vaultDir)
  if (request.presetId !== null) {
    const known = presets.find(preset => preset.id === request.presetId)
    if (!known) throw new EmporionError('not-found', { what: 'The preset to be stored over is no longer in the vault.', kept: 'The kit on the bench is unharmed.', next: 'Store it under a name of its own.' })
    return { id: known.id, name: known.name, folder: known.folder, next: Math.max(...known.revisions) + 1, fresh: false }
  }
  const name = request.name.trim()
  if (name === '') throw new EmporionError('invalid', { what: 'A preset needs a name.', kept: 'The kit on the bench is unharmed.' })
  if (presets.some(preset => sameName(preset.name, name))) {
    throw nameTaken(name)
  }
  return { id: randomUUID(), name, folder: freeFolder(name, presets.map(preset => preset.folder)), next: 1, fresh: true }
}

function nameTaken(name: string): EmporionError {
  return new EmporionError('exists', { what: presetExists(name), kept: 'It was not changed.', next: 'Store this as its next revision, or choose another name.' })
}

/** Names that differ in capitals or spaces at the ends alone count as one. */
export function sameName(a: string, b: string): boolean {
  return a.trim().toLowerCase() === b.trim().toLowerCase()
}

/** A folder name for a preset that no other has, whatever the file system makes of capitals. */
export function freeFolder(name: string, taken: readonly string[]): string {
  const used = new Set(taken.map(folder => folder.toLowerCase()))
  const base = portableName(name, 'Preset')
  for (let i = 1; ; i++) {
    const folder = i === 1 ? base : `${base} ${i}`
    if (!used.has(folder.toLowerCase())) return folder
  }
}

async function locateAll(kit: Kit, tools: StoreTools): Promise<Map<string, { sound: SoundRef, path: string }>> {
  const found = new Map<string, { sound: SoundRef, path: string }>()
  const away: string[] = []
  for (const sound of soundsOf(kit)) {
    const path = await tools.locate(sound.id)
    if (path) found.set(sound.id, { sound, path })
    else away.push(`"${sound.name}"`)
  }
  if (away.length > 0) {
    throw new EmporionError('not-found', {
      what: `${away.length === 1 ? 'A sample is' : `${away.length} samples are`} nowhere to be found: ${away.slice(0, 5).join(', ')}${away.length > 5 ? ' ...' : ''}.`,
      kept: 'Nothing was stored; the kit on the bench is unharmed.',
      next: 'Bring their folder in again, or take them off their pads.',
    })
  }
  return found
}

async function writeBag(request: StoreRequest, bag: string, files: ReadonlyMap<string, { sound: SoundRef, path: string }>, tools: StoreTools): Promise<{ entries: BagEntry[], preview: PreviewFacts }> {
  const { disk } = tools
  const entries: BagEntry[] = []
  const put = async (path: string, bytes: Uint8Array) => {
    await disk.writeFile(join(bag, path), bytes)
    entries.push({ path, sha256: sha256(bytes), bytes: bytes.length })
  }
  await disk.makeFolder(join(bag, 'data', 'samples'))
  const names = new UniqueNames()
  const samples: Record<string, { path: string, bytes: number }> = {}
  const prepared = new Map<string, PreparedSound>()
  const bakedPaths = new Map<Layer, string>()
  for (const { sound, path } of files.values()) {
    tools.signal.throwIfAborted()
    const bytes = await disk.readFile(path)
    const audio = await decodeChecked(bytes, sound, path)
    const samplePath = `samples/${names.take(sound.name, extname(path).toLowerCase(), 'sample')}`
    await put(`data/${samplePath}`, bytes)
    samples[sound.id] = { path: samplePath, bytes: bytes.length }
    prepared.set(sound.id, prepareSound(audio, PREVIEW_RATE))
    for (const layer of layersToBake(request.kit, sound.id)) {
      const how = layer.reverse ? 'reversed' : 'faded'
      const bakedPath = `samples/${names.take(`${sound.name} ${how}`, '.wav', how)}`
      await put(`data/${bakedPath}`, bake(audio, layer))
      bakedPaths.set(layer, bakedPath)
    }
    tools.onSample(prepared.size, files.size, sound.name, bytes.length)
  }
  const text = (value: string) => new TextEncoder().encode(value)
  await put('data/kit.json', text(writeKitFile({ type: request.type, kit: { ...request.kit, name: request.name.trim() || request.kit.name }, ...(request.pattern ? { pattern: request.pattern } : {}), samples })))
  await put('data/kit.sfz', text(writeSfz(request.kit, layer => bakedPaths.has(layer)
    ? { path: bakedPaths.get(layer)!, baked: true }
    : { path: samples[layer.sound.id]!.path, baked: false })))
  if (request.pattern) {
    const { document } = request.pattern
    await disk.makeFolder(join(bag, 'data', 'patterns'))
    await put(`data/patterns/${portableName(document.name, 'pattern')}.mid`, midiFromPattern(document, { format: 1, notes: { by: 'kit', kit: request.kit, assignment: assignParts(document, request.kit, 'kind') } }).bytes)
  }
  const { bytes: previewBytes, ...preview } = renderPreview(request, prepared)
  await put('data/preview.wav', previewBytes)
  const tags: Record<string, Uint8Array> = {
    'bagit.txt': text(BAG_DECLARATION),
    'bag-info.txt': text(bagInfoText(entries, {
      'External-Identifier': request.name,
      'External-Description': `Drum kit, ${counted(files.size, 'sample')}`,
      'Bagging-Date': tools.now.toISOString().slice(0, 10),
      'Bag-Software-Agent': 'Emporion',
    })),
    [MANIFEST]: text(manifestText(entries)),
  }
  for (const [name, bytes] of Object.entries(tags)) await disk.writeFile(join(bag, name), bytes)
  const tagEntries = Object.entries(tags).map(([path, bytes]) => ({ path, sha256: sha256(bytes) }))
  await disk.writeFile(join(bag, TAG_MANIFEST), text(manifestText(tagEntries)))
  for (const folder of [join(bag, 'data', 'samples'), ...(request.pattern ? [join(bag, 'data', 'patterns')] : []), join(bag, 'data'), bag]) await disk.flushFolder(folder)
  return { entries, preview }
}

async function decodeChecked(bytes: Uint8Array, sound: SoundRef, path: string): Promise<DecodedAudio> {
  const audio = await decodeAudio(bytes)
  if (!isSound(audio, sound.id)) {
    throw new EmporionError('conflict', {
      what: `${path} no longer holds the sound "${sound.name}": the file was changed after it was brought in.`,
      kept: 'Nothing was stored; the kit on the bench is unharmed.',
      next: 'Scan its source again, then put the sound on its pad anew.',
    })
  }
  return audio
}

/** Layers that an SFZ file cannot describe: those played backwards, and those that fade. */
function layersToBake(kit: Kit, soundId: string): Layer[] {
  return kit.pads.flatMap(pad => pad.layers).filter(layer => layer.sound.id === soundId && (layer.reverse || layer.fadeInFrames > 0 || layer.fadeOutFrames > 0))
}

/** The trimmed and faded part of a layer, as it is heard, as a lossless float WAVE. */
function bake(audio: DecodedAudio, layer: Layer): Uint8Array {
  const channels = audio.channels.map((channel) => {
    const part = channel.slice(layer.startFrame, layer.endFrame)
    fadeEdges([part], { from: 0, count: part.length, span: part.length, fadeIn: layer.fadeInFrames, fadeOut: layer.fadeOutFrames })
    return layer.reverse ? part.reverse() : part
  })
  return writeWave(channels, audio.sampleRate, { depth: 'float' })
}

/** The kit's own pattern, or else its pads one after the other. */
function renderPreview({ kit, pattern, heard = 'as heard' }: StoreRequest, sounds: ReadonlyMap<string, PreparedSound>): { readonly bytes: Uint8Array } & PreviewFacts {
  const heardKit = heard === 'all pads' ? unsilenced(kit) : kit
  const notes = pattern ? timedNotes(pattern.document, kit) : []
  const { left, right } = renderKit(heardKit, sounds, notes.length > 0 ? notes : previewNotes(kit), { sampleRate: PREVIEW_RATE, longestSeconds: PREVIEW_LONGEST_SECONDS })
  const { channels, loweredDb } = levelled([left, right], PREVIEW_RATE)
  const isSilent = channels.every(channel => channel.every(value => value === 0))
  return { bytes: writeWave(channels, PREVIEW_RATE, { depth: 16, dither: tpdfDither(PREVIEW_DITHER_SEED) }), loweredDb, isSilent }
}

/** The one step that makes a bag part of the vault. Gives the number of the revision it became, and the preset's folder. */
async function giveName(work: string, bag: string, preset: Place, name: string, tools: StoreTools): Promise<{ folder: string, revision: number }> {
  const { disk, vaultDir } = tools
  if (preset.fresh) {
    // Another may have taken it while the samples were copied.
    const { presets } = await readVault(vaultDir)
    if (presets.some(other => sameName(other.name, preset.name))) throw nameTaken(preset.name)
    const free = freeFolder(preset.name, presets.map(other => other.folder))
    const whole = join(work, 'preset')
    await disk.makeFolder(whole)
    await disk.writeFile(join(whole, PRESET_FILE), new TextEncoder().encode(`${JSON.stringify({ id: preset.id, name: name.trim() }, null, 2)}\n`))
    await disk.rename(bag, join(whole, revisionFolder(preset.next)))
    await disk.flushFolder(whole)
    await disk.rename(whole, join(vaultDir, free))
    await disk.flushFolder(vaultDir)
    return { folder: free, revision: preset.next }
  }
  const folder = join(vaultDir, preset.folder)
  for (let number = preset.next; ; number++) {
    try {
      await disk.rename(bag, join(folder, revisionFolder(number)))
      await disk.flushFolder(folder)
      return { folder: preset.folder, revision: number }
    }
    catch (thrown) {
      // Another tab stored the same preset at the same moment: this becomes the revision after it.
      if (!hasCode(thrown, 'ENOTEMPTY', 'EEXIST') || number > preset.next + 100) throw thrown
    }
  }
}

function sha256(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex')
}
