import { createWriteStream, existsSync, mkdirSync, readdirSync, readFileSync, symlinkSync, truncateSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { finished } from 'node:stream/promises'
import { describe, expect, it } from 'vitest'
import { ZipFile } from 'yazl'
import { freshFolder, put, waveOf } from '../../tests/helpers/folder'
import { analyseFile } from './analyse'
import { browse } from './browse'
import { allowedPath } from '../base/roots'
import { unzipInto } from './unzip'
import { receiveFile } from './uploads'
import { walk, type Walked } from './walk'

async function zipOf(fill: (zip: ZipFile) => void): Promise<string> {
  const path = join(freshFolder(), 'a.zip')
  const zip = new ZipFile()
  fill(zip)
  zip.end()
  await finished((zip.outputStream as unknown as Readable).pipe(createWriteStream(path)))
  return path
}

/** A zip of so many empty files, written by hand, with the Zip64 end records that many entries need. Source: PKWARE APPNOTE 4.3. */
function zipOfEmptyFiles(count: number): string {
  const u = (size: number, value: number) => {
    const bytes = Buffer.alloc(size)
    if (size === 8) bytes.writeBigUInt64LE(BigInt(value))
    else bytes.writeUIntLE(value, 0, size)
    return bytes
  }
  const parts: Buffer[] = []
  const directory: Buffer[] = []
  let at = 0
  for (let i = 0; i < count; i++) {
    const name = Buffer.from(`${i}.wav`)
    const shared = [u(2, 20), u(2, 0), u(2, 0), u(2, 0), u(2, 33), u(4, 0), u(4, 0), u(4, 0), u(2, name.length), u(2, 0)]
    const local = Buffer.concat([u(4, 0x04034B50), ...shared, name])
    directory.push(Buffer.concat([u(4, 0x02014B50), u(2, 20), ...shared, u(2, 0), u(2, 0), u(2, 0), u(4, 0), u(4, at), name]))
    parts.push(local)
    at += local.length
  }
  const central = Buffer.concat(directory)
  const end64 = Buffer.concat([u(4, 0x06064B50), u(8, 44), u(2, 45), u(2, 45), u(4, 0), u(4, 0), u(8, count), u(8, count), u(8, central.length), u(8, at)])
  const locator = Buffer.concat([u(4, 0x07064B50), u(4, 0), u(8, at + central.length), u(4, 1)])
  const end = Buffer.concat([u(4, 0x06054B50), u(2, 0), u(2, 0), u(2, 0xFFFF), u(2, 0xFFFF), u(4, central.length), u(4, at), u(2, 0)])
  return put(freshFolder(), 'many.zip', Buffer.concat([...parts, central, end64, locator, end]))
}

/** Changes names in a zip's bytes to others of the same length, which no careful writer would write. */
async function withName(from: string, to: string): Promise<string> {
  const path = await zipOf(zip => zip.addBuffer(Buffer.from('x'), from))
  writeFileSync(path, Buffer.from(readFileSync(path).toString('latin1').replaceAll(from, to), 'latin1'))
  return path
}

function unzip(archive: string, folder = freshFolder(), signal = new AbortController().signal) {
  return unzipInto(archive, folder, { signal, onEntry: () => undefined })
}

describe('archives', () => {
  it('are unpacked with their folders, without hidden files', async () => {
    const folder = freshFolder()
    await unzip(await zipOf((zip) => {
      zip.addBuffer(Buffer.from('one'), 'Pack/Kick/ä 1.wav')
      zip.addBuffer(Buffer.from('no'), '__MACOSX/Pack/._1.wav')
      zip.addBuffer(Buffer.from('no'), 'Pack/.hidden')
    }), folder)
    expect(readdirSync(folder, { recursive: true }).map(String).toSorted()).toEqual(['Pack', 'Pack/Kick', 'Pack/Kick/ä 1.wav'])
  })

  it.each([['aaa/evil.wav', '../'.padEnd(3) + 'aevil.wav'], ['aaaa/evil.wav', '/etc/evil.wavx'.slice(0, 13)], ['aaaa/evil.wav', 'C:/a/evil.wav']])('that reach out of their folder are refused whole (%s as %s)', async (from, to) => {
    const folder = freshFolder()
    await expect(unzip(await withName(from, to.slice(0, from.length)), folder)).rejects.toThrow(/leaves its folder/)
    expect(readdirSync(folder)).toEqual([])
  })

  it('of 100,000 entries are refused before anything is written', async () => {
    const folder = freshFolder()
    await expect(unzip(zipOfEmptyFiles(100_000), folder)).rejects.toThrow(/100000 entries; 50000 are the most/)
    expect(readdirSync(folder)).toEqual([])
  })

  it('that unpack to a thousand times their size are refused before anything is written', async () => {
    const folder = freshFolder()
    const archive = await zipOf(zip => zip.addBuffer(Buffer.alloc(100_000_000), 'zeros.wav', { compress: true, compressionLevel: 9 }))
    await expect(unzip(archive, folder)).rejects.toThrow(/more than 200 times its own size/)
    expect(readdirSync(folder)).toEqual([])
  })

  it('that are none, or cut short, are refused with a reason', async () => {
    const whole = await zipOf(zip => zip.addBuffer(Buffer.from('x'.repeat(5000)), 'a.wav'))
      const bytes = readFileSync(whole)
    for (const part of [Buffer.alloc(0), Buffer.from('no zip'), bytes.subarray(0, bytes.length - 30)]) {
      const path = put(freshFolder(), 'bad.zip', part)
      await expect(unzip(path)).rejects.toThrow(/not a whole zip/)
    }
  })

  it('stop when cancelled', async () => {
    const cancelling = new AbortController()
    cancelling.abort()
    await expect(unzip(await zipOf(zip => zip.addBuffer(Buffer.from('x'), 'a.wav')), freshFolder(), cancelling.signal)).rejects.toThrow()
  })
})

describe('what may be read', () => {
  it('is below the roots, after links are followed', async () => {
    const root = freshFolder()
    const elsewhere = freshFolder()
    mkdirSync(join(root, 'in'))
    symlinkSync(elsewhere, join(root, 'out'))
    expect(await allowedPath(join(root, 'in'), [root])).toBe(join(root, 'in'))
    await expect(allowedPath(join(root, 'out'), [root])).rejects.toThrow(/outside the folders/)
    await expect(allowedPath(elsewhere, [root])).rejects.toThrow(/outside the folders/)
    await expect(allowedPath(join(root, '..', 'etc'), [root])).rejects.toThrow(/outside the folders/)
    await expect(allowedPath('relative', [root])).rejects.toThrow(/not a whole path/)
    await expect(allowedPath(join(root, 'gone'), [root])).rejects.toThrow(/is not there/)
    await expect(allowedPath(`${root}x`, [root])).rejects.toThrow(/outside the folders/)
  })

  it('browsing lists folders in natural order and goes no higher than a root', async () => {
    const root = freshFolder()
    for (const name of ['Take 10', 'Take 2', '.hidden']) mkdirSync(join(root, name))
    put(root, 'a.wav', waveOf(100))
    const found = await browse(undefined, [root])
    expect(found).toMatchObject({ path: root, parent: null, audioFiles: 1 })
    expect(found.folders.map(folder => folder.name)).toEqual(['Take 2', 'Take 10'])
  })

  it('an uploaded path that leaves its folder is refused', async () => {
    const uploads = freshFolder()
    for (const path of ['../x.wav', '/x.wav', 'a/../../x.wav', '']) {
      await expect(receiveFile(uploads, '0'.repeat(8), path, Readable.from([]))).rejects.toThrow(/no path below/)
    }
  })
})

async function walked(root: string): Promise<Walked[]> {
  const found: Walked[] = []
  for await (const part of walk(root)) found.push(...part)
  return found
}

describe('walking a folder', () => {
  it('finds audio by its ending, counts other files, survives links in a ring and links that lead out', async () => {
    const root = freshFolder()
    put(root, 'a/Kick.WAV', waveOf(100))
    put(root, 'a/b/Snare.aif', 'x')
    put(root, 'a/read me.txt', 'x')
    put(root, '.hidden/x.wav', 'x')
    symlinkSync(root, join(root, 'a', 'ring'))
    symlinkSync(put(freshFolder(), 'secret.wav', 'x'), join(root, 'secret.wav'))
    symlinkSync(join(root, 'nowhere'), join(root, 'dead.wav'))
    const found = await walked(root)
    expect(found.flatMap(entry => entry.type === 'file' ? [entry.path] : []).toSorted()).toEqual(['a/Kick.WAV', 'a/b/Snare.aif'])
    expect(found.filter(entry => entry.type === 'other')).toEqual([{ type: 'other', ending: 'txt' }])
    expect(found.flatMap(entry => entry.type === 'problem' ? [entry.path] : []).toSorted()).toEqual(['dead.wav', 'secret.wav'])
  })

  it('declines paths longer than the database keeps, with what is needed to find them', async () => {
    const root = freshFolder()
    const deep = Array.from({ length: 7 }, (_, i) => `${i}`.repeat(100)).join('/')
    put(root, `${deep}/Kick.wav`, waveOf(100))
    put(root, 'fine.wav', waveOf(100))
    const found = await walked(root)
    expect(found).toEqual([
      expect.objectContaining({ type: 'file', path: 'fine.wav' }),
      { type: 'problem', path: `${deep.slice(0, 200)} ... ${`${deep}/Kick.wav`.slice(-200)}`, reason: expect.stringContaining('has 715 characters; up to 640') },
    ])
  })
})

describe('names that are not UTF-8, folders that may not be read, files of two gigabytes', () => {
  it('are reported with the reason, and the rest is found', async () => {
    const root = freshFolder()
    put(root, 'fine.wav', waveOf(100))
    mkdirSync(Buffer.concat([Buffer.from(`${root}/`), Buffer.from([0x4B, 0xE4, 0x73])]))
    writeFileSync(Buffer.concat([Buffer.from(`${root}/`), Buffer.from([0xFF, 0xFE]), Buffer.from('.wav')]), 'x')
    const found = await walked(root)
    expect(found.flatMap(entry => entry.type === 'file' ? [entry.path] : [])).toEqual(['fine.wav'])
    expect(found.flatMap(entry => entry.type === 'problem' ? [entry.reason] : [])).toEqual([expect.stringContaining('not valid UTF-8'), expect.stringContaining('not valid UTF-8')])
  })

  it('a file of two gigabytes is declined before it is read', async () => {
    const path = put(freshFolder(), 'hour.wav', waveOf(100))
    truncateSync(path, 2_100_000_000)
    expect(await analyseFile(path, ['/'])).toEqual({ error: expect.stringContaining('The file has 2100 MB') })
  })
})

describe('analysing a file', () => {
  it('gives the facts, or the reason in words', async () => {
    const folder = freshFolder()
    expect(await analyseFile(put(folder, 'a.wav', waveOf(100, 441)), ['/'])).toMatchObject({ facts: { container: 'WAVE', codec: 'PCM', sampleRate: 44_100, bitDepth: 16, channels: 1, frames: 441, lengthSeconds: 0.01 } })
    expect(await analyseFile(put(folder, 'b.wav', 'Sorry.'), ['/'])).toEqual({ error: expect.stringContaining('no audio that Emporion knows') })
    expect(await analyseFile(join(folder, 'c.wav'), ['/'])).toEqual({ error: expect.stringContaining('could not be read'), isOfDisk: true })
    expect(existsSync(join(folder, 'a.wav'))).toBe(true)
  })
})
