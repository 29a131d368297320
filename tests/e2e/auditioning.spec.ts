import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { writeWave } from '../../core/audio/wave/write'
import { sine } from '../helpers/audio'
import { put } from '../helpers/folder'
import { expect, expectSilence, expectSound, test, testWith } from './studio'

const testHarbour = testWith('HARBOUR_TOOLS')

const player = (page: Page) => page.getByRole('region', { name: 'Player' })
const rows = (page: Page) => page.getByRole('grid', { name: 'Sounds' }).locator('.rows > .row')
const played = (page: Page) => page.evaluate(() => Number(/inset\(0(?:px)? ([\d.]+)%/.exec(document.querySelector<HTMLElement>('.strip .played')?.style.clipPath ?? '')?.[1] ?? Number.NaN))

async function search(page: Page, text: string): Promise<void> {
  await expect(rows(page).first()).toBeVisible()
  await page.keyboard.press('/')
  await page.keyboard.press('Control+a')
  await page.keyboard.type(text)
  await page.keyboard.press('Enter')
  await expect(page.locator('.scope')).toHaveAttribute('aria-busy', 'false')
}

test('from a hit, from a click, one hit only, in a loop, reversed, and as another note', async ({ page, studio }) => {
  // Three beeps of 60 ms in three seconds, the last one long.
  const file = new Float32Array(44_100 * 3)
  for (const [at, length] of [[0, 2646], [44_100, 2646], [88_200, 35_000]] as const) file.set(sine(330, 44_100, length, 0.5).map((value, i) => value * Math.min(1, (length - i) / 400)), at)
  put(join(studio.samples, 'Beeps'), 'three beeps.wav', writeWave([file], 44_100, { depth: 16 }))
  await studio.bringIn('Beeps')
  await page.goto(studio.server.url)
  await expect(rows(page)).toHaveCount(1)
  await page.keyboard.press('ArrowDown')
  await expect(player(page)).toContainText('three beeps')
  await expect(player(page).locator('.hit')).toHaveCount(3)
  await page.keyboard.press(' ')
  await expectSilence(page)

  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expectSound(page)
  // From two thirds on, so at most a third is still covered.
  expect(await played(page)).toBeLessThan(35)
  await page.keyboard.press('Escape')
  await page.keyboard.press(' ')

  await page.keyboard.press('o')
  await expect(page.getByRole('switch', { name: 'First hit' })).toHaveAttribute('aria-checked', 'true')
  await page.keyboard.press(' ')
  await expect(player(page).getByRole('button', { name: 'Play again' })).toBeVisible({ timeout: 2500 })
  await page.keyboard.press('r')
  await page.keyboard.press(' ')
  await expectSound(page)
  await page.waitForTimeout(1500)
  await expectSound(page)
  await page.keyboard.press(' ')
  await page.keyboard.press('r')
  await page.keyboard.press('o')

  // Backwards the long beep comes first.
  await page.keyboard.press('d')
  await page.keyboard.press(' ')
  await expectSound(page)
  await page.keyboard.press(' ')
  await page.keyboard.press('d')

  await page.keyboard.press('+')
  await page.keyboard.press('+')
  await expect(player(page)).toContainText('+2 st')
  await page.keyboard.press('-')
  await expect(player(page)).toContainText('+1 st')
  await page.keyboard.press('0')
  await expect(player(page)).toContainText('0 st')
  await expectSilence(page)
  const wave = (await player(page).locator('.wave').boundingBox())!
  await page.mouse.click(wave.x + wave.width * 0.7, wave.y + 20)
  await expectSound(page)
})

testHarbour('the cursor held down scrubs with one voice: when it stops, one sound plays, and the page was never blocked by it', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await expect(rows(page).first()).toBeVisible()
  for (let i = 0; i < 40; i++) await page.keyboard.press('ArrowDown')
  await expectSound(page)
  const name = (await rows(page).filter({ has: page.locator('xpath=self::*[@aria-selected="true"]') }).locator('.cut').first().textContent())!.split(' · ')[0]!
  await expect(player(page)).toContainText(name)
  await expectSilence(page)
  await expect.poll(() => page.evaluate(() => performance.getEntriesByName('emporion:key-to-sound').length)).toBeGreaterThan(0)
})

testHarbour('compare: marked sounds side by side, switched in place, blind until one is chosen', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await expect(rows(page).first()).toBeVisible()
  await page.keyboard.press('Shift+C')
  await expect(page.getByText('Mark two to eight sounds first')).toBeVisible()
  for (let i = 0; i < 8; i++) await page.keyboard.press('Shift+ArrowDown')
  await page.keyboard.press('c')
  await expect(page.getByText(/Up to 8 sounds are compared at a time/)).toBeVisible()
  await search(page, 'HBR_CP')
  for (let i = 0; i < 3; i++) {
    await page.keyboard.press('c')
    await page.keyboard.press('ArrowDown')
  }
  await page.keyboard.press('Shift+C')
  const dialog = page.getByRole('dialog', { name: 'Compare 3 sounds' })
  await expect(dialog.getByRole('img', { name: /^Spectrum of HBR_CP/ })).toHaveCount(3)
  await expect(dialog).toContainText('LUFS')
  await page.getByLabel('Sounds that are compared').focus()
  await page.keyboard.press('3')
  await expectSound(page)
  await expect(dialog.getByRole('button', { pressed: true })).toContainText('HBR_CP_003')
  await page.keyboard.press('ArrowRight')
  await expect(dialog.getByRole('button', { pressed: true })).toContainText('HBR_CP_001')
  await page.keyboard.press('b')
  await expect(dialog).not.toContainText('HBR_CP')
  await expect(dialog).toContainText('Sound 2')
  await expect(dialog).not.toContainText('LUFS')
  await page.keyboard.press('2')
  await page.keyboard.press('Enter')
  await expect(dialog).toContainText('HBR_CP')
  const chosen = (await dialog.getByRole('button', { pressed: true }).locator('.cut').textContent())!
  await page.keyboard.press('Escape')
  await expect(page.getByRole('listbox', { name: 'Sounds on the tray' })).toContainText(chosen)
})

