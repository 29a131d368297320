import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { readdir, readFile, stat } from 'node:fs/promises'
import { join, relative, sep } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { EmporionError } from '../../core/errors'
import { bagProblems, MANIFEST, parseManifest } from '../../core/formats/package/bag'

/** The folder of the bag in what was unpacked: this one, or one within it. @throws EmporionError `invalid` */
export async function bagIn(folder: string): Promise<string> {
  const holders = [folder, ...(await readdir(folder, { withFileTypes: true })).filter(entry => entry.isDirectory()).map(entry => join(folder, entry.name))]
  for (const holder of holders) {
    if (await stat(join(holder, 'bagit.txt')).catch(() => undefined)) return holder
  }
  throw new EmporionError('invalid', { what: 'This archive is not a kit package: it has no bagit.txt.', kept: 'Nothing was imported.', next: 'To bring in samples from an archive, drop it on the Library.' })
}

/** What of a bag is not as its manifest says, one sentence each. @throws EmporionError `invalid` when it has none */
export async function bagProblemsOf(bag: string): Promise<string[]> {
  const manifest = parseManifest(await readFile(join(bag, MANIFEST), 'utf8').catch(() => {
    throw new EmporionError('invalid', { what: `This archive is not a kit package: it has no ${MANIFEST}.`, kept: 'Nothing was imported.' })
  }))
  const present = new Map<string, string>()
  for (const entry of await readdir(join(bag, 'data'), { recursive: true, withFileTypes: true }).catch(() => [])) {
    if (!entry.isFile()) continue
    const path = join(entry.parentPath, entry.name)
    const hash = createHash('sha256')
    await pipeline(createReadStream(path), hash)
    present.set(relative(bag, path).split(sep).join('/'), hash.digest('hex'))
  }
  return bagProblems(manifest, present)
}
