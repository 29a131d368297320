import { execFileSync } from 'node:child_process'
import { mkdirSync, readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { chromium, type Page } from '@playwright/test'
import { emptyPattern, type Pattern } from '../core/groove/document'
import { addHits, addPart } from '../core/groove/edits'
import { playedFromBeats } from '../core/groove/played'
import { emptyKit, wholeLayer } from '../core/kit/document'
import { KitEngine } from '../core/render/engine'
import { Transport } from '../core/render/transport'
import type { Bounced, BounceSpec } from '../contract/bounce'
import type { JobView } from '../contract/jobs'
import { drumKit } from '../tests/helpers/drumKit'
import { freshFolder } from '../tests/helpers/folder'
import { startServer, type RunningServer } from '../tests/helpers/server'
import { listen } from './listen'
import { watchTasks } from './longTasks'
import { median, percentile, timed, type Figure } from './measure'

const RATE = 48_000
const BLOCK = 128
const MINUTES = 10
const LIVE_SECONDS = 120
const CANDIDATES = 60
const STEMS_TIMES = 9
const LARGE_HITS = 5_000
const KINDS = ['kick', 'snare', 'clap', 'rim', 'hat.closed', 'hat.open', 'hat.pedal', 'tom.low', 'tom.mid', 'tom.high', 'cymbal.crash', 'cymbal.ride', 'shaker', 'hand', 'metal', 'wood']

/** Hits in time, candidates in a loop, stems, and recording into a large pattern. */
export async function* benchGroove(): AsyncGenerator<Figure> {
  yield* hitTimes()
  const samples = join(freshFolder(), 'demo')
  execFileSync('node', ['dist/demo.mjs', '--out', samples], { stdio: 'ignore' })
  const data = freshFolder()
  const server = await startServer({ data, roots: [samples, data] })
  try {
    await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } }))
    yield* await stems(server, data, samples)
    yield* await inThePage(server)
  }
  finally {
    await server.stop()
  }
}

/** The frames at which an impulse comes out of the engine, fed block by block as in the audio thread, beside where it should. */
function* hitTimes(): Generator<Figure> {
  const sound = { id: '1'.padStart(64, '0'), name: 'impulse', frames: 1, sampleRate: RATE, channels: 1 }
  const empty = emptyKit('Bench')
  const engine = new KitEngine(RATE)
  engine.setKit({ ...empty, pads: empty.pads.map((pad, i) => i === 0 ? { ...pad, layers: [wholeLayer(sound)] } : pad) })
  engine.setSound(sound.id, { channels: [Float32Array.of(1)], sourceRate: RATE })
  const beats = [0, 0.75, 1.5, 2.25, 3, 3.5]
  const bpm = 97.31
  const transport = new Transport(RATE)
  transport.start(playedFromBeats(4, beats.map(beat => ({ beat, note: 36, velocity: 127 }))), { bpm }, 0)
  const block: [Float32Array, Float32Array] = [new Float32Array(BLOCK), new Float32Array(BLOCK)]
  const errors: number[] = []
  for (let frame = 0; frame < MINUTES * 60 * RATE; frame += BLOCK) {
    engine.schedule(transport.due(frame, frame + BLOCK).notes)
    engine.process([block])
    for (let i = 0; i < BLOCK; i++) {
      if (block[0][i]! < 0.5) continue
      const n = errors.length
      errors.push(frame + i - (Math.floor(n / beats.length) * 4 + beats[n % beats.length]!) * RATE * 60 / bpm)
    }
  }
  const mean = errors.reduce((sum, error) => sum + error, 0) / errors.length
  const deviation = Math.sqrt(errors.reduce((sum, error) => sum + (error - mean) ** 2, 0) / errors.length)
  const sample = { name: 'one sample', value: 1 }
  yield { name: `hit times over ${MINUTES} minutes, ${errors.length} hits: standard deviation`, value: deviation, unit: 'samples', yardstick: sample }
  yield { name: 'the last hit from where it should be', value: Math.abs(errors.at(-1)!), unit: 'samples', yardstick: sample }
}

