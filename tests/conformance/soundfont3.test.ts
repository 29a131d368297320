import { spawnSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'
import { ByteReader } from '../../core/audio/bytes'
import { writeForTarget } from '../../core/fit/write'
import { chunkBytes, chunksOfList, listBytes, memorySource, openRiff } from '../../core/formats/riff'
import { readSf2 } from '../helpers/foreign'
import { fit, kitOf, layerOf, Sounds, target } from '../helpers/fit'

/*
 * SoundFont 3, from memory (common practice): as version 2, but that samples are Ogg Vorbis, 0x10 in their type says so, their start
 * and end count in bytes of the samples chunk, and their loops from the start of the sample.
 */

const sounds = new Sounds()
const kit = kitOf([
  { name: 'One', layers: [layerOf(sounds.hit('one', 1, { seconds: 0.4, sampleRate: 44_100 }))] },
  { name: 'Two', layers: [layerOf(sounds.hit('two', 2, { seconds: 0.3, sampleRate: 44_100, stereo: true }))] },
])

function vorbis(samples: Float32Array, sampleRate: number): Uint8Array {
  const { stdout, status } = spawnSync('ffmpeg', ['-v', 'error', '-f', 'f32le', '-ar', String(sampleRate), '-ac', '1', '-i', 'pipe:', '-c:a', 'libvorbis', '-q:a', '8', '-f', 'ogg', 'pipe:'], { input: Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength), maxBuffer: 1e8 })
  expect(status).toBe(0)
  return new Uint8Array(stdout)
}

/** Packs the samples of a bank of version 2. */
async function packed(bytes: Uint8Array): Promise<Uint8Array> {
  const source = memorySource(bytes)
  const top = await openRiff(source, 'sfbk', 'bank')
  const lists = await Promise.all(['INFO', 'sdta', 'pdta'].map(async id => Promise.all((await chunksOfList(source, top, id)).map(async chunk => ({ id: chunk.id, bytes: Uint8Array.from(await source.read(chunk.offset, chunk.size)) })))))
  const [info, data, tables] = lists
  const smpl = data!.find(chunk => chunk.id === 'smpl')!.bytes
  const shdr = tables!.find(chunk => chunk.id === 'shdr')!.bytes
  const view = new DataView(shdr.buffer)
  const reader = new ByteReader(shdr, 'shdr')
  const parts: Uint8Array[] = []
  let at = 0
  for (let head = 0; head + 46 < shdr.length; head += 46) {
    const [start, end] = [reader.u32(head + 20, true), reader.u32(head + 24, true)]
    const words = new Int16Array(smpl.slice(start * 2, end * 2).buffer)
    const part = vorbis(Float32Array.from(words, word => word / 0x8000), reader.u32(head + 36, true))
    parts.push(part)
    view.setUint32(head + 20, at, true)
    view.setUint32(head + 24, at + part.length, true)
    view.setUint32(head + 28, 0, true)
    view.setUint32(head + 32, end - start, true)
    view.setUint16(head + 44, reader.u16(head + 44, true) | 0x10, true)
    at += part.length
  }
  info!.find(chunk => chunk.id === 'ifil')!.bytes[0] = 3
  return listBytes('sfbk', [
    listBytes('INFO', info!.map(chunk => chunkBytes(chunk.id, chunk.bytes))),
    listBytes('sdta', [chunkBytes('smpl', ...parts)]),
    listBytes('pdta', tables!.map(chunk => chunkBytes(chunk.id, chunk.bytes))),
  ], 'RIFF')
}

describe('SoundFont with packed samples', () => {
  const bank = writeForTarget(fit(kit, sounds, { ...target('sf2'), audio: { ...target('sf2').audio, depths: [16] } }).made, target('sf2'))[0]!.bytes

  it('reads as the bank that it was packed from, within what packing takes', async () => {
    const [plain, read] = [await readSf2(bank), await readSf2(await packed(bank))]
    expect(read.missing).toEqual([])
    const shapeOf = ({ kit: of }: typeof read) => of.pads.filter(pad => pad.layers.length > 0).map(pad => [pad.note, pad.name, pad.layers.map(layer => [layer.sound.channels, layer.gainDb, layer.tuneCents])])
    expect(shapeOf(read)).toEqual(shapeOf(plain))
    const audioOf = ({ kit: of, audio }: typeof read) => of.pads.filter(pad => pad.layers.length > 0).map(pad => audio.get(pad.layers[0]!.sound.id)!.channels)
    audioOf(plain).forEach((channels, pad) => channels.forEach((channel, side) => {
      const other = audioOf(read)[pad]![side]!
      const [error, whole] = channel.reduce(([sum, all], value, i) => [sum! + (value - (other[i] ?? 0)) ** 2, all! + value ** 2], [0, 0])
      expect(10 * Math.log10(error! / whole!)).toBeLessThan(-15)
    }))
  })

  it('a packed sample that is damaged is left out and named', async () => {
    const bytes = await packed(bank)
    const at = Buffer.from(bytes).indexOf('OggS')
    bytes.fill(0, at, at + 200)
    const { missing, kit: left } = await readSf2(bytes)
    expect(missing).toHaveLength(1)
    expect(left.pads.filter(pad => pad.layers.length > 0).map(pad => pad.name)).toEqual(['Two'])
  })
})
