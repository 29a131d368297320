import { parcelHead } from '../../core/parcel/parcels'
import type { Database } from '../db/open'
import { readUserFile } from '../base/opener'
import type { StudioConfig } from '../base/config'
import { expectSounds, locateSound } from './locate'

/** Longer files count as not there: they are asked for alone, and streamed. */
const LONGEST_TOGETHER_BYTES = 4_000_000

/** The files of several sounds in one stream, in the order in which they were asked for. */
export async function* soundParcels(db: Database, config: StudioConfig, hashes: readonly string[]): AsyncGenerator<Uint8Array> {
  await expectSounds(db, hashes)
  for (const reading of hashes.map(hash => shortFile(db, config, hash))) {
    const bytes = await reading
    yield parcelHead(bytes?.length ?? null)
    if (bytes) yield bytes
  }
}

async function shortFile(db: Database, config: StudioConfig, hash: string): Promise<Uint8Array | undefined> {
  const found = await locateSound(db, config, hash).catch(() => undefined)
  if (!found || found.size > LONGEST_TOGETHER_BYTES) return undefined
  return readUserFile(found.path, config.roots, LONGEST_TOGETHER_BYTES).catch(() => undefined)
}
