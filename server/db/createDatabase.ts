import { setFlagsFromString } from 'node:v8'
import { PGlite } from '@electric-sql/pglite'

/**
 * So much of a function is run before it is compiled a second time, for speed. By itself V8 takes 1.8 million bytes, and does so
 * with thousands of functions of the database that are hardly used again: a start took 5.3 s of a core in place of 3.2.
 */
const RUN_BEFORE_COMPILED_AGAIN_BYTES = 120_000_000

/** Opens the database in a folder, or makes one there. */
export function createDatabase(dataDir: string): Promise<PGlite> {
  setFlagsFromString(`--wasm-tiering-budget=${RUN_BEFORE_COMPILED_AGAIN_BYTES}`)
  return PGlite.create(dataDir)
}
