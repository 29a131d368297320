import { execFileSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { chromium, type Page } from '@playwright/test'
import { decodeAudio } from '../core/audio/decode'
import { emptyKit, MOST_PADS, wholeLayer, type Kit, type SoundRef } from '../core/kit/document'
import { addBank, placeSounds, setPads, type PadSettings } from '../core/kit/edits'
import { splitEvenly } from '../core/kit/layerEdits'
import { KitEngine } from '../core/render/engine'
import { renderKit, type TimedNote } from '../core/render/offline'
import { prepareSound } from '../core/render/prepare'
import type { PreparedSound } from '../core/render/voice'
import type { JobView } from '../contract/jobs'
import type { KitView } from '../contract/kits'
import type { SoundRow } from '../contract/library'
import { freshFolder } from '../tests/helpers/folder'
import { startServer, type RunningServer } from '../tests/helpers/server'
import { watchTasks } from './longTasks'
import { median, percentile, timed, type Figure } from './measure'

const RATE = 48_000
const LAYERS_A_PAD = 4
const EDITS = 40

/** Making, opening, editing and rendering kits: in Chromium by the page's own clock, and the engine by itself. */
export async function* benchKit(): AsyncGenerator<Figure> {
  const samples = join(freshFolder(), 'demo')
  execFileSync('node', ['dist/demo.mjs', '--out', samples], { stdio: 'ignore' })
  yield* engineFigures()
  yield* await renderFigures(samples)
  const server = await startServer({ data: freshFolder(), roots: [samples] })
  try {
    await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } }))
    yield* await pageFigures(server, samples)
  }
  finally {
    await server.stop()
  }
}

/** Part of a core that 64 voices take, at their own pitch and at another. */
function* engineFigures(): Generator<Figure> {
  const CASES: readonly { name: string, channels: number, settings: PadSettings }[] = [
    { name: 'stereo, at their own pitch', channels: 2, settings: {} },
    { name: 'mono, three semitones up', channels: 1, settings: { tuneCents: 300 } },
    { name: 'stereo, three semitones up', channels: 2, settings: { tuneCents: 300 } },
    { name: 'stereo, filtered and decaying', channels: 2, settings: { filter: { type: 'low-pass', cutoffHz: 3000, resonanceDb: 3 }, envelope: { attackSeconds: 0, holdSeconds: 0, decaySeconds: 20, releaseSeconds: 0.01 } } },
  ]
  const seconds = 20
  const yardstick = { name: 'the same time on the clock', value: 100 }
  for (const { name, channels, settings } of CASES) {
    const sound: SoundRef = { id: '1'.padStart(64, '0'), name: 'x', frames: RATE * seconds, sampleRate: RATE, channels }
    const engine = new KitEngine(RATE)
    engine.setKit(setPads(placeSounds(emptyKit('Bench'), 0, [{ sound, kind: null }]).kit, [0], settings))
    engine.setSound(sound.id, { channels: Array.from({ length: channels }, () => Float32Array.from({ length: sound.frames }, (_, i) => Math.sin(i * 0.05))), sourceRate: RATE })
    engine.schedule(Array.from({ length: 64 }, () => ({ frame: 0, note: 36, velocity: 100 })))
    const block: [Float32Array, Float32Array] = [new Float32Array(128), new Float32Array(128)]
    for (let i = 0; i < 400; i++) engine.process([block])
    const blocks = 5 * RATE / 128
    const start = performance.now()
    for (let i = 0; i < blocks; i++) engine.process([block])
    yield { name: `64 voices, ${name}`, value: (performance.now() - start) / (blocks * 128 / RATE) / 10, unit: '% of a core', yardstick }
  }
}

/** A pattern with sixteen voices sounding, rendered offline, beside the same files mixed by sox. */
async function renderFigures(samples: string): Promise<Figure[]> {
  const folder = join(samples, 'HARBOUR_TOOLS')
  const paths = readdirSync(folder).filter(name => /\.wav$/i.test(name)).slice(0, 16).map(name => join(folder, name))
  const sounds = new Map<string, PreparedSound>()
  const refs: SoundRef[] = []
  for (const [i, path] of paths.entries()) {
    const audio = await decodeAudio(new Uint8Array(readFileSync(path)))
    const id = String(i + 1).padStart(64, '0')
    refs.push({ id, name: `S${i}`, frames: audio.frames, sampleRate: audio.sampleRate, channels: audio.channels.length })
    sounds.set(id, prepareSound(audio, RATE))
  }
  const { kit } = placeSounds(emptyKit('Bench'), 0, refs.map(sound => ({ sound, kind: null })))
  const seconds = 64
  const notes: TimedNote[] = Array.from({ length: seconds * 16 }, (_, i) => ({ atSeconds: i / 16, note: 36 + i % 16, velocity: 60 + i % 60 }))
  let rendered = 0
  const took = await timed(() => {
    rendered = renderKit(kit, sounds, notes, { sampleRate: RATE, longestSeconds: seconds }).left.length / RATE
  })
  const mixed = await timed(() => execFileSync('sox', ['-m', ...paths, '-r', String(RATE), '-n'], { stdio: 'ignore' }))
  return [{ name: `offline rendering of ${rendered.toFixed(0)} s, 16 hits a second`, value: rendered * 1000 / took, unit: 'times real time', note: `sox mixing the same 16 files once takes ${mixed.toFixed(0)} ms, this ${took.toFixed(0)} ms` }]
}

