import { execFileSync } from 'node:child_process'
import { join } from 'node:path'
import { chromium, type Page } from '@playwright/test'
import type { JobView } from '../contract/jobs'
import { freshFolder } from '../tests/helpers/folder'
import { startServer } from '../tests/helpers/server'
import { watchTasks } from './longTasks'
import { median, type Figure } from './measure'

const ROUNDS = 5
const VIEWS = { Library: '1', Bench: '2', Grooves: '3', Fit: '4', Vault: '5' }
/** By then a view is open and at rest. */
const REST_MS = 1200
const A_TASK = { name: 'what a task may take', value: 50 }

/** How long the page is held up when its views open: the longest task of each first opening in a fresh page, and of the second. */
export async function benchViews(): Promise<Figure[]> {
  const samples = join(freshFolder(), 'demo')
  execFileSync('node', ['dist/demo.mjs', '--out', samples], { stdio: 'ignore' })
  const server = await startServer({ data: freshFolder(), roots: [samples] })
  const browser = await chromium.launch({ executablePath: process.env.EMPORION_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] })
  try {
    await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } }))
    const first = new Map<string, number[]>()
    const second: number[] = []
    for (let round = 0; round < ROUNDS; round++) {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
      // Begun in the Vault, so that each of the others opens afresh.
      await page.goto(`${server.url}/vault`)
      await page.waitForTimeout(2 * REST_MS)
      for (const [view, longest] of await opened(page)) first.set(view, [...first.get(view) ?? [], longest])
      second.push(...(await opened(page)).map(([, longest]) => longest))
      await page.close()
    }
    return [
      ...[...first].map(([view, longest]) => ({ name: `longest task while ${view} opens the first time, median of ${ROUNDS}`, value: median(longest), unit: 'ms', yardstick: A_TASK, note: '0: none over 50 ms' })),
      { name: 'longest task while any of them opens again', value: Math.max(...second), unit: 'ms', yardstick: A_TASK, note: `${second.filter(longest => longest > 0).length} of ${second.length} had one over 50 ms` },
    ]
  }
  finally {
    await browser.close()
    await server.stop()
  }
}

async function opened(page: Page): Promise<[string, number][]> {
  const longest: [string, number][] = []
  for (const [view, key] of Object.entries(VIEWS)) {
    const tasks = await watchTasks(page)
    await page.keyboard.press(key)
    await page.waitForTimeout(REST_MS)
    longest.push([view, Math.max(0, ...await tasks())])
  }
  return longest
}