async function stems(server: RunningServer, data: string, samples: string): Promise<Figure[]> {
  const { kit } = await drumKit(server.api, 'Bench', KINDS)
  let pattern: Pattern = { ...emptyPattern('Sixteen parts', 8), tempoBpm: 100 }
  for (const [i, role] of KINDS.entries()) {
    pattern = addPart(pattern, { name: role, role, note: 36 + i })
    const hits = Array.from({ length: 8 * 16 / (1 + i % 4) }, (_, n) => ({ tick: n * 240 * (1 + i % 4), velocity: 60 + (n * 13 + i) % 60, length: 120 }))
    pattern = addHits(pattern, `part-${i + 1}`, hits).pattern
  }
  const spec: BounceSpec = { kits: [kit], heard: 'as heard', pattern, way: 'kind', byHand: {}, fromBar: 0, toBar: 8, passes: 1, tail: 'with', depth: 24, sampleRate: RATE, what: 'pad', withMix: false, name: ['number', 'name'] }
  const folder = join(data, 'out')
  mkdirSync(folder)
  const listening = await listen(server)
  const times: number[] = []
  const copies: number[] = []
  let count = 0
  for (let i = 0; i <= STEMS_TIMES; i++) {
    let made = ''
    times.push(await timed(async () => {
      const begun = await server.api<JobView>('/api/bounce', { method: 'POST', body: { spec, folder } })
      const result = (await listening.ended(begun.id)).result as Bounced
      made = result.folder
      count = result.files.length
    }))
    const copy = join(folder, 'copy')
    copies.push(await timed(() => execFileSync('sh', ['-c', 'cp -r "$0" "$1" && sync "$1"/*', made, copy])))
    rmSync(copy, { recursive: true })
    rmSync(made, { recursive: true })
  }
  listening.stop()
  const [first, ...others] = times
  const seconds = 8 * 4 * 60 / 100
  const yardstick = { name: 'cp of the files, flushed', value: median(copies) }
  const wav = readdirSync(join(samples, 'HARBOUR_TOOLS')).filter(name => /\.wav$/i.test(name)).slice(0, 16).map(name => join(samples, 'HARBOUR_TOOLS', name))
  const sox = await timed(() => execFileSync('sox', ['-m', ...wav, '-r', String(RATE), '-n'], { stdio: 'ignore' }))
  const note = `sox mixing 16 files once: ${sox.toFixed(0)} ms`
  return [
    { name: `8 bars of 16 parts as ${count} stems of 24 bit, ${seconds.toFixed(1)} s, from press to files, median of ${others.length}`, value: median(others), unit: 'ms', yardstick, note },
    { name: 'the same as a rate', value: seconds * 1000 / median(others), unit: 'times real time', note: `the best: ${(seconds * 1000 / Math.min(...others)).toFixed(1)}` },
    { name: 'the first of them, whose threads have yet to start', value: seconds * 1000 / first!, unit: 'times real time', note: `${first!.toFixed(0)} ms` },
  ]
}