async function pageFigures(server: RunningServer, samples: string): Promise<Figure[]> {
  const { rows } = await server.api<{ rows: SoundRow[] }>('/api/sounds?limit=400')
  const presetId = await storeLarge(server, rows)
  const browser = await chromium.launch({ executablePath: process.env.EMPORION_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--autoplay-policy=no-user-gesture-required'] })
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    const sox = await timed(() => execFileSync('sh', ['-c', `find "${samples}" -name '*.wav' -print0 | head -z -n 128 | xargs -0 -n 1 -I{} sox {} -n stat 2>/dev/null`]))
    const yardstick = { name: 'sox decoding 128 of the files', value: sox }
    return [...await placing(page, server, yardstick), ...await opening(page, server, presetId, yardstick), ...await editing(page)]
  }
  finally {
    await browser.close()
  }
}

/** 128 sounds put on pads: first when nothing of them was decoded, then when all was. */
async function placing(page: Page, server: RunningServer, yardstick: Figure['yardstick']): Promise<Figure[]> {
  await page.goto(`${server.url}/library`)
  await page.getByText('400 sounds').first().waitFor()
  await page.locator('.rows > .row').first().waitFor()
  await page.waitForTimeout(2000)
  await page.getByRole('grid', { name: 'Sounds' }).focus()
  await page.keyboard.press('Home')
  for (let i = 0; i < 8; i++) await page.keyboard.press('Shift+PageDown')
  await page.keyboard.press('Shift+P')
  await page.getByText('Strokes and takes of one instrument share a pad').click()
  await page.getByRole('textbox', { name: 'First note' }).fill('0')
  await page.keyboard.press('Tab')
  const first = await fromClick(page, 'emporion:kit-playable', () => page.getByRole('button', { name: /^Put \d+ sounds on \d+ pads$/ }).click())
  await page.keyboard.press('2')
  await page.waitForTimeout(1500)
  await page.keyboard.press('Control+z')
  await page.waitForTimeout(800)
  await page.keyboard.press('1')
  await page.waitForTimeout(500)
  await page.getByRole('grid', { name: 'Sounds' }).focus()
  await page.keyboard.press('Shift+P')
  await page.getByRole('textbox', { name: 'First note' }).fill('0')
  await page.keyboard.press('Tab')
  const again = await fromClick(page, 'emporion:kit-playable', () => page.getByRole('button', { name: /^Put \d+ sounds on \d+ pads$/ }).click())
  return [
    { name: 'placing 128 sounds to a playable kit, decoded ahead', value: again, unit: 'ms', yardstick },
    { name: 'the same, nothing decoded', value: first, unit: 'ms', yardstick },
  ]
}

async function opening(page: Page, server: RunningServer, presetId: string, yardstick: Figure['yardstick']): Promise<Figure[]> {
  await page.goto(`${server.url}/vault`)
  await page.getByRole('grid', { name: 'Presets' }).waitFor()
  await page.waitForTimeout(1500)
  const press = () => page.getByRole('button', { name: /^Open/ }).first().click()
  await page.evaluate(() => performance.clearMeasures())
  const all = await fromClick(page, 'emporion:kit-playable', press)
  const first = await page.evaluate(() => {
    const entry = performance.getEntriesByName('emporion:kit-first-pad')[0]!
    return entry.startTime + entry.duration - (window as unknown as { clickedAt: number }).clickedAt
  })
  const name = `opening a stored kit of ${MOST_PADS} pads and ${MOST_PADS * LAYERS_A_PAD} layers`
  return [
    { name: `${name}: first pad playable`, value: first, unit: 'ms', yardstick, note: presetId.slice(0, 8) },
    { name: `${name}: all playable`, value: all, unit: 'ms', yardstick },
  ]
}

/** Edits of the large kit: key to painted frame, and to saved. */
async function editing(page: Page): Promise<Figure[]> {
  await page.getByRole('grid', { name: 'Kit sheet' }).focus()
  await page.waitForTimeout(4000)
  await page.evaluate(() => {
    const painted: number[] = []
    const waited: number[] = []
    const shown: boolean[] = []
    Object.assign(window, { painted, waited, shown })
    const sheet = document.querySelector('[aria-label="Kit sheet"]')!
    const seen = () => [...sheet.querySelectorAll('[aria-pressed], [aria-selected]')].map(part => `${part.ariaPressed}${part.ariaSelected}`).join()
    window.addEventListener('keydown', (event) => {
      const before = seen()
      requestAnimationFrame(() => {
        waited.push(performance.now() - event.timeStamp)
        shown.push(seen() !== before)
        setTimeout(() => painted.push(performance.now() - event.timeStamp))
      })
    }, true)
  })
  const tasks = await watchTasks(page)
  const saves: number[] = []
  for (let i = 0; i < EDITS; i++) {
    const saved = page.waitForResponse(response => response.request().method() === 'PUT' && response.url().includes('/api/kits/'))
    const start = performance.now()
    await page.keyboard.press(i % 4 === 3 ? 'ArrowDown' : 'q')
    if (i % 4 === 3) {
      saved.catch(() => undefined)
      await page.waitForTimeout(60)
      await page.keyboard.press('e')
    }
    await saved
    saves.push(performance.now() - start)
    await page.waitForTimeout(120)
  }
  const { painted, waited, shown } = await page.evaluate(() => {
    const { painted, waited, shown } = window as unknown as { painted: number[], waited: number[], shown: boolean[] }
    return { painted, waited, shown }
  })
  const frame = { name: 'one frame of 60 Hz', value: 1000 / 60 }
  return [
    { name: `an edit of it to the painted frame, median of ${painted.length}`, value: median(painted), unit: 'ms', yardstick: frame },
    { name: 'the same, p95', value: percentile(painted, 95), unit: 'ms', yardstick: frame },
    { name: 'of this until the first frame after the key began, median', value: median(waited), unit: 'ms', yardstick: frame },
    { name: 'the same, p95', value: percentile(waited, 95), unit: 'ms', yardstick: frame },
    { name: 'of the edits shown by that frame', value: 100 * shown.filter(Boolean).length / shown.length, unit: '%', note: `${shown.length} edits and moves` },
    { name: 'an edit of it to saved, p95', value: percentile(saves, 95), unit: 'ms', yardstick: { name: 'a second', value: 1000 } },
    { name: 'longest task of the page in the meantime', value: Math.max(0, ...await tasks()), unit: 'ms', note: 'Chromium reports those over 50 ms; 0: none' },
  ]
}

/** Milliseconds from a click to the end of the page's own measure of that name that it leads to. */
async function fromClick(page: Page, measure: string, press: () => Promise<void>): Promise<number> {
  await page.evaluate((name) => {
    performance.clearMeasures(name)
    window.addEventListener('click', event => Object.assign(window, { clickedAt: event.timeStamp }), { capture: true, once: true })
  }, measure)
  await press()
  await page.waitForFunction(name => performance.getEntriesByName(name).length > 0, measure, { timeout: 60_000 })
  await page.waitForTimeout(500)
  return page.evaluate((name) => {
    const entry = performance.getEntriesByName(name).at(-1)!
    return entry.startTime + entry.duration - (window as unknown as { clickedAt: number }).clickedAt
  }, measure)
}

async function storeLarge(server: RunningServer, rows: readonly SoundRow[]): Promise<string> {
  const refs = rows.map(({ hash: id, name, frames, sampleRate, channels }): SoundRef => ({ id, name, frames, sampleRate, channels }))
  let kit: Kit = emptyKit('Large')
  while (kit.pads.length < MOST_PADS) kit = addBank(kit)
  kit = { ...kit, pads: kit.pads.map((pad, i) => ({ ...pad, name: `Pad ${i + 1}`, layers: Array.from({ length: LAYERS_A_PAD }, (_, layer) => wholeLayer(refs[(i * LAYERS_A_PAD + layer) % refs.length]!)) })) }
  kit = kit.pads.reduce((state, _, index) => splitEvenly(state, index), kit)
  const draft = await server.api<KitView>('/api/kits', { method: 'POST', body: { kit: emptyKit('Bench') } })
  const job = await server.ended(await server.api<JobView>('/api/vault/store', { method: 'POST', body: { kitId: draft.id, kit, name: 'Large', presetId: null } }))
  return (job.result as { presetId: string }).presetId
}
