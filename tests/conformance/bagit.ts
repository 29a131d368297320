import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { join, relative } from 'node:path'

/**
 * A checker of bags written from RFC 8493 alone, apart from Emporion's own code. Gives one sentence for each rule
 * that a bag breaks.
 */
export function checkBag(bag: string): string[] {
  const broken: string[] = []
  const need = (holds: boolean, rule: string) => {
    if (!holds) broken.push(rule)
  }
  const text = (name: string) => existsSync(join(bag, name)) ? readFileSync(join(bag, name), 'utf8') : ''
  const below = (folder: string) => readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter(entry => entry.isFile()).map(entry => relative(bag, join(entry.parentPath, entry.name)))

  need(/^BagIt-Version: 1\.0\r?\nTag-File-Character-Encoding: UTF-8\r?\n?$/.test(text('bagit.txt')), '2.1.1: bagit.txt states version and encoding, two lines, no byte order mark')
  need(existsSync(join(bag, 'data')) && statSync(join(bag, 'data')).isDirectory(), '2.1.2: there is a payload folder named data')
  const manifest = lines(text('manifest-sha256.txt'))
  need(manifest.size > 0, '2.1.3: there is a payload manifest')
  const payload = below(join(bag, 'data'))
  need(payload.every(path => manifest.has(path)), '3: every payload file is listed in the manifest')
  for (const [path, sum] of manifest) {
    need(path.startsWith('data/'), `2.1.3: ${path} is below data/`)
    need(existsSync(join(bag, path)) && sha256(join(bag, path)) === sum, `3: ${path} is there with its checksum`)
  }
  const tags = lines(text('tagmanifest-sha256.txt'))
  need(tags.has('manifest-sha256.txt') && !tags.has('tagmanifest-sha256.txt'), '2.2.1: the tag manifest lists the payload manifest and not itself')
  for (const [path, sum] of tags) need(existsSync(join(bag, path)) && sha256(join(bag, path)) === sum, `2.2.1: ${path} is there with its checksum`)
  const oxum = /^Payload-Oxum: (\d+)\.(\d+)$/m.exec(text('bag-info.txt'))
  const bytes = payload.reduce((sum, path) => sum + statSync(join(bag, path)).size, 0)
  need(oxum !== null && Number(oxum[1]) === bytes && Number(oxum[2]) === payload.length, '2.2.2: Payload-Oxum is octets and streams of the payload')
  return broken
}

function lines(text: string): Map<string, string> {
  return new Map(text.split('\n').filter(Boolean).map((line) => {
    const [, sum, path] = /^([0-9a-f]{64}) +(.+)$/.exec(line) ?? []
    return [path ?? '', sum ?? '']
  }))
}

function sha256(path: string): string {
  return createHash('sha256').update(readFileSync(path)).digest('hex')
}
