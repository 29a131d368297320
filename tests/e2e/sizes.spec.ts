import type { Page } from '@playwright/test'
import { drumKit } from '../helpers/drumKit'
import { expect, testWith } from './studio'

const test = testWith('HARBOUR_TOOLS')
const VIEWS = ['library', 'bench', 'grooves', 'fit', 'vault'] as const
const ROW = 28

/** How far the page reaches beyond its window sideways, in pixels. */
const beyond = (page: Page) => page.evaluate(() => Math.max(...['.frame', '.main', '.page'].map(name => document.querySelector(name)!.scrollWidth - innerWidth)))

/**
 * What is to be pressed and is smaller than 24 x 24 CSS pixels (WCAG 2.2, 2.5.8). Not counted: keys of the note ruler, since every pad
 * has a field for its note (exception "equivalent"), and inputs within a larger frame that takes the click.
 */
const tooSmall = (page: Page) => page.evaluate(() => {
  const pressed = 'button, a[href], input:not([type=file]), [role=switch], [role=checkbox], [role=radio], [role=separator], [role=tab], [role=treeitem], [role=option]'
  const frames = 'label, .el-checkbox, .el-radio, .el-switch, .el-input, .el-select, .el-input-number, .line, .el-slider'
  return [...document.querySelectorAll(pressed)].flatMap((element) => {
    if (element.getClientRects().length === 0 || getComputedStyle(element).visibility === 'hidden' || element.closest('.visually-hidden, .notes')) return []
    const before = getComputedStyle(element, '::before')
    const reach = before.content !== 'none' && before.position === 'absolute' ? Math.abs(Number.parseFloat(before.top)) + Math.abs(Number.parseFloat(before.bottom)) : 0
    const box = (element.matches('[role=treeitem], [role=option]') ? element : element.closest(frames) ?? element).getBoundingClientRect()
    return box.width < 23.5 || box.height + reach < 23.5 ? [`${element.getAttribute('aria-label') ?? element.textContent} ${box.width} x ${box.height}`] : []
  })
})

test('every view fits into 960 x 540 and 3840 x 2160, and at 400 % it is read by scrolling down alone; nothing to press is too small', async ({ page, studio }) => {
  await drumKit(studio.server.api, 'Quay', ['kick', 'snare', 'hat.closed'])
  for (const [width, height] of [[960, 540], [3840, 2160], [320, 256]] as const) {
    await page.setViewportSize({ width, height })
    for (const view of VIEWS) {
      await page.goto(`${studio.server.url}/${view}`)
      await expect(page.locator('footer.foot').first()).toBeAttached()
      if (view === 'library') await expect(page.locator('.rows > .row').first()).toBeVisible()
      if (view === 'fit') await expect(page.getByLabel('What the kit takes of Lembos')).toBeVisible()
      expect(await beyond(page), `${view} at ${width}`).toBeLessThanOrEqual(1)
      expect(await tooSmall(page), `${view} at ${width}`).toEqual([])
    }
  }
})

test('in a low window the kit sheet keeps four rows above any part, whose height is set by keys; pad and name stay while it scrolls sideways', async ({ page, studio }) => {
  await drumKit(studio.server.api, 'Quay', ['kick', 'snare', 'hat.closed'])
  await page.setViewportSize({ width: 960, height: 540 })
  await page.goto(`${studio.server.url}/bench`)
  const sheet = page.getByRole('grid', { name: 'Kit sheet' })
  await expect(sheet).toBeVisible()
  const rowsInSight = async () => {
    const box = (await sheet.boundingBox())!
    return Math.floor((box.height - ROW) / ROW)
  }
  await page.getByRole('button', { name: 'Layers', exact: true }).click()
  const grip = page.getByRole('separator', { name: 'Height of Layers' })
  await grip.focus()
  const before = Number(await grip.getAttribute('aria-valuenow'))
  await page.keyboard.press('ArrowUp')
  await expect(grip).toHaveAttribute('aria-valuenow', String(before + 20))
  await page.keyboard.press('End')
  expect(await rowsInSight()).toBeGreaterThanOrEqual(4)
  await page.keyboard.press('Home')
  await expect.poll(rowsInSight).toBeGreaterThan(4)

  const left = async (column: number) => Math.round((await sheet.locator(`#pad-0 > :nth-child(${column})`).boundingBox())!.x)
  const places = [await left(1), await left(4)]
  await sheet.evaluate(element => element.scrollLeft = 400)
  await expect.poll(() => sheet.evaluate(element => element.scrollLeft)).toBeGreaterThan(0)
  expect(await left(1)).toBe(places[0])
  expect(await left(4)).toBeLessThanOrEqual(places[1]!)
  expect(await left(4)).toBeGreaterThanOrEqual(places[0]! + 60)
})

test('tray and filters are folded in a narrow window until they are opened; columns give way by weight', async ({ page, studio }) => {
  await page.goto(`${studio.server.url}/library`)
  const filters = page.getByRole('complementary', { name: 'Filters' })
  const titles = () => page.getByRole('grid', { name: 'Sounds' }).getByRole('columnheader').allInnerTexts()
  await expect(filters).toBeVisible()
  await expect.poll(async () => (await titles()).length).toBe(7)
  await page.setViewportSize({ width: 960, height: 540 })
  await expect(filters).toBeHidden()
  await page.keyboard.press('g')
  await expect(filters).toBeVisible()
  await page.keyboard.press('i')
  await expect.poll(async () => (await titles()).length).toBeLessThan(5)
  expect((await titles()).join(' ')).toContain('Name')
  const table = page.getByRole('grid', { name: 'Sounds' })
  expect(await table.evaluate(element => element.scrollWidth - element.clientWidth)).toBeLessThanOrEqual(0)
  await page.setViewportSize({ width: 1280, height: 800 })
  await expect(filters).toBeVisible()
})
