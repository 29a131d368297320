import { mkdir, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { allPacks } from './packs/packs'

export interface MakeTask {
  readonly folder: string
  readonly seed: number
  /** Which files of all packs: every `step`-th from `first` on. */
  readonly first: number
  readonly step: number
}

/** Task of the demo's pool: makes a share of the files; gives the bytes written. */
export default async function makeShare({ folder, seed, first, step }: MakeTask): Promise<number> {
  const files = allPacks(seed)
  let bytes = 0
  for (let i = first; i < files.length; i += step) {
    const path = join(folder, files[i]!.path)
    const contents = files[i]!.make()
    bytes += contents.length
    await mkdir(dirname(path), { recursive: true })
    await writeFile(path, contents)
  }
  return bytes
}
