import { existsSync } from 'node:fs'
import { join } from 'node:path'
import type { Download, Locator, Page } from '@playwright/test'
import { cell, expect, expectSound, test } from './studio'

/** What a person does with one hand: a key, a text that is typed, a click or a drag, each one step. */
class Hand {
  steps = 0

  constructor(readonly page: Page) {}

  async key(...keys: string[]): Promise<void> {
    for (const key of keys) {
      this.steps++
      await this.page.keyboard.press(key)
    }
  }

  async type(text: string): Promise<void> {
    this.steps++
    await this.page.keyboard.type(text)
  }

  /** Presses Tab until something has the keyboard, each press a step. */
  async tabTo(target: Locator): Promise<void> {
    for (let i = 0; i < 40; i++) {
      if (await target.evaluate(element => element === document.activeElement || element.contains(document.activeElement))) return
      await this.key('Tab')
    }
    throw new Error('Tab never reached it.')
  }

  async click(target: Locator, options: Parameters<Locator['click']>[0] = {}): Promise<void> {
    this.steps++
    await target.click(options)
  }

  async doubleClick(target: Locator): Promise<void> {
    this.steps++
    await target.dblclick()
  }

  /** Drags one thing onto another, which may come into sight only while it is dragged. */
  async drag(from: Locator, onto: Locator): Promise<void> {
    this.steps++
    await from.hover()
    await this.page.mouse.down()
    const start = (await from.boundingBox())!
    await this.page.mouse.move(start.x + 40, start.y + 8, { steps: 4 })
    await expect(onto).toBeVisible()
    const end = (await onto.boundingBox())!
    await this.page.mouse.move(end.x + end.width / 2, end.y + end.height / 2, { steps: 8 })
    await this.page.mouse.up()
  }
}

const TASKS = ['bring in', 'hear', 'narrow', 'favourite', 'kit by drop or key', 'kit from the tray', 'trim', 'groove', 'store', 'export'] as const
type Task = typeof TASKS[number]

/** Steps that each task may take, begun where the one before has ended; the first begins with an empty library. */
const BUDGETS: Readonly<Record<'mouse' | 'keys', Readonly<Record<Task, number>>>> = {
  mouse: { 'bring in': 3, 'hear': 1, 'narrow': 2, 'favourite': 2, 'kit by drop or key': 1, 'kit from the tray': 4, 'trim': 4, 'groove': 3, 'store': 4, 'export': 2 },
  keys: { 'bring in': 5, 'hear': 1, 'narrow': 3, 'favourite': 1, 'kit by drop or key': 1, 'kit from the tray': 4, 'trim': 6, 'groove': 3, 'store': 4, 'export': 2 },
}

const sounds = (page: Page) => page.getByRole('grid', { name: 'Sounds' })
const row = (page: Page, index: number) => sounds(page).locator(`.rows > .row[aria-rowindex="${index + 2}"]`)
const sheet = (page: Page) => page.getByRole('grid', { name: 'Kit sheet' })
const dialog = (page: Page, name: string | RegExp) => page.getByRole('dialog', { name })
const view = (page: Page, name: string) => page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: new RegExp(name) })
const count = (page: Page) => page.locator('.summary .count')
const panel = (page: Page) => page.getByRole('region', { name: 'Trim and slice' })

