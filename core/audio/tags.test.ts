import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sine } from '../../tests/helpers/audio'
import { freshFolder, put } from '../../tests/helpers/folder'
import { kindFromTags } from '../search/kindFromTags'
import { readTags } from './tags'
import { writeWave } from './wave/write'

const wave = writeWave([sine(440, 44_100, 22_050, 0.5)], 44_100, { depth: 16 })

/** An ID3v2.3 tag with text frames, written by hand. Source: id3.org, ID3v2.3.0, 3.1 and 4.2. */
function id3(frames: Readonly<Record<string, string>>): Buffer {
  const body = Buffer.concat(Object.entries(frames).map(([id, text]) => {
    const content = Buffer.concat([Buffer.from([3]), Buffer.from(text)])
    const head = Buffer.alloc(10)
    head.write(id, 0, 'latin1')
    head.writeUInt32BE(content.length, 4)
    return Buffer.concat([head, content])
  }))
  const size = [21, 14, 7, 0].map(shift => body.length >> shift & 0x7F)
  return Buffer.concat([Buffer.from('ID3'), Buffer.from([3, 0, 0, ...size]), body])
}

function withChunk(id: string, body: Buffer): Uint8Array {
  const head = Buffer.alloc(8)
  head.write(id, 0, 'latin1')
  head.writeUInt32LE(body.length, 4)
  const whole = Buffer.concat([wave, head, body, Buffer.alloc(body.length % 2)])
  whole.writeUInt32LE(whole.length - 8, 4)
  return whole
}

describe('tags', () => {
  it('reads Vorbis comments as the reference encoder of FLAC writes them', async () => {
    const folder = freshFolder()
    put(folder, 'a.wav', wave)
    expect(spawnSync('flac', ['-s', '-T', 'TITLE=Deck snare 3', '-T', 'BPM=122', '-T', 'GENRE=Percussion', join(folder, 'a.wav')]).status).toBe(0)
    expect(await readTags(readFileSync(join(folder, 'a.flac')))).toMatchObject({ texts: { title: 'Deck snare 3', genre: 'Percussion' }, bpm: 122 })
  })

  it('reads ID3 as lame writes it', async () => {
    const folder = freshFolder()
    put(folder, 'a.wav', wave)
    expect(spawnSync('lame', ['--quiet', '--tt', 'Harbour kick', '--tc', 'soft', '--tv', 'TBPM=98', '--tv', 'TKEY=Am', join(folder, 'a.wav'), join(folder, 'a.mp3')]).status).toBe(0)
    expect(await readTags(readFileSync(join(folder, 'a.mp3')))).toEqual({ texts: { title: 'Harbour kick', comment: 'soft' }, bpm: 98, key: 'Am' })
  })

  it('reads an ID3 chunk in WAVE, and looks for none where there is none', async () => {
    const tags = await readTags(withChunk('id3 ', id3({ TIT2: 'Bilge clap', TBPM: '104' })))
    expect(tags).toMatchObject({ texts: { title: 'Bilge clap' }, bpm: 104 })
    expect(kindFromTags({ tags })).toMatchObject({ path: 'clap', evidence: '"clap" in its title (title)' })
    expect(await readTags(wave)).toBeUndefined()
  })

  it('takes any bytes behind a marker, and any cut of a tagged file', async () => {
    const tagged = withChunk('id3 ', id3({ TIT2: 'Bilge clap' }))
    await fc.assert(fc.asyncProperty(fc.constantFrom('fLaC', 'OggS', 'ID3\u0003', 'RIFF'), fc.uint8Array({ maxLength: 400 }), async (marker, bytes) => {
      await readTags(Buffer.concat([Buffer.from(marker, 'latin1'), bytes]))
    }), { numRuns: 60 })
    await fc.assert(fc.asyncProperty(fc.nat(tagged.length), async cut => void await readTags(tagged.slice(0, cut))), { numRuns: 60 })
  })
})
