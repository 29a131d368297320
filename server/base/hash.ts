import { createHash } from 'node:crypto'
import { pipeline } from 'node:stream/promises'
import { streamUserFile } from './opener'

/** The SHA-256 of a file, in hexadecimal, and its size in bytes; opened as `openUserFile` does. */
export async function hashFile(path: string, roots: readonly string[]): Promise<{ readonly sha256: string, readonly bytes: number }> {
  const { stream, size } = await streamUserFile(path, roots)
  const hash = createHash('sha256')
  await pipeline(stream, hash)
  return { sha256: hash.digest('hex'), bytes: size }
}
