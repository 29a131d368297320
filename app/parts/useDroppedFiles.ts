import { AUDIO_NAME } from '~~/core/audio/extensions'
import { HEAD_BYTES, holdsBag, recognised, TAIL_BYTES } from '~~/core/formats/recognise'

export interface DroppedFile {
  readonly path: string
  readonly file: File
}

/** Files below a folder that was dropped, or several of their own. */
export interface DroppedFolder {
  readonly type: 'folder'
  readonly name: string
  /** Audio, by their names. */
  readonly files: readonly DroppedFile[]
  /** All others: a folder with an SFZ file, or an unpacked kit package, is a kit by these. */
  readonly others: readonly DroppedFile[]
}

/** A kit of another sampler: a SoundFont bank, a DLS collection, an archive, or a folder. */
export type DroppedKit = File | DroppedFolder

/** What was dropped on the page from outside, by what it is. */
export type Dropped =
  | DroppedFolder
  | { readonly type: 'archive', readonly file: File, readonly isPackage: boolean }
  /** A SoundFont bank or a DLS collection. */
  | { readonly type: 'kit', readonly file: File }
  | { readonly type: 'midi', readonly files: readonly File[] }
  | { readonly type: 'other', readonly names: readonly string[] }

/** True while something from outside the page is dragged over it. */
export function carriesFiles(event: DragEvent): boolean {
  return event.dataTransfer?.types.includes('Files') ?? false
}

/** Reads what was dropped, folders with all below them. Files are taken for what their first bytes say they are. */
export async function readDropped(event: DragEvent): Promise<Dropped[]> {
  // Entries must be asked for before the first wait: the event forgets them then.
  const entries = [...event.dataTransfer?.items ?? []].flatMap(item => item.webkitGetAsEntry() ?? [])
  const dropped: Dropped[] = []
  const loose: DroppedFile[] = []
  const texts: DroppedFile[] = []
  const midi: File[] = []
  const others: string[] = []
  for (const entry of entries) {
    if (entry.isDirectory) {
      const all = await filesBelow(entry as FileSystemDirectoryEntry, '')
      dropped.push({ type: 'folder', name: entry.name, ...apart(all) })
      continue
    }
    const file = await fileOf(entry as FileSystemFileEntry)
    const sort = recognised(new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer()))
    if (sort === 'zip') dropped.push({ type: 'archive', file, isPackage: holdsBag(new Uint8Array(await file.slice(-TAIL_BYTES).arrayBuffer())) })
    else if (sort === 'sf2' || sort === 'dls') dropped.push({ type: 'kit', file })
    else if (sort === 'midi') midi.push(file)
    else if (sort === 'audio' || AUDIO_NAME.test(file.name)) loose.push({ path: file.name, file })
    else if (file.name.toLowerCase().endsWith('.sfz')) texts.push({ path: file.name, file })
    else others.push(file.name)
  }
  if (loose.length > 0) dropped.push({ type: 'folder', name: nameOfLoose(loose.map(({ path }) => path)), files: loose, others: texts })
  else others.push(...texts.map(({ path }) => path))
  if (midi.length > 0) dropped.push({ type: 'midi', files: midi })
  if (others.length > 0) dropped.push({ type: 'other', names: others })
  return dropped
}

/** What a source of single files is called: after the first of them. */
function nameOfLoose(names: readonly string[]): string {
  const [first = ''] = names
  const stem = first.replace(/\.[^.]*$/, '') || first
  return names.length > 1 ? `${stem} and ${names.length - 1} more` : stem
}

function apart(all: readonly DroppedFile[]): { files: DroppedFile[], others: DroppedFile[] } {
  return { files: all.filter(({ path }) => AUDIO_NAME.test(path)), others: all.filter(({ path }) => !AUDIO_NAME.test(path)) }
}

async function filesBelow(folder: FileSystemDirectoryEntry, prefix: string): Promise<DroppedFile[]> {
  const found: DroppedFile[] = []
  const reader = folder.createReader()
  for (;;) {
    // A reader gives its entries in portions, and none at its end.
    const portion = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject))
    if (portion.length === 0) return found
    for (const entry of portion) {
      const path = `${prefix}${entry.name}`
      if (entry.name.startsWith('.')) continue
      if (entry.isDirectory) found.push(...await filesBelow(entry as FileSystemDirectoryEntry, `${path}/`))
      else found.push({ path, file: await fileOf(entry as FileSystemFileEntry) })
    }
  }
}

function fileOf(entry: FileSystemFileEntry): Promise<File> {
  return new Promise((resolve, reject) => entry.file(resolve, reject))
}