/** The tasks by mouse alone, or by keys alone. Each ends when what it is for can be seen or heard. */
function waysOf(hand: Hand, means: 'mouse' | 'keys'): Readonly<Record<Task, () => Promise<void>>> {
  const { page } = hand
  const isMouse = means === 'mouse'
  return {
    'bring in': async () => {
      if (isMouse) {
        await hand.click(page.getByRole('button', { name: 'Bring in a folder…' }))
        await hand.doubleClick(page.getByRole('option', { name: 'HARBOUR_TOOLS' }))
        await expect(page.getByRole('textbox', { name: 'Path of the folder' })).toHaveValue(/HARBOUR_TOOLS$/)
        await hand.click(page.getByRole('button', { name: 'Bring in this folder' }))
      }
      else {
        await hand.key('b')
        await expect(page.getByRole('option', { name: 'HARBOUR_TOOLS' })).toBeVisible()
        await hand.key('ArrowDown')
        await expect(page.getByRole('listbox', { name: 'Folders and audio files' })).toBeFocused()
        await hand.key('ArrowDown', 'Enter')
        await expect(page.getByRole('textbox', { name: 'Path of the folder' })).toHaveValue(/HARBOUR_TOOLS$/)
        await hand.key('Control+Enter')
      }
      await expect(count(page)).toHaveText('112 sounds', { timeout: 120_000 })
    },
    'hear': async () => {
      if (isMouse) await hand.click(row(page, 3))
      else await hand.key('ArrowDown')
      await expectSound(page)
    },
    'narrow': async () => {
      if (isMouse) {
        const filters = page.getByRole('complementary', { name: 'Filters' })
        if (!(await filters.isVisible())) await hand.click(page.getByRole('button', { name: 'Filters' }))
        await hand.click(filters.getByRole('button', { name: /^Snare/ }))
        await expect(count(page)).toHaveText('12 sounds found')
      }
      else {
        await hand.key('/')
        await hand.type('hbr_sd')
        await expect(count(page)).toHaveText('12 sounds found')
        await hand.key('Enter')
      }
    },
    'favourite': async () => {
      if (isMouse) {
        await hand.click(row(page, 0), { button: 'right' })
        await hand.click(page.getByRole('menuitem', { name: /Add to favourites/ }))
      }
      else await hand.key('f')
      await expect(row(page, 0).getByLabel('Favourite')).toBeVisible()
    },
    'kit by drop or key': async () => {
      if (isMouse) await hand.drag(row(page, 0), page.getByRole('button', { name: /^Pad A1,/ }))
      else await hand.key('p')
      await expect(page.getByRole('link', { name: /Bench 1/ })).toBeVisible()
    },
    'kit from the tray': async () => {
      const first = page.getByRole('option', { name: 'HBR_SD_002' })
      if (isMouse) {
        await hand.click(row(page, 1))
        await hand.click(page.getByRole('button', { name: 'Add 1 sound to the tray' }))
        if (!(await first.isVisible())) await hand.click(page.getByRole('button', { name: /^Tray/ }))
        await hand.doubleClick(first)
      }
      else {
        await hand.key('ArrowDown', 'Enter', 't')
        await expect(first).toBeVisible()
        await hand.key('Enter')
      }
      await expect(page.getByRole('link', { name: isMouse ? /Bench 1/ : /Bench 2/ })).toBeVisible()
    },
    'trim': async () => {
      const cut = panel(page).getByRole('button', { name: /^Cut the tail/ })
      if (isMouse) {
        await hand.click(view(page, 'Bench'))
        await hand.click(sheet(page).locator('#pad-0'))
        await hand.click(page.getByRole('button', { name: 'Trim and slice' }))
        await expect(panel(page).getByRole('img', { name: /^Waveform of/ })).toBeVisible()
        await hand.click(cut)
      }
      else {
        await hand.key('2')
        await expect(sheet(page)).toBeVisible()
        await hand.key('ArrowUp', 'p')
        await expect(page.getByRole('region', { name: 'Layers' })).toBeVisible()
        await hand.key('p')
        await expect(panel(page).getByRole('img', { name: /^Waveform of/ })).toBeVisible()
        await hand.tabTo(cut)
        await hand.key('Enter')
      }
      await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled()
      await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute('title', /tail/)
    },
    'groove': async () => {
      if (isMouse) {
        await hand.click(view(page, 'Grooves'))
        await expect(page.getByRole('textbox', { name: 'Name of the pattern' })).toHaveValue('Gangway')
        await hand.click(page.getByRole('button', { name: 'Play the pattern' }))
        await expectSound(page)
        await hand.click(page.getByRole('button', { name: 'Stop the pattern' }))
      }
      else {
        await hand.key('3')
        await expect(page.getByRole('textbox', { name: 'Name of the pattern' })).toHaveValue('Gangway')
        await hand.key(' ')
        await expectSound(page)
        await hand.key(' ')
      }
    },
    'store': async () => {
      const store = dialog(page, /^Store/)
      if (isMouse) {
        await hand.click(view(page, 'Bench'))
        await hand.click(page.getByRole('button', { name: 'Store…' }))
        await hand.click(store.getByRole('button', { name: /^Copy \d samples? into the vault/ }))
      }
      else {
        await hand.key('2')
        await expect(sheet(page)).toBeFocused()
        await hand.key('Control+s')
        await expect(store.locator('input:focus')).toBeVisible()
        await hand.key('Enter')
      }
      await expect(dialog(page, 'Stored')).toContainText('is in the vault')
      if (isMouse) await hand.click(dialog(page, 'Stored').getByRole('button', { name: 'Done' }))
      else await hand.key('Escape')
      await expect(dialog(page, 'Stored')).toBeHidden()
    },
    'export': async () => {
      const download: Promise<Download> = page.waitForEvent('download')
      if (isMouse) {
        await hand.click(view(page, 'Vault'))
        await hand.click(page.getByRole('button', { name: 'Export as .zip' }))
      }
      else {
        await hand.key('5')
        await expect(page.getByRole('grid', { name: 'Presets' })).toContainText('New kit')
        await hand.key('e')
      }
      expect(existsSync(await (await download).path())).toBe(true)
    },
  }
}

