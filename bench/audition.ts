import { execFileSync } from 'node:child_process'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import type { JobView, Stored } from '../contract/jobs'
import type { KitView } from '../contract/kits'
import type { SoundRow } from '../contract/library'
import { emptyKit } from '../core/kit/document'
import { placeSounds } from '../core/kit/edits'
import { freshFolder } from '../tests/helpers/folder'
import { startServer, type RunningServer } from '../tests/helpers/server'
import { watchTasks } from './longTasks'
import { median, percentile, timed, type Figure } from './measure'

const MOVES = 200
const COLD_MOVES = 40
const MOVES_A_SECOND = 8

/** Key press to sound in Chromium by the page's own clock, and storing and exporting a kit of 16 pads. */
export async function benchAudition(): Promise<Figure[]> {
  const samples = join(freshFolder(), 'demo')
  execFileSync('node', ['dist/demo.mjs', '--out', samples], { stdio: 'ignore' })
  const server = await startServer({ data: freshFolder(), roots: [samples] })
  try {
    await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } }))
    return [...await keyToSound(server), ...await storeAndExport(server)]
  }
  finally {
    await server.stop()
  }
}

async function keyToSound(server: RunningServer): Promise<Figure[]> {
  const browser = await chromium.launch({ executablePath: process.env.EMPORION_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] })
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.goto(`${server.url}/library`)
    await page.getByText('400 sounds').waitFor()
    const marks = (name: string) => page.evaluate(mark => performance.getEntriesByName(mark).map(entry => entry.duration), name)
    await page.keyboard.press('ArrowDown')
    // The filters and their chart are drawn once, after the list.
    await page.locator('.apexcharts-heatmap-rect').first().waitFor()
    await page.waitForTimeout(2000)
    await page.evaluate(() => performance.clearMeasures())
    const tasks = await watchTasks(page)
    for (let i = 0; i < MOVES; i++) {
      await page.keyboard.press('ArrowDown')
      await page.waitForTimeout(1000 / MOVES_A_SECOND)
    }
    const moves = await marks('emporion:key-to-sound')
    const longest = Math.max(0, ...await tasks())
    await page.evaluate(() => performance.clearMeasures())
    // Leaps of 29 rows land where nothing was decoded ahead.
    await page.keyboard.press('Home')
    for (let i = 0; i < COLD_MOVES; i++) {
      for (let row = 0; row < 2; row++) await page.keyboard.press(i % 13 === 12 ? 'Home' : 'PageDown')
      await page.waitForTimeout(400)
    }
    const leaps = await marks('emporion:key-to-sound')
    await page.keyboard.press('p')
    await page.keyboard.press('2')
    await page.waitForTimeout(1500)
    for (let i = 0; i < 40; i++) {
      await page.keyboard.press('a')
      await page.waitForTimeout(100)
    }
    const notes = await marks('emporion:key-to-note')
    return [
      { name: 'longest task of the page in the meantime', value: longest, unit: 'ms', note: 'Chromium reports those over 50 ms; 0: none' },
      { name: `leap to sound started, not decoded ahead, p95 of ${leaps.length}`, value: percentile(leaps, 95), unit: 'ms', yardstick: { name: 'one frame of 60 Hz', value: 1000 / 60 } },
      { name: `cursor key to sound started, median of ${moves.length}`, value: median(moves), unit: 'ms', note: `${MOVES_A_SECOND} moves a second, page clock` },
      { name: 'cursor key to sound started, p95', value: percentile(moves, 95), unit: 'ms', yardstick: { name: 'one frame of 60 Hz', value: 1000 / 60 } },
      { name: 'pad key to note sent to the audio thread, p95', value: percentile(notes, 95), unit: 'ms', yardstick: { name: 'one frame of 60 Hz', value: 1000 / 60 } },
    ]
  }
  finally {
    await browser.close()
  }
}

async function storeAndExport(server: RunningServer): Promise<Figure[]> {
  const { rows } = await server.api<{ rows: SoundRow[] }>('/api/sounds?limit=16&q=nachtfahre')
  const { kit } = placeSounds(emptyKit('Bench'), 0, rows.map(row => ({ sound: { id: row.hash, name: row.name, frames: row.frames, sampleRate: row.sampleRate, channels: row.channels }, kind: row.kind })))
  const draft = await server.api<KitView>('/api/kits', { method: 'POST', body: { kit } })
  let stored: Stored | undefined
  const store = await timed(async () => {
    const job = await server.ended(await server.api<JobView>('/api/vault/store', { method: 'POST', body: { kitId: draft.id, kit, name: 'Bench', presetId: null } }))
    stored = job.result as Stored
  })
  if (!stored) throw new Error('The kit was not stored.')
  const { path, presetId, bytes } = stored
  const exported = await timed(async () => (await fetch(`${server.url}/api/vault/${presetId}/package`)).arrayBuffer())
  const copy = await timed(() => execFileSync('sh', ['-c', `cp -r "${path}" "${freshFolder()}/copy" && sync`]))
  return [
    { name: `store a kit of 16 pads, ${(bytes / 1e6).toFixed(1)} MB`, value: store, unit: 'ms', yardstick: { name: 'cp -r and sync', value: copy } },
    { name: 'export it as one .zip', value: exported, unit: 'ms', yardstick: { name: 'cp -r and sync', value: copy } },
  ]
}
