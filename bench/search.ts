import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium, type Page } from '@playwright/test'
import { makeLibrary } from '../tests/helpers/madeLibrary'
import { startServer, type RunningServer } from '../tests/helpers/server'
import { median, percentile, timed, type Figure } from './measure'

const SOUNDS = Number(process.env.EMPORION_BENCH_SOUNDS ?? 200_000)
const QUERIES = [
  'kick', 'snare dark', 'hat op', 'deck ferry 12', 'k', 'tom soft dry', 'harbour', '777', 'chain rope long', 'open hat bright', 'bd short', '"deep kick"', 'kick or snare', 'snre',
  'kind=kick sounds<0.3', '-loop kick is=clipped', 'tag=dry bright>60', 'pack="pack a0" kick', 'sounds=0.1..0.2 bright=20..40', 'loudness>-20 note=36..48',
]
const ROUNDS = 5
const TYPED = ['kick dark', 'open hat', 'snare 12', 'tom soft', 'harbour chain', 'ferry deck']

/** Searches of a library of made rows: over HTTP beside `grep -ic`, and in Chromium from key to paint; scrolling, and memory. */
export async function* benchSearch(): AsyncGenerator<Figure> {
  const data = mkdtempSync(join(tmpdir(), 'emporion-bench-'))
  const names = await makeLibrary(data, SOUNDS)
  const list = join(data, 'names.txt')
  writeFileSync(list, names.join('\n'))
  const first = await startServer({ data, roots: [data] })
  yield { name: `first list of ${SOUNDS} sounds after the very first start`, value: await timed(() => first.api('/api/sounds?limit=100')), unit: 'ms' }
  // Waits until the catalogue is written down, which later starts begin from.
  await first.api('/api/sounds?q=like%3D1&limit=1')
  await new Promise(done => setTimeout(done, 4000))
  await first.stop()
  const server = await startServer({ data, roots: [data] })
  try {
    yield { name: 'the same after any later start', value: await timed(() => server.api('/api/sounds?limit=100')), unit: 'ms' }
    yield* overHttp(server, list)
    yield* inTheBrowser(server)
    const memory = Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1]) / 1000
    yield { name: `memory of the server with ${SOUNDS} sounds`, value: memory, unit: 'MB' }
  }
  finally {
    await server.stop()
  }
}

async function* overHttp(server: RunningServer, list: string): AsyncGenerator<Figure> {
  const asked = (text: string) => Promise.all([server.api(`/api/sounds?limit=100&q=${encodeURIComponent(text)}`), server.api(`/api/sounds/facets?q=${encodeURIComponent(text)}`)])
  await asked('warm up')
  const fresh: number[] = []
  const greps: number[] = []
  for (let round = 0; round < ROUNDS; round++) {
    for (const query of QUERIES) {
      // Another condition each round, so that no answer comes from the kept results.
      fresh.push(await timed(() => asked(round === 0 ? query : `${query} peak<${round}`)))
      greps.push(await timed(() => spawnSync('grep', ['-ic', query.split(' ')[0]!, list])))
    }
  }
  yield { name: `list and facets of ${SOUNDS} sounds, median of ${fresh.length}`, value: median(fresh), unit: 'ms', yardstick: { name: 'grep -ic', value: median(greps) } }
  yield { name: 'list and facets, p95', value: percentile(fresh, 95), unit: 'ms', yardstick: { name: 'grep -ic, p95', value: percentile(greps, 95) } }
  const likes: number[] = []
  for (let i = 1; i <= 20; i++) likes.push(await timed(() => server.api(`/api/sounds?limit=100&q=like%3D${i * 97}`)))
  yield { name: 'first page of what is like a sound, p95', value: percentile(likes, 95), unit: 'ms', yardstick: { name: 'grep -ic, p95', value: percentile(greps, 95) } }
  yield { name: 'the last window of them all', value: await timed(() => server.api(`/api/sounds?offset=${SOUNDS - 200}&limit=100`)), unit: 'ms' }
}

async function* inTheBrowser(server: RunningServer): AsyncGenerator<Figure> {
  const browser = await chromium.launch({ executablePath: process.env.EMPORION_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] })
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.goto(`${server.url}/library`)
    await page.locator('.summary').getByText('sounds').first().waitFor()
    await page.waitForTimeout(1500)
    await page.keyboard.press('/')
    for (const text of TYPED) {
      await page.keyboard.press('Control+a')
      await page.keyboard.type(text, { delay: 160 })
      await page.waitForTimeout(400)
    }
    const painted = await page.evaluate(() => performance.getEntriesByName('emporion:key-to-rows').map(entry => entry.duration))
    yield { name: `key to painted rows, median of ${painted.length}`, value: median(painted), unit: 'ms' }
    yield { name: 'key to painted rows, p95', value: percentile(painted, 95), unit: 'ms', yardstick: { name: 'one frame of 60 Hz', value: 1000 / 60 } }
    await page.waitForTimeout(1000)
    yield { name: 'frames a second while the table is scrolled', value: await framesWhileScrolling(page), unit: 'frames/s', yardstick: { name: 'at rest', value: await framesAtRest(page) } }
  }
  finally {
    await browser.close()
  }
}

/** Counts frames for two seconds, in which the table is scrolled by the wheel. */
async function framesWhileScrolling(page: Page): Promise<number> {
  await page.getByRole('grid', { name: 'Sounds' }).hover()
  const counting = framesAtRest(page)
  for (let i = 0; i < 60; i++) {
    await page.mouse.wheel(0, 240)
    await page.waitForTimeout(25)
  }
  return counting
}

function framesAtRest(page: Page): Promise<number> {
  return page.evaluate(() => new Promise<number>((done) => {
    const begun = performance.now()
    let frames = 0
    const count = () => {
      frames++
      if (performance.now() - begun < 2000) requestAnimationFrame(count)
      else done(frames / (performance.now() - begun) * 1000)
    }
    requestAnimationFrame(count)
  }))
}
