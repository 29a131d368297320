import { cpSync, existsSync, renameSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { test as base, expect, type Locator, type Page } from '@playwright/test'
import type { JobView } from '../../contract/jobs'
import { freshFolder } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

/** A server with a data folder of its own, and a folder of samples that the test may spoil. */
export interface Studio {
  server: RunningServer
  readonly data: string
  readonly samples: string
  readonly restart: () => Promise<void>
  /** Brings in a folder of the samples. */
  readonly bringIn: (folder: string) => Promise<void>
}

/** All that one worker's tests have on disk. */
const own = join(tmpdir(), `emporion-e2e-${process.pid}`)
/** Always the same place, so that a library that was brought in once fits every test after it. */
const samples = join(own, 'demo sounds')

function freshSamples(): void {
  rmSync(samples, { recursive: true, force: true })
  cpSync(process.env.EMPORION_DEMO_SOUNDS!, samples, { recursive: true, preserveTimestamps: true })
}

async function bringInto(server: RunningServer, folder: string): Promise<void> {
  const job = await server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: join(samples, folder) } }))
  expect(job.state).toBe('done')
}

/** The data folder of a server that has brought in a folder of the samples; made once, and closed. */
async function libraryOf(folder: string): Promise<string> {
  const data = join(own, `library ${folder}`)
  if (existsSync(data)) return data
  const fresh = freshFolder()
  const server = await startServer({ data: fresh, roots: [samples] })
  await bringInto(server, folder)
  await server.stop()
  renameSync(fresh, data)
  return data
}

/** What a test begins with: a folder of the samples that has been brought in, '' for all of them, or nothing. */
interface Beginning {
  readonly library: string | null
}

export const test = base.extend<Beginning & { studio: Studio }>({
  library: [null, { option: true }],
  studio: async ({ library }, use) => {
    freshSamples()
    const data = freshFolder()
    if (library !== null) cpSync(await libraryOf(library), data, { recursive: true })
    const options = { data, roots: [samples] }
    const studio: Studio = {
      server: await startServer(options),
      data,
      samples,
      restart: async () => {
        studio.server = await startServer({ ...options, port: studio.server.port })
      },
      bringIn: folder => bringInto(studio.server, folder),
    }
    await use(studio)
    await studio.server.stop()
  },
  page: async ({ page, studio }, use, info) => {
    const errors: string[] = []
    const unanswered = new Set<string>()
    page.on('pageerror', error => errors.push(error.message))
    page.on('request', request => unanswered.add(request.url()))
    page.on('requestfinished', request => unanswered.delete(request.url()))
    page.on('requestfailed', (request) => {
      unanswered.delete(request.url())
      errors.push(`${request.failure()?.errorText} ${request.url()}`)
    })
    page.on('response', response => response.ok() || errors.push(`${response.status()} ${response.url()}`))
    await use(page)
    if (info.status !== info.expectedStatus) console.log(`"${info.title}" left the page so: ${JSON.stringify({ ...await seenOf(page), errors, unanswered: await askedAgain([...unanswered]), server: studio.server.lastWords() })}`)
  },
})

/** What a failure far away is understood by: where the page was, what had the keyboard, and what messages there were. */
function seenOf(page: Page) {
  return page.evaluate(() => ({
    path: location.pathname,
    focus: document.activeElement?.outerHTML.slice(0, 200),
    dialogs: [...document.querySelectorAll('[role=dialog]')].filter(dialog => dialog.checkVisibility()).map(dialog => dialog.getAttribute('aria-label')),
    said: [...document.querySelectorAll('.el-message')].map(message => message.textContent),
  }))
}

/** What the server answers to the same requests when they come from here: whether it or the page's browser is at fault. */
function askedAgain(urls: readonly string[]): Promise<string[]> {
  return Promise.all(urls.map(async (url) => {
    const answer = await fetch(url, { signal: AbortSignal.timeout(5_000) }).then(async (response) => {
      await response.body?.cancel()
      return response.status
    }, (failure: Error) => failure.message)
    return `${url}: ${answer}`
  }))
}

/** Tests that begin with a folder of the samples brought in. */
export const testWith = (library: string) => test.extend<Beginning>({ library })

export { expect }

/** Waits until what is shown is what was asked for: a result before it may look the same. */
export async function settled(page: Page): Promise<void> {
  await expect(page.locator('.scope')).toHaveAttribute('aria-busy', 'false')
}

/** Waits until a search has found what it finds. */
export async function searched(page: Page): Promise<void> {
  await expect(page.locator('.summary')).toContainText('found')
  await settled(page)
}

/** A choice that opens a list: what is pressed to open it. */
export const choice = (within: Locator, name: string): Locator => within.locator('.el-select').filter({ has: within.page().getByRole('combobox', { name }) })

/** The cell of a row of the kit sheet below a heading. */
export function cell(row: Locator, heading: typeof SHEET_HEADINGS[number]): Locator {
  return row.getByRole('gridcell').nth(SHEET_HEADINGS.indexOf(heading))
}
const SHEET_HEADINGS = ['Pad', 'State', 'Note', 'Sound', 'Waveform', 'Layers', 'Gain, dB', 'LUFS', 'Pan', 'Cut', 'Output'] as const

/** A short sound stands on the meter for less than a second. */
const OFTEN = { intervals: [50] }

/** Waits until something is heard at the output: its meter rises above the lowest mark. */
export async function expectSound(page: Page, timeout?: number): Promise<void> {
  await expect.poll(async () => Number(await page.getByRole('meter', { name: 'Output level' }).getAttribute('aria-valuenow')), { ...OFTEN, ...(timeout === undefined ? {} : { timeout }) }).toBeGreaterThan(-40)
}

/** Waits until the output has fallen silent. */
export async function expectSilence(page: Page): Promise<void> {
  await expect.poll(async () => Number(await page.getByRole('meter', { name: 'Output level' }).getAttribute('aria-valuenow'))).toBe(-60)
}

/** Goes on with Tab until the thing wanted has the focus: the keyboard's way there. */
export async function tabTo(page: Page, target: Locator): Promise<void> {
  for (let i = 0; i < 60; i++) {
    if (await target.evaluate(element => element === document.activeElement || element.contains(document.activeElement))) return
    await page.keyboard.press('Tab')
  }
  throw new Error('Tab never reached it.')
}

/** Drags files or folders in from outside over a place of the page, sees where they would go, and lets them fall. */
export async function dropOn(page: Page, paths: string | readonly string[], label: string, place?: Locator, beforeDrop?: () => Promise<void>): Promise<void> {
  const box = await place?.boundingBox()
  const [x, y] = box ? [Math.round(box.x + box.width / 2), Math.round(box.y + box.height / 2)] : [500, 300]
  const devtools = await page.context().newCDPSession(page)
  const data = { items: [], files: [paths].flat(), dragOperationsMask: 1 }
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const) {
    if (type === 'drop') await beforeDrop?.()
    await devtools.send('Input.dispatchDragEvent', { type, x, y, data })
    if (type === 'dragOver') await expect(page.locator('.zone')).toContainText(label)
  }
}
