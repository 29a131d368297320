import { mkdir, rename, rm, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { setImmediate } from 'node:timers/promises'
import { allKits } from './kits'
import { allPacks } from './packs/packs'

/** The seed of the demo that is made from the page and by `./emporion demo`. */
export const DEMO_SEED = 9

/**
 * Synthesises the demo's packs and kits into a folder. They are written beside their place and moved there whole, so that an
 * interrupted run is done again from the start.
 *
 * @param each called before each file with how many are done, of how many, and its path; may throw to end it
 */
export async function writeDemo(folder: string, each: (done: number, total: number, path: string) => void): Promise<void> {
  const part = `${folder}.part`
  const packs = allPacks(DEMO_SEED)
  try {
    for (const [done, file] of packs.entries()) {
      each(done, packs.length, file.path)
      const path = join(part, file.path)
      await mkdir(dirname(path), { recursive: true })
      await writeFile(path, file.make())
      await setImmediate()
    }
    for (const { path, text } of allKits(DEMO_SEED)) await writeFile(join(part, path), text)
    await rm(folder, { recursive: true, force: true })
    await rename(part, folder)
  }
  finally {
    await rm(part, { recursive: true, force: true })
  }
}
