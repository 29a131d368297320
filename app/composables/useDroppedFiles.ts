import { AUDIO_NAME } from '~~/core/audio/extensions'

/** Files that were dropped on the page from outside: one folder (or loose files), or an archive. */
export type Dropped =
  | { readonly type: 'archive', readonly file: File }
  | { readonly type: 'folder', readonly name: string, readonly files: readonly { readonly path: string, readonly file: File }[] }

/** True while something from outside the page is dragged over it. */
export function carriesFiles(event: DragEvent): boolean {
  return event.dataTransfer?.types.includes('Files') ?? false
}

/** Reads what was dropped, folders with all below them. Files that are no audio are left out. */
export async function readDropped(event: DragEvent): Promise<Dropped[]> {
  // Entries must be asked for before the first wait: the event forgets them then.
  const entries = [...event.dataTransfer?.items ?? []].flatMap(item => item.webkitGetAsEntry() ?? [])
  const dropped: Dropped[] = []
  const loose: { path: string, file: File }[] = []
  for (const entry of entries) {
    if (entry.isDirectory) dropped.push({ type: 'folder', name: entry.name, files: await filesBelow(entry as FileSystemDirectoryEntry, '') })
    else {
      const file = await fileOf(entry as FileSystemFileEntry)
      if (/\.zip$/i.test(file.name)) dropped.push({ type: 'archive', file })
      else if (AUDIO_NAME.test(file.name)) loose.push({ path: file.name, file })
    }
  }
  if (loose.length > 0) dropped.push({ type: 'folder', name: 'Dropped files', files: loose })
  return dropped
}

async function filesBelow(folder: FileSystemDirectoryEntry, prefix: string): Promise<{ path: string, file: File }[]> {
  const found: { path: string, file: File }[] = []
  const reader = folder.createReader()
  for (;;) {
    // A reader gives its entries in portions, and none at its end.
    const portion = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject))
    if (portion.length === 0) return found
    for (const entry of portion) {
      const path = `${prefix}${entry.name}`
      if (entry.name.startsWith('.')) continue
      if (entry.isDirectory) found.push(...await filesBelow(entry as FileSystemDirectoryEntry, `${path}/`))
      else if (AUDIO_NAME.test(entry.name)) found.push({ path, file: await fileOf(entry as FileSystemFileEntry) })
    }
  }
}

function fileOf(entry: FileSystemFileEntry): Promise<File> {
  return new Promise((resolve, reject) => entry.file(resolve, reject))
}