for (const [width, height] of [[1280, 800], [960, 540]] as const) {
  for (const means of ['mouse', 'keys'] as const) {
    test(`from an empty library to an exported kit in ten tasks by ${means} alone, at ${width} x ${height}, within their budgets of steps`, async ({ page, studio }) => {
      await page.setViewportSize({ width, height })
      await page.goto(`${studio.server.url}/library`)
      await expect(page.getByRole('heading', { name: 'Bring in your sounds' })).toBeVisible()
      const hand = new Hand(page)
      const ways = waysOf(hand, means)
      const path = page.getByRole('region', { name: 'First kit' })
      await expect(path.getByRole('button', { name: /^Step 1, to do/ })).toBeVisible()
      for (const task of TASKS) {
        const before = hand.steps
        await test.step(task, ways[task])
        expect(hand.steps - before, `steps of "${task}"`).toBeLessThanOrEqual(BUDGETS[means][task])
      }
      // All five steps of the path were done on the way: it has gone by itself.
      await expect(path).toBeHidden()
      expect(existsSync(join(studio.data, 'vault', 'New kit'))).toBe(true)
    })
  }
}

test('the path to a first kit ticks what is done, and is dismissed for good', async ({ page, studio }) => {
  await page.goto(`${studio.server.url}/library`)
  const path = page.getByRole('region', { name: 'First kit' })
  await studio.bringIn('HARBOUR_TOOLS')
  await expect(path.getByRole('button', { name: /^Step 1, done/ })).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await expect(path.getByRole('button', { name: /^Step 2, done/ })).toBeVisible()
  await path.getByRole('button', { name: /^Step 4, to do/ }).click()
  await expect(sheet(page)).toBeVisible()
  await expect(cell(sheet(page).locator('#pad-0'), 'Sound')).toHaveText('empty')
  await path.getByRole('button', { name: 'Dismiss the first steps' }).click()
  await expect(path).toBeHidden()
  await page.reload()
  await expect(sheet(page)).toBeVisible()
  await expect(path).toBeHidden()
})

test('demo sounds are made on the spot, heard and opened as kits, and removed in one step', async ({ page, studio }) => {
  await page.goto(`${studio.server.url}/library`)
  await page.getByRole('button', { name: 'Look around with demo sounds' }).click()
  await expect(count(page)).toHaveText('400 sounds', { timeout: 120_000 })
  await page.keyboard.press('5')
  await expect(page.getByRole('grid', { name: 'Presets' })).toContainText('Everything aboard', { timeout: 120_000 })
  await expect(page.getByText('Make the demo sounds and kits')).toHaveCount(0, { timeout: 120_000 })
  await page.keyboard.press('1')
  await page.getByRole('button', { name: /^Sources/ }).click()
  await dialog(page, 'Sources').getByRole('button', { name: 'Remove the demo…' }).click()
  await page.getByRole('button', { name: 'Remove the demo', exact: true }).click()
  await expect(page.getByText(/^4 sources removed, \d+ presets moved to the bin\.$/)).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('heading', { name: 'Bring in your sounds' })).toBeVisible()
})
