import { cpSync, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Locator, Page } from '@playwright/test'
import type { SourceView } from '../../contract/sources'
import { drumKit } from '../helpers/drumKit'
import { put, waveOf } from '../helpers/folder'
import { cell, dropOn, expect, test, testWith } from './studio'

const testHarbour = testWith('HARBOUR_TOOLS')

const sheet = (page: Page) => page.getByRole('grid', { name: 'Kit sheet' })
const pad = (page: Page, index: number) => sheet(page).locator(`#pad-${index}`)

test('a file goes onto the pad that it is dropped on; several are placed; the tray takes them; one source for one thing', async ({ page, studio }) => {
  const kick = join(studio.samples, 'Dock kick.wav')
  const two = ['Dock clap.wav', 'Dock rim.wav'].map(name => join(studio.samples, name))
  put(studio.samples, 'Dock kick.wav', waveOf(70))
  for (const [i, path] of two.entries()) writeFileSync(path, Uint8Array.from(waveOf(300 + i)))
  const sources = async () => (await studio.server.api<SourceView[]>('/api/sources')).map(source => source.name)

  await page.goto(`${studio.server.url}/bench`)
  await expect(page.getByText(/^Saved \d/)).toBeVisible()
  await dropOn(page, kick, 'Drop onto pad A3', pad(page, 2))
  await expect(cell(pad(page, 2), 'Sound')).toContainText('Dock kick')
  await dropOn(page, kick, 'Drop onto pad A6', page.getByRole('button', { name: /^Pad A6/ }))
  await expect(cell(pad(page, 5), 'Sound')).toContainText('Dock kick')
  expect(await sources()).toEqual(['Dock kick'])

  await dropOn(page, two, 'Drop onto pad A9', pad(page, 8))
  const placing = page.getByRole('dialog', { name: 'Put 2 sounds on pads' })
  await placing.getByRole('button', { name: /^Put 2 sounds/ }).click()
  await expect(cell(pad(page, 8), 'Sound')).toContainText('Dock clap')
  await expect(cell(pad(page, 9), 'Sound')).toContainText('Dock rim')

  await dropOn(page, two[0]!, 'Drop to place on pads', sheet(page).getByRole('columnheader', { name: 'Waveform' }))
  await expect(page.getByRole('dialog', { name: 'Put 1 sound on pads' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog', { name: 'Put 1 sound on pads' })).toBeHidden()

  await dropOn(page, two, 'Drop to bring in and add to the tray', page.getByRole('complementary', { name: 'Tray and pads' }).getByLabel('Sounds on the tray'))
  await expect(page.getByRole('option', { name: 'Dock rim' })).toBeVisible()
  expect((await sources()).toSorted()).toEqual(['Dock clap', 'Dock clap and 1 more', 'Dock kick'])
})

testHarbour('on a row of Grooves a sound goes onto its pad; on Fit and the Vault a folder is read as the kit that it is', async ({ page, studio }) => {
  const bell = join(studio.samples, 'Dock bell.wav')
  put(studio.samples, 'Dock bell.wav', waveOf(900))
  await drumKit(studio.server.api, 'Quay', ['kick', 'snare'])
  await page.goto(`${studio.server.url}/grooves`)
  const row = page.locator('.labels .label').filter({ hasText: 'A2' })
  await dropOn(page, bell, 'Drop onto pad A2', row)
  await expect(row).toContainText('Dock bell')

  const folder = join(studio.samples, 'Rope kit')
  mkdirSync(join(folder, 'samples'), { recursive: true })
  cpSync(bell, join(folder, 'samples/bell.wav'))
  writeFileSync(join(folder, 'rope.sfz'), '<region> sample=samples/bell.wav key=40\n')
  const dialog = page.getByRole('dialog', { name: 'Import a kit from another sampler' })
  await page.goto(`${studio.server.url}/fit`)
  await dropOn(page, folder, 'Drop a kit to import it')
  await expect(dialog).toContainText('SFZ')
  await dialog.getByRole('button', { name: /^Import .* into the vault/ }).click()
  await expect(dialog).toContainText('is in the vault.')
  await page.goto(`${studio.server.url}/vault`)
  await dropOn(page, folder, 'Drop a kit package or another kit')
  await expect(dialog).toContainText('SFZ')
})

testHarbour('a drop arrives where the view takes away what is below the pointer at that moment', async ({ page, studio }) => {
  await page.goto(`${studio.server.url}/library`)
  await page.evaluate(() => {
    const passing = document.createElement('div')
    passing.className = 'passing'
    passing.style.cssText = 'position: fixed; inset: 0'
    document.querySelector('.page')!.append(passing)
  })
  const passing = page.locator('.passing')
  put(studio.samples, 'Buoy/Buoy bell.wav', waveOf(700))
  await dropOn(page, join(studio.samples, 'Buoy'), 'Drop to bring in this folder', passing, () => passing.evaluate(element => element.remove()))
  await expect.poll(async () => (await studio.server.api<SourceView[]>('/api/sources')).map(source => source.name)).toContain('Buoy')
})

testHarbour('a sound, a pad, a pattern and a preset can be dragged out as files, and saved from their menus by key', async ({ page, studio }) => {
  await drumKit(studio.server.api, 'Quay', ['kick', 'snare'])
  /** What a row hands to the desktop when it is dragged. */
  const handedOut = (row: Locator) => row.evaluate((element) => {
    const data = new DataTransfer()
    element.dispatchEvent(new DragEvent('dragstart', { bubbles: true, dataTransfer: data }))
    window.dispatchEvent(new DragEvent('dragend'))
    return data.getData('DownloadURL')
  })
  const fetched = async (handed: string) => {
    const [, type, name, url] = /^([^:]*):([^:]*):(.*)$/.exec(handed)!
    const answer = await fetch(url!)
    return { type, name, head: Buffer.from(await answer.arrayBuffer()).subarray(0, 4).toString('latin1') }
  }
  await page.goto(`${studio.server.url}/library`)
  const first = page.getByRole('grid', { name: 'Sounds' }).locator('.rows > .row').first()
  await expect(first).toContainText('HBR_')
  expect(await fetched(await handedOut(first))).toMatchObject({ name: expect.stringMatching(/^HBR_.*\.wav$/), head: 'RIFF' })

  await page.getByRole('grid', { name: 'Sounds' }).focus()
  await page.keyboard.press('Shift+F10')
  const download = page.waitForEvent('download')
  await expect(page.getByRole('menuitem').first()).toBeFocused()
  const save = page.getByRole('menuitem', { name: 'Save as a file' })
  const places = await page.getByRole('menuitem').allInnerTexts()
  for (let i = places.findIndex(text => text.includes('Save as a file')); i > 0; i--) await page.keyboard.press('ArrowDown')
  await expect(save).toBeFocused()
  await page.keyboard.press('Enter')
  expect((await download).suggestedFilename()).toMatch(/^HBR_.*\.WAV$/)

  await page.goto(`${studio.server.url}/grooves`)
  const pattern = page.getByRole('grid', { name: 'Patterns' }).locator('.rows > .row').filter({ hasText: 'Gangway' })
  expect(await fetched(await handedOut(pattern))).toEqual({ type: 'audio/midi', name: 'Gangway.mid', head: 'MThd' })

  await page.goto(`${studio.server.url}/bench`)
  const padName = page.getByRole('grid', { name: 'Kit sheet' }).getByRole('row', { name: /^A1 / }).getByText(/^HBR_/)
  await expect(padName).toBeVisible()
  await expect.poll(async () => fetched(await handedOut(padName))).toMatchObject({ name: expect.stringMatching(/^HBR_.*\.wav$/), head: 'RIFF' })
  await page.getByRole('button', { name: 'Store…' }).click()
  await page.getByRole('button', { name: /^Copy 2 samples into the vault/ }).click()
  await expect(page.getByRole('dialog', { name: 'Stored' })).toContainText('is in the vault')
  await page.goto(`${studio.server.url}/vault`)
  const preset = page.getByRole('grid', { name: 'Presets' }).locator('.rows > .row').first()
  expect(await fetched(await handedOut(preset))).toEqual({ type: 'application/zip', name: 'Quay.zip', head: 'PK\u0003\u0004' })
})

testHarbour('folders: a click searches there only, stars stand on top, keys open and close; a pad is found by letters', async ({ page, studio }) => {
  await studio.bringIn('Quay 9 field kit')
  await drumKit(studio.server.api, 'Quay', ['kick', 'snare'])
  await page.goto(`${studio.server.url}/library`)
  const tree = page.getByRole('tree')
  const line = (name: string) => tree.getByRole('treeitem', { name: new RegExp(`^${name}`) })
  await expect(line('Quay 9 field kit, 120 sounds')).toBeVisible()
  await line('HARBOUR_TOOLS').click()
  await expect(page.locator('.summary .count')).toHaveText('112 sounds found')
  await line('HARBOUR_TOOLS').click()
  await expect(page.locator('.summary .count')).toHaveText('232 sounds')

  await tree.focus()
  await page.keyboard.press('End')
  await page.keyboard.press('ArrowRight')
  await expect(line('Kicks, 12 sounds')).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('f')
  await expect(line('.*, favourite')).toHaveCount(1)
  await page.keyboard.press('Home')
  await page.keyboard.press('Enter')
  await expect(page.locator('.summary .count')).toHaveText(/^\d+ sounds found$/)
  await page.reload()
  await expect(line('.*, favourite')).toHaveCount(1)

  await page.keyboard.press('2')
  await page.getByRole('grid', { name: 'Kit sheet' }).focus()
  await page.keyboard.press('/')
  await page.keyboard.type('snare')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('grid', { name: 'Kit sheet' })).toHaveAttribute('aria-activedescendant', 'pad-1')
  await expect(page.getByRole('grid', { name: 'Kit sheet' })).toBeFocused()
})
