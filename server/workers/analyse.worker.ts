import { getPriority, platform, setPriority } from 'node:os'
import { analyseFile, type Analysis } from '../library/analyse'

/** Gives way to whoever searches meanwhile. */
const NICENESS = 5
// Linux keeps this by thread; elsewhere it would be the whole server. It may be lower already, and must not be raised then.
if (platform() === 'linux') setPriority(Math.max(NICENESS, getPriority()))

/** Task of the analysis pool: one batch of files, so that messages stay few. */
export default async function analyseBatch(paths: readonly string[]): Promise<Analysis[]> {
  const found: Analysis[] = []
  for (const path of paths) found.push(await analyseFile(path))
  return found
}
