import { getPriority, platform, setPriority } from 'node:os'
import { setFlagsFromString } from 'node:v8'
import { analyseFile, type Analysis } from '../library/analyse'
import type { Batch } from '../library/pool'

/** Gives way to whoever searches meanwhile. */
const NICENESS = 5
// Linux keeps this by thread; elsewhere it would be the whole server. It may be lower already, and must not be raised then.
if (platform() === 'linux') setPriority(Math.max(NICENESS, getPriority()))

/**
 * So much of a function is run before it is compiled for speed. By itself V8 takes 67,584 bytes, and compiles hundreds of functions
 * in each of these threads that are soon done with them: of an intake of 5,000 one-shots that was a sixth of all work.
 */
const RUN_BEFORE_COMPILED_BYTES = 600_000
setFlagsFromString(`--interrupt-budget=${RUN_BEFORE_COMPILED_BYTES}`)

/** Task of the analysis pool: one batch of files, so that messages stay few. */
export default async function analyseBatch({ paths, roots }: Batch): Promise<Analysis[]> {
  const found: Analysis[] = []
  for (const path of paths) found.push(await analyseFile(path, roots))
  return found
}
