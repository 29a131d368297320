import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { freshFolder } from '../../../tests/helpers/folder'
import { decodeAudio } from '../decode'
import { probeFrame } from './probe'

const folder = freshFolder()
const PAIRS = 2000
const seed = Number(process.env.EMPORION_ORDER_SEED ?? Date.now() % 1_000_000)

/** A small generator, so that an order that shows something can be had again (Park and Miller 1988). */
function random(start: number): () => number {
  let state = start % 2_147_483_646 + 1
  return () => (state = state * 48_271 % 2_147_483_647) / 2_147_483_647
}

/** FLAC files of many shapes, as sox writes them, some with what other programs leave behind the last frame. */
function files(): { readonly name: string, readonly bytes: Uint8Array, readonly wave: Uint8Array }[] {
  const made = []
  for (const rate of [8_000, 44_100, 96_000]) {
    for (const bits of [16, 24]) {
      for (const channels of [1, 2]) {
        const name = `${rate} ${bits} ${channels}`
        const path = join(folder, `${name}.flac`)
        execFileSync('sox', ['-n', '-r', String(rate), '-b', String(bits), '-c', String(channels), path, 'synth', '0.02', 'pinknoise', 'vol', '0.5'])
        execFileSync('flac', ['--totally-silent', '-t', path])
        execFileSync('flac', ['--totally-silent', '-d', '-f', path, '-o', join(folder, `${name}.wav`)])
        const [bytes, wave] = [readFileSync(path), readFileSync(join(folder, `${name}.wav`))]
        made.push({ name, bytes, wave })
        // An ID3v1 tag, half a frame, and the sign with which a frame begins.
        for (const [what, behind] of [['tag', Buffer.from(`TAG${'\0'.repeat(125)}`)], ['half a frame', bytes.subarray(-40, -10)], ['sync', Uint8Array.of(0xFF, 0xF8)]] as const) made.push({ name: `${name} ${what}`, bytes: Buffer.concat([bytes, behind]), wave })
      }
    }
  }
  return made
}

describe('FLAC', () => {
  it(`each file is decoded as it is alone, whichever came before it: ${PAIRS} pairs in random order (seed ${seed})`, async () => {
    const all = await Promise.all(files().map(async file => ({ ...file, expected: await decodeAudio(file.wave) })))
    const next = random(seed)
    const wrong: string[] = []
    let before = 'none'
    for (let i = 0; i < 2 * PAIRS; i++) {
      const { name, bytes, expected } = all[Math.floor(next() * all.length)]!
      const { channels, frames, facts: { warnings } } = await decodeAudio(bytes)
      const isSame = frames === expected.frames && warnings.length === 0 && channels.every((channel, c) => channel.every((value, at) => value === expected.channels[c]![at]))
      if (!isSame) wrong.push(`${name} after ${before}`)
      before = name
    }
    expect(wrong).toEqual([])
  })

  it('the frame that decoders are tried with is one to flac as well', () => {
    // STREAMINFO (RFC 9639, 8.2): block sizes 16, sizes not known, 44.1 kHz, 1 channel, 16 bit, 16 samples, no MD5.
    const info = Buffer.from('664c614380000022' + '00100010' + '000000000000' + '0ac440f000000010' + '00'.repeat(16), 'hex')
    const path = join(folder, 'probe.flac')
    writeFileSync(path, Buffer.concat([info, probeFrame()]))
    const raw = execFileSync('flac', ['--totally-silent', '-d', '-c', '--force-raw-format', '--endian=big', '--sign=signed', path])
    expect(raw.toString('hex')).toBe('1234'.repeat(16))
  })
})
