import { spawnSync } from 'node:child_process'
import { join, resolve } from 'node:path'
import { describe, expect, it } from 'vitest'
import { writeWave } from '../../core/audio/wave/write'
import { sine } from '../helpers/audio'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { struck, STRUCK_RATE } from '../helpers/struck'

function analyse(...args: string[]) {
  const { status, stdout, stderr } = spawnSync('node', [resolve('dist/analyse.mjs'), ...args], { encoding: 'utf8' })
  return { status, stderr, lines: stdout.trim().split('\n') }
}

describe('./emporion analyse', () => {
  const folder = freshFolder()
  put(folder, 'Pack/Toms/Floor Tom.wav', writeWave([sine(110, 44_100, 44_100, 0.5)], 44_100, { depth: 24 }))
  put(folder, 'Pack/Snare.wav', 'no audio')
  put(folder, 'Pack/read me.txt', 'text')

  it('prints one JSON object a line for each audio file, broken ones with the reason', () => {
    const { status, lines } = analyse('--json', folder)
    // One could not be read.
    expect(status).toBe(1)
    const found = lines.map(line => JSON.parse(line) as Record<string, unknown>).sort((a, b) => String(a.path).localeCompare(String(b.path)))
    expect(found).toHaveLength(2)
    expect(found[0]).toEqual({ path: join(folder, 'Pack/Snare.wav'), error: expect.stringContaining('no audio that Emporion knows') })
    expect(found[1]).toMatchObject({
      path: join(folder, 'Pack/Toms/Floor Tom.wav'), container: 'WAVE', sampleRate: 44_100, bitDepth: 24, channels: 1, frames: 44_100,
      flags: [], onsets: [0], kind: 'tom.low', kindBy: { name: { path: 'tom.low' } },
    })
    const { level, pitch } = found[1] as { level: { peakDb: number }, pitch: { note: number, hz: number } }
    expect(level.peakDb).toBeCloseTo(-6.02, 1)
    expect(pitch.hz).toBeCloseTo(110, 0)
    expect(pitch.note).toBe(45)
  })

  it('says what a name states of the tempo; by ear alone, names and tags say nothing', () => {
    const loops = freshFolder()
    const path = put(loops, 'Snare Loop 120 Am.wav', writeWave([sine(110, 44_100, 4 * 44_100, 0.5)], 44_100, { depth: 16 }))
    const [named, heard] = [[], ['--audio-only']].map(args => JSON.parse(analyse('--json', ...args, loops).lines[0]!) as Record<string, unknown>)
    expect(named).toMatchObject({ path, kind: 'loop', tempo: { bpm: 120, evidence: '"120" in its name, by which it lasts 8 beats' }, name: { key: 'Am' }, kindBy: { name: { path: 'loop' } } })
    expect(heard).toMatchObject({ path, tempo: null, name: null, kindBy: { file: null, name: null } })
    const { kind, kindBy } = heard as { kind: string | null, kindBy: { audio: { path: string } | null } }
    expect(kind).toBe(kindBy.audio?.path ?? null)
    for (const figure of ['hash', 'level', 'timing', 'attack', 'body', 'pitch', 'onsets', 'hits']) expect(heard![figure]).toEqual(named![figure])
  })

  it('of several hits and a stated tempo is a loop, whatever instrument its name tells; without a tempo it is that instrument', () => {
    const loops = freshFolder()
    const bars = new Float32Array(4 * STRUCK_RATE)
    for (const [i, second] of [0, 1, 2, 3].entries()) bars.set(struck('bongo', i).subarray(0, 0.9 * STRUCK_RATE).map(value => value / 2), second * STRUCK_RATE)
    for (const name of ['Bongo 120bpm', 'Bongo 120']) put(loops, `${name}.wav`, writeWave([bars], STRUCK_RATE, { depth: 16 }))
    const kinds = analyse('--json', loops).lines.map(line => JSON.parse(line) as { path: string, kind: string, tempo: { bpm: number } | null, flags: string[] })
    const found = (name: string) => kinds.find(({ path }) => path.endsWith(`${name}.wav`))
    expect(found('Bongo 120bpm')).toMatchObject({ kind: 'loop', tempo: { bpm: 120 }, flags: ['several-hits'] })
    expect(found('Bongo 120')).toMatchObject({ kind: 'hand.bongo', tempo: null })
  })

  it('says nothing beside its lines, however many files there are', () => {
    const many = freshFolder()
    for (let i = 0; i < 400; i++) put(many, `Kick ${i}.wav`, waveOf(50 + i / 10, 4000))
    const { status, stderr, lines } = analyse('--json', many)
    expect({ status, stderr, lines: lines.length }).toEqual({ status: 0, stderr: '', lines: 400 })
  })

  it('ends with 0 where every file was read, 1 where some could not be, 3 where none could, 2 where it was not understood', () => {
    const fine = freshFolder()
    put(fine, 'Kick.wav', waveOf(60))
    expect(analyse(fine).status).toBe(0)
    expect(analyse(fine, join(folder, 'nowhere')).status).toBe(1)
    expect(analyse(join(folder, 'Pack/Snare.wav')).status).toBe(3)
    expect(analyse()).toMatchObject({ status: 2, stderr: expect.stringMatching(/^analyse needs the path of a file or folder\.\n\nusage/) })
  })
})