async function inThePage(server: RunningServer): Promise<Figure[]> {
  const browser = await chromium.launch({ executablePath: process.env.EMPORION_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--autoplay-policy=no-user-gesture-required'] })
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.goto(`${server.url}/grooves`)
    await page.getByRole('grid', { name: 'Patterns' }).waitFor()
    await page.waitForTimeout(3000)
    return [...await candidates(page), ...await recording(page, server), ...await drift(page)]
  }
  finally {
    await browser.close()
  }
}

/** From the key to a candidate that is loaded and heard at its next hit, those beside it being decoded ahead. */
async function candidates(page: Page): Promise<Figure[]> {
  await page.getByRole('button', { name: 'Try-out', exact: true }).click()
  await page.locator('.set .el-select').click()
  await page.getByRole('option', { name: /^What the search finds/ }).click()
  await page.getByRole('button', { name: 'Try them' }).click()
  await page.getByRole('grid', { name: 'Candidates' }).waitFor()
  await page.waitForTimeout(1500)
  await page.evaluate(() => performance.clearMeasures())
  for (let i = 0; i < CANDIDATES; i++) {
    await page.keyboard.press('ArrowDown')
    await page.waitForTimeout(250)
  }
  const ready = await page.evaluate(() => performance.getEntriesByName('emporion:candidate-ready').map(entry => entry.duration))
  await page.keyboard.press('Escape')
  const frame = { name: 'two frames of 60 Hz', value: 2000 / 60 }
  return [
    { name: `a candidate ready while the loop runs, median of ${ready.length}`, value: median(ready), unit: 'ms', yardstick: frame },
    { name: 'the same, p95', value: percentile(ready, 95), unit: 'ms', yardstick: frame },
  ]
}

/** The longest task of the page while hits are recorded into a pattern that has many. */
async function recording(page: Page, server: RunningServer): Promise<Figure[]> {
  let pattern = { ...emptyPattern('Large', 64), tempoBpm: 120 }
  for (let i = 0; i < 16; i++) pattern = { ...addPart(pattern, { name: KINDS[i]!, role: KINDS[i]!, note: 36 + i }), tempoBpm: 120 }
  for (let i = 0; i < 16; i++) {
    const hits = Array.from({ length: Math.ceil(LARGE_HITS / 16) }, (_, n) => ({ tick: n * 720 + i * 45, velocity: 40 + (n * 7) % 80, length: 100 }))
    pattern = { ...addHits(pattern, `part-${i + 1}`, hits).pattern, tempoBpm: 120 }
  }
  await server.api('/api/patterns', { method: 'POST', body: { pattern } })
  await page.getByRole('button', { name: 'Patterns', exact: true }).click()
  await page.getByRole('textbox', { name: 'Find patterns' }).fill('large')
  await page.getByRole('grid', { name: 'Patterns' }).getByText('Large').click()
  await page.waitForTimeout(1500)
  await page.getByRole('group', { name: 'Pattern', exact: true }).focus()
  await page.keyboard.press('r')
  await page.waitForTimeout(3000)
  const longTasks = await watchTasks(page)
  for (let i = 0; i < 60; i++) {
    await page.keyboard.press('asdfgh'[i % 6]!, { delay: 50 })
    await page.waitForTimeout(110)
  }
  await page.keyboard.press('r')
  const tasks = await longTasks()
  return [{ name: `longest task of the page, 60 hits recorded into ${LARGE_HITS}`, value: Math.max(0, ...tasks), unit: 'ms', yardstick: { name: 'what a task may take', value: 50 }, note: `${tasks.length} tasks over 50 ms; 0: none` }]
}

/** How far the place in the pattern has moved from the clock of the audio context after some time. */
async function drift(page: Page): Promise<Figure[]> {
  const off = () => page.evaluate(() => {
    interface Place { readonly contextSeconds: number, readonly tick: number, readonly ticksPerSecond: number, readonly pass: number }
    interface Root extends Element { readonly __vue_app__: { readonly config: { readonly globalProperties: { readonly $pinia: { readonly _s: Map<string, { readonly enginePlace: Place, readonly pattern: { readonly bars: number } }> } } } } }
    const stores = (document.querySelector('#__nuxt') as Root).__vue_app__.config.globalProperties.$pinia._s
    const { contextSeconds, tick, ticksPerSecond, pass } = stores.get('kit')!.enginePlace
    return (pass * stores.get('grooves')!.pattern.bars * 3840 + tick) / ticksPerSecond - contextSeconds
  })
  const first = await off()
  await page.waitForTimeout(LIVE_SECONDS * 1000)
  return [{ name: `drift of the live engine against the audio clock after ${LIVE_SECONDS} s`, value: Math.abs(await off() - first) * RATE, unit: 'samples', yardstick: { name: 'one sample', value: 1 } }]
}