testHarbour('the last sounds are held under the fingers: several keys sound together, Escape releases all', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await expect(rows(page).first()).toBeVisible()
  for (let i = 0; i < 20; i++) {
    await page.keyboard.press('ArrowDown')
    await page.waitForTimeout(40)
  }
  await page.keyboard.press('h')
  const held = page.getByRole('region', { name: 'Held sounds' })
  await expect(held.getByRole('listitem')).toHaveCount(16)
  await expectSilence(page)
  await page.keyboard.down('a')
  await page.keyboard.down('s')
  await expectSound(page)
  await expect(held.locator('.lit')).toHaveCount(2)
  await page.keyboard.up('a')
  await page.keyboard.up('s')
  await expect(held.locator('.lit')).toHaveCount(0)
  await page.keyboard.press('Escape')
  await expect(held).toBeHidden()
})

testHarbour('trays: named, ordered, noted, to pads by kind, to a new kit, to a folder of copies', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  const tray = page.getByLabel('Sounds on the tray')
  for (const name of ['HBR_SD_001', 'HBR_BD_001', 'HBR_CP_001']) {
    await search(page, name)
    await expect(rows(page).first()).toContainText(name)
    await page.keyboard.press('Enter')
    await expect(tray.getByRole('option', { name })).toBeVisible()
  }
  await page.keyboard.press('t')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Alt+ArrowUp')
  await expect(tray.getByRole('option').first()).toContainText('HBR_BD_001')
  await page.keyboard.press('e')
  await page.keyboard.type('for the chorus')
  const noted = page.waitForResponse(response => response.request().postData()?.includes('for the chorus') ?? false)
  await page.keyboard.press('Enter')
  await expect(tray.getByRole('option').first()).toContainText('for the chorus')
  await noted
  await page.reload()
  await expect(tray.getByRole('option').first()).toContainText('HBR_BD_001 · for the chorus')

  const menu = async (entry: string) => {
    await page.getByRole('button', { name: 'Tray menu' }).click()
    await page.getByRole('menuitem', { name: entry }).click()
  }
  await menu('Place all on free pads by kind')
  const pads = page.getByRole('group', { name: 'Pads of the current bank' })
  await expect(pads.getByRole('button', { name: /^Pad A1, 36 .*HBR_BD_001/ })).toBeVisible()
  await expect(pads.getByRole('button', { name: /^Pad A3, 38 .*HBR_SD_001/ })).toBeVisible()
  await expect(pads.getByRole('button', { name: /^Pad A4, 39 .*HBR_CP_001/ })).toBeVisible()

  await menu('New tray…')
  await page.keyboard.type('Second')
  await page.keyboard.press('Enter')
  await expect(tray.getByRole('option')).toHaveCount(0)
  await page.locator('.side .trays').click()
  await page.getByRole('option', { name: /^Tray/ }).click()
  await expect(tray.getByRole('option')).toHaveCount(3)

  put(studio.samples, 'Copies here/x.txt', '')
  await menu('Copy to a folder…')
  const path = page.getByRole('textbox', { name: 'Path of the folder' })
  await expect(path).not.toHaveValue('')
  await path.fill(join(studio.samples, 'Copies here'))
  await page.getByRole('button', { name: 'Copy into this folder' }).click()
  await expect(page.getByText(/3 sounds copied into/)).toBeVisible()
  expect(readdirSync(join(studio.samples, 'Copies here')).sort()).toEqual(['001 HBR_BD_001.WAV', '002 HBR_SD_001.WAV', '003 HBR_CP_001.WAV', 'x.txt'])

  await menu('Create a kit from them')
  await expect(page.getByRole('grid', { name: 'Kit sheet' })).toContainText('HBR_BD_001')
})

testHarbour('keys are listed, chosen otherwise, refused where they are taken, and printed in the foot line', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await expect(rows(page).first()).toBeVisible()
  await page.keyboard.press('?')
  const dialog = page.getByRole('dialog', { name: 'Keys and searching' })
  await dialog.getByRole('button', { name: 'Key for: favourite', exact: true }).click()
  await page.keyboard.press('x')
  await expect(dialog.getByRole('alert')).toContainText('X is taken: set aside')
  await page.keyboard.press('k')
  await expect(dialog.getByRole('button', { name: 'Key for: favourite', exact: true })).toHaveText('K')
  await dialog.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByLabel('Keys in this view').first()).toContainText('K favourite')
  await page.getByRole('grid', { name: 'Sounds' }).focus()
  await page.keyboard.press('k')
  await expect(rows(page).first().getByLabel('Favourite')).toBeVisible()
  await page.keyboard.press('f')
  await expect(rows(page).first().getByLabel('Favourite')).toBeVisible()
})
