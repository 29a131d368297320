import { execFileSync } from 'node:child_process'
import { cpSync, existsSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { test as base, expect, type Locator, type Page } from '@playwright/test'
import { freshFolder } from '../helpers/folder'
import { startServer, type RunningServer } from '../helpers/server'

/** A server with a data folder of its own, and a folder of samples that the test may spoil. */
export interface Studio {
  server: RunningServer
  readonly data: string
  readonly samples: string
  readonly restart: () => Promise<void>
}

/** The demo's sounds, made once for a run of all tests. */
function demoSounds(): string {
  const folder = join(tmpdir(), `emporion-demo-${process.ppid}`)
  if (!existsSync(folder)) execFileSync('node', ['dist/demo.mjs', '--out', folder])
  return folder
}

export const test = base.extend<{ studio: Studio }>({
  studio: async ({ browserName: _browser }, use) => {
    const samples = join(freshFolder(), 'demo sounds')
    const data = freshFolder()
    cpSync(demoSounds(), samples, { recursive: true })
    const options = { data, roots: [samples] }
    const studio: Studio = {
      server: await startServer(options),
      data,
      samples,
      restart: async () => {
        studio.server = await startServer({ ...options, port: studio.server.port })
      },
    }
    await use(studio)
    await studio.server.stop()
  },
})

export { expect }

/** A short sound stands on the meter for less than a second. */
const OFTEN = { intervals: [50] }

/** Waits until something is heard at the output: its meter rises above the lowest mark. */
export async function expectSound(page: Page): Promise<void> {
  await expect.poll(async () => Number(await page.getByRole('meter', { name: 'Output level' }).getAttribute('aria-valuenow')), OFTEN).toBeGreaterThan(-40)
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
