import type { Page } from '@playwright/test'
import { freshFolder } from '../helpers/folder'
import { makeLibrary } from '../helpers/madeLibrary'
import { startServer, type RunningServer } from '../helpers/server'
import { expect, searched, test as base } from './studio'

const SOUNDS = 12_000

// One library for all of these: making it takes longer than the tests.
const test = base.extend<object, { server: RunningServer }>({
  server: [async ({ browserName: _browser }, use) => {
    const data = freshFolder()
    await makeLibrary(data, SOUNDS)
    const server = await startServer({ data, roots: [data] })
    await use(server)
    await server.stop()
  }, { scope: 'worker' }],
})

const sounds = (page: Page) => page.getByRole('grid', { name: 'Sounds' })
// The titles are the first row to a screen reader.
const rowAt = (page: Page, place: number) => sounds(page).locator(`[aria-rowindex="${place + 1}"]`)

test('twelve thousand sounds: both ends are one key away, and only what is in sight is drawn', async ({ page, server }) => {
  await page.goto(server.url)
  await expect(page.locator('.summary')).toContainText('12,000 sounds')
  await expect(rowAt(page, 1)).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('End')
  await expect(rowAt(page, SOUNDS)).toHaveAttribute('aria-selected', 'true')
  await expect(rowAt(page, SOUNDS)).toContainText(/\d\.\d\d/)
  expect(await sounds(page).locator('.rows > .row').count()).toBeLessThan(60)
  await page.keyboard.press('PageUp')
  // The sounds of this library have no files: up to twenty are passed over in the direction of the step, from sixteen back on.
  const selected = async () => Number(await sounds(page).locator('[aria-selected="true"]').getAttribute('aria-rowindex')) - 1
  await expect.poll(selected).toBeLessThanOrEqual(SOUNDS - 16)
  expect(await selected()).toBeGreaterThanOrEqual(SOUNDS - 16 - 20)
  await page.keyboard.press('Home')
  await expect(rowAt(page, 1)).toBeVisible()
  await sounds(page).hover()
  await page.mouse.wheel(0, 150_000)
  await expect(rowAt(page, 1)).toBeHidden()
  await expect.poll(() => sounds(page).locator('.rows > .row').first().textContent()).toMatch(/\d\.\d\d/)
})

test('what is chosen beyond the rows in the page goes to the tray and onto pads all the same', async ({ page, server }) => {
  await page.goto(server.url)
  await expect(page.locator('.summary')).toContainText('12,000 sounds')
  await page.keyboard.press('Shift+End')
  await expect(page.locator('.summary')).toContainText('12,000 chosen')
  await page.keyboard.press('Enter')
  await expect(page.getByText('12,000 sounds are chosen; the tray takes 10,000 at a time.')).toBeVisible()
  await page.getByRole('combobox', { name: 'Search' }).fill('harbour rope')
  await searched(page)
  const found = Number((await page.locator('.summary .figure').first().textContent())!.replace(',', ''))
  expect(found).toBeGreaterThan(200)
  // These sounds have no files: Enter would play the first, pass over it and those after it, and take the cursor along.
  await sounds(page).focus()
  await page.keyboard.press('Shift+End')
  await page.keyboard.press('Enter')
  await expect(page.getByText(`${found} sounds added to the tray.`)).toBeVisible()
  const tray = page.getByRole('listbox', { name: 'Sounds on the tray' })
  await expect(tray.getByRole('option').first()).toHaveAttribute('aria-setsize', String(found))
  expect(await tray.getByRole('option').count()).toBeLessThan(60)
  await page.keyboard.press('p')
  await page.getByText('Strokes and takes of one instrument share a pad').click()
  await page.getByRole('textbox', { name: 'First note' }).fill('0')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('status', { name: 'Preview of the kit' })).toContainText(`${found - 128} sounds not placed.`)
  await page.getByRole('button', { name: 'Put 128 sounds on 128 pads' }).click()
  await page.keyboard.press('2')
  await expect(page.getByRole('link', { name: /Bench/ })).toContainText('128')
  await page.getByRole('button', { name: 'A', exact: true }).click()
  await expect(page.getByRole('grid', { name: 'Kit sheet' }).getByRole('row', { name: /^A1 / })).toBeVisible()
  await page.getByRole('grid', { name: 'Kit sheet' }).focus()
  await page.keyboard.press('PageDown')
  await expect(page.getByRole('grid', { name: 'Kit sheet' }).getByRole('row', { name: /^B1 / })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('listbox', { name: 'Sounds on the tray' }).getByRole('option').first()).toHaveAttribute('aria-setsize', String(found))
})

test('a search that finds nothing says so and leads back; the last word in the box wins', async ({ page, server }) => {
  await page.goto(server.url)
  await expect(page.locator('.summary')).toContainText('12,000 sounds')
  await page.keyboard.press('/')
  await page.keyboard.type('kick zebra')
  await expect(page.getByRole('heading', { name: 'No sounds found' })).toBeVisible()
  await page.getByRole('button', { name: 'Show every sound' }).click()
  await expect(page.locator('.summary')).toContainText('12,000 sounds')
  await page.keyboard.press('/')
  for (const letter of 'snare deck 11999') await page.keyboard.press(letter === ' ' ? 'Space' : letter)
  await page.keyboard.press('Control+a')
  await page.keyboard.type('11998')
  await expect(page.locator('.summary')).toContainText('1 sound found')
  await expect(rowAt(page, 1)).toContainText('11998')
})
