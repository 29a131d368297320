import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { freshFolder } from '../../../tests/helpers/folder'
import { decodeAudio } from '../decode'
import { writeWave } from '../wave/write'
import { vorbisOrder, waveOrder } from './channelOrder'
import { oggPackets } from './packets'

const folder = freshFolder()
const RATE = 48_000
/** A tone of its own for each channel, in the order of WAVE; the fourth is the one for low frequencies. */
const TONES = [220, 330, 440, 60, 660, 770, 880, 990]
const LAYOUTS: Readonly<Record<number, string>> = { 1: 'mono', 2: 'stereo', 4: 'quad', 5: '5.0(back)', 6: '5.1(back)', 7: '6.1', 8: '7.1' }

function waveOfTones(count: number): string {
  const path = join(folder, `${count}.wav`)
  writeFileSync(path, writeWave(Array.from({ length: count }, (_, c) => Float32Array.from({ length: RATE / 2 }, (_, i) => 0.4 * Math.sin(2 * Math.PI * TONES[c]! * i / RATE))), RATE, { depth: 16 }))
  return path
}

/** The tone of a channel, by its zero crossings in the middle. */
function toneOf(channel: Float32Array): number {
  let [count, first, last] = [0, 0, 0]
  for (let i = 4000; i < 20_000; i++) {
    if (!(channel[i]! < 0 && channel[i + 1]! >= 0)) continue
    if (count++ === 0) first = i
    last = i
  }
  const hz = (count - 1) * RATE / (last - first)
  return TONES.find(tone => Math.abs(tone - hz) < tone * 0.05) ?? hz
}

describe('Ogg', () => {
  it.each([[4, 'libvorbis'], [5, 'libvorbis'], [6, 'libvorbis'], [8, 'libvorbis'], [6, 'libopus']] as const)('%i channels of %s come in the order of WAVE, as ffmpeg (outside reference) wrote them', async (count, codec) => {
    const path = join(folder, `${count} ${codec}.ogg`)
    execFileSync('ffmpeg', ['-y', '-loglevel', 'error', '-channel_layout', LAYOUTS[count]!, '-i', waveOfTones(count), '-c:a', codec, path])
    const { channels } = await decodeAudio(readFileSync(path))
    expect(channels.map(toneOf)).toEqual(TONES.slice(0, count))
  })

  it('with FLAC in it is lossless, as flac (outside reference) decodes it', async () => {
    const wave = waveOfTones(2)
    execFileSync('flac', ['--totally-silent', '-f', '--ogg', wave, '-o', join(folder, 'a.oga')])
    const { channels, facts } = await decodeAudio(readFileSync(join(folder, 'a.oga')))
    expect(facts).toMatchObject({ container: 'Ogg', codec: 'FLAC', bitDepth: 16, warnings: [] })
    const expected = await decodeAudio(readFileSync(wave))
    expect(channels.map(channel => channel.length)).toEqual(expected.channels.map(channel => channel.length))
    for (const [c, channel] of channels.entries()) expect(channel.every((value, i) => value === expected.channels[c]![i])).toBe(true)
  })

  it('with another stream is declined by its name, in our own words', async () => {
    const page = (packet: string) => Buffer.concat([Buffer.from('OggS\0\x02'), Buffer.alloc(20), Buffer.from([1, packet.length]), Buffer.from(packet, 'latin1')])
    await expect(decodeAudio(page('Speex   1.2'))).rejects.toThrow('This Ogg file holds Speex; Vorbis, Opus and FLAC are read.')
    await expect(decodeAudio(page('nothing known'))).rejects.toThrow('a stream of another kind')
    await expect(decodeAudio(page('\x01vorbis and no more'))).rejects.toThrow(/^(No audio could be decoded|The compressed audio could not be decoded)/)
  })

  it('the orders are each other\'s inverse', () => {
    for (let count = 1; count <= 8; count++) {
      const channels = Array.from({ length: count }, (_, i) => i)
      expect(vorbisOrder(waveOrder(channels))).toEqual(channels)
      expect(waveOrder(vorbisOrder(channels))).toEqual(channels)
    }
  })

  it('packets of any bytes are found in bounded time, and never read past the end', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 400 }), fc.array(fc.nat(300), { maxLength: 4 }), (bytes, places) => {
      const damaged = Uint8Array.from(bytes)
      for (const place of places) damaged.set([0x4F, 0x67, 0x67, 0x53].slice(0, Math.max(0, damaged.length - place)), Math.min(place, damaged.length))
      expect(oggPackets(damaged).reduce((sum, packet) => sum + packet.length, 0)).toBeLessThanOrEqual(damaged.length)
    }))
  })
})
