import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import type { JobView } from '../../server/jobs/types'
import { expect, tabTo, test, type Studio } from './studio'

async function bringIn(studio: Studio, folder: string): Promise<void> {
  const job = await studio.server.ended(await studio.server.api<JobView>('/api/sources', { method: 'POST', body: { path: join(studio.samples, folder) } }))
  expect(job.state).toBe('done')
}

const summary = (page: Page) => page.locator('.summary')
const list = (page: Page) => page.getByRole('grid', { name: 'Sounds' })

async function goTo(page: Page, query: string): Promise<void> {
  await page.getByRole('combobox', { name: 'Search' }).fill(query)
  await expect(summary(page)).toContainText('found')
  await page.keyboard.press('Enter')
}

test('by keys alone: kind, tags and favourite of several sounds are set, found by, taken back and done again', async ({ page, studio }) => {
  await bringIn(studio, 'Quay 9 field kit')
  await page.goto(studio.server.url)
  await goTo(page, 'tomhi')
  await expect(summary(page)).toContainText('4 sounds found')
  await page.keyboard.press('Shift+End')
  await page.keyboard.press('e')
  const dialog = page.getByRole('dialog', { name: 'Set by hand: 4 sounds' })
  await expect(dialog).toBeVisible()
  await tabTo(page, dialog.getByRole('combobox', { name: 'Kind by hand' }))
  await page.keyboard.type('Frame')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await tabTo(page, dialog.getByRole('combobox', { name: 'Tags to give' }))
  await page.keyboard.type('aft deck')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  const set = page.getByRole('button', { name: 'Set for 4 sounds' })
  await tabTo(page, set)
  await page.keyboard.press('Enter')
  await expect(page.getByText(/Set for 4 sounds: kind hand.frame, tag "aft deck"/)).toBeVisible()
  await expect(dialog).toBeHidden()
  await expect(list(page)).toContainText('Frame drum')
  await goTo(page, 'aft deck')
  await expect(summary(page)).toContainText('4 sounds found')
  await page.keyboard.press('Shift+ArrowDown')
  await page.keyboard.press('f')
  await expect(list(page).getByLabel('Favourite')).toHaveCount(2)
  await page.keyboard.press('Control+z')
  await expect(list(page).getByLabel('Favourite')).toHaveCount(0)
  await page.keyboard.press('Control+Shift+z')
  await expect(list(page).getByLabel('Favourite')).toHaveCount(2)
  await page.getByRole('complementary', { name: 'Filters' }).getByRole('button', { name: /^favourite/ }).click()
  await expect(summary(page)).toContainText('2 sounds found')
})

test('the sources tell the truth about the demo: what to look at, what lies there twice, kinds by length, rules and the list', async ({ page, studio }) => {
  await bringIn(studio, 'Quay 9 field kit')
  await page.goto(studio.server.url)
  await expect(page.getByRole('button', { name: /unreadable/ })).toBeVisible()
  await page.keyboard.press('s')
  const sources = page.getByRole('dialog', { name: 'Sources' })
  await expect(sources).toContainText('no audio that Emporion knows')
  await page.getByRole('tab', { name: /To look at/ }).click()
  for (const word of ['silent', 'clipped', 'several hits', 'late start', 'DC offset', 'cut short']) await expect(sources.getByRole('tabpanel', { name: /To look at/ })).toContainText(word)
  await page.getByRole('tab', { name: /Families/ }).click()
  await expect(sources).toContainText('tomhi · 4 strokes')

  await page.getByRole('tab', { name: 'Rules' }).click()
  await page.getByRole('combobox', { name: 'Folder of the rule' }).click()
  await page.getByRole('option', { name: /^Toms/ }).click()
  await tabTo(page, page.getByRole('combobox', { name: 'Tags of the rule' }))
  await page.keyboard.type('drawer')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Tab')
  await page.getByRole('button', { name: 'Lay down this rule' }).click()
  await expect(sources).toContainText(/Everything in Toms is\s+tagged drawer/)

  await page.getByRole('tab', { name: 'List' }).click()
  const saving = page.waitForEvent('download')
  await page.getByRole('link', { name: /Save the list/ }).click()
  const path = await (await saving).path()
  expect(readFileSync(path, 'utf8')).toMatch(/Toms\/TomHi_rr1\.wav,tom\.high,drawer/)
  await page.getByLabel('List to read').setInputFiles({ name: 'list.csv', mimeType: 'text/csv', buffer: Buffer.from('path,kind,tags\nToms/TomHi_rr1.wav,gong,bright\nnot here.wav,kick,\n') })
  await expect(sources).toContainText('2 lines read; 1 sound changed')
  await expect(sources).toContainText('1 path not in this source, such as not here.wav')

  await page.getByRole('tab', { name: 'By kind and length' }).click()
  await expect(sources.locator('.apexcharts-bar-area').first()).toBeVisible()
  await expect(sources.locator('.apexcharts-yaxis')).toContainText('Snare')
  await page.getByRole('tab', { name: 'Twice in the library' }).click()
  await expect(sources).toContainText('1 sound in 3 files')
  await expect(sources).toContainText('some of them identical files')
})
