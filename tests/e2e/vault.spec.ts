import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import type { JobView } from '../../contract/jobs'
import type { KitView } from '../../contract/kits'
import type { SoundRow } from '../../contract/library'
import { emptyKit } from '../../core/kit/document'
import { placeSounds } from '../../core/kit/edits'
import { expect, expectSound, testWith, type Studio } from './studio'

const testHarbour = testWith('HARBOUR_TOOLS')

async function stored(studio: Studio, name: string): Promise<void> {
  const { rows } = await studio.server.api<{ rows: SoundRow[] }>('/api/sounds?q=kind%3Dkick&limit=3')
  const { kit } = placeSounds(emptyKit(name), 0, rows.map(row => ({ sound: { id: row.hash, name: row.name, frames: row.frames, sampleRate: row.sampleRate, channels: row.channels }, kind: row.kind })))
  const draft = await studio.server.api<KitView>('/api/kits', { method: 'POST', body: { kit } })
  const job = await studio.server.ended(await studio.server.api<JobView>('/api/vault/store', { method: 'POST', body: { kitId: draft.id, kit, name, presetId: null } }))
  expect(job.state).toBe('done')
}

async function exported(page: Page): Promise<string> {
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Export as .zip' }).click()
  return (await download).path()
}

const presets = (page: Page) => page.getByRole('grid', { name: 'Presets' })
const say = (page: Page, text: RegExp) => expect(page.getByText(text).first()).toBeVisible()

testHarbour('a package whose name is taken asks: another name, or the next revision; neither touches what is there', async ({ page, studio }) => {
  await stored(studio, 'Quay kicks')
  await page.goto(`${studio.server.url}/vault`)
  await expect(presets(page)).toContainText('Quay kicks')
  const file = await exported(page)
  const chooser = page.getByLabel('Kit packages to import')

  await chooser.setInputFiles({ name: 'a.zip', mimeType: 'application/zip', buffer: readFileSync(file) })
  await expect(page.getByRole('dialog')).toContainText('There is a preset named "Quay kicks" already')
  await page.getByRole('button', { name: 'Import under another name' }).click()
  await say(page, /"Quay kicks 2", revision 1, was imported and checked/)
  await expect(presets(page)).toContainText('Quay kicks 2')

  await chooser.setInputFiles(file)
  await page.getByRole('button', { name: 'Make it the next revision of "Quay kicks"' }).click()
  await say(page, /"Quay kicks", revision 2, was imported and checked/)

  await chooser.setInputFiles(file)
  await expect(page.getByRole('dialog')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  expect((await studio.server.api<{ presets: { name: string, revisions: number }[] }>('/api/vault')).presets.map(({ name, revisions }) => `${name}: ${revisions}`)).toEqual(['Quay kicks: 2', 'Quay kicks 2: 1'])
})

testHarbour('by keys alone: a preset is found by words, sorted by a figure, and kept at hand', async ({ page, studio }) => {
  for (const name of ['Deck 10', 'Deck 2', 'Fähre']) await stored(studio, name)
  const rows = () => presets(page).getByRole('row').filter({ has: page.getByRole('gridcell') }).evaluateAll(found => found.sort((a, b) => Number(a.getAttribute('aria-rowindex')) - Number(b.getAttribute('aria-rowindex'))).map(row => row.querySelector('strong')?.textContent))
  await page.goto(`${studio.server.url}/vault`)
  await expect.poll(rows).toEqual(['Deck 2', 'Deck 10', 'Fähre'])
  await page.keyboard.press('End')
  await expect(page.getByRole('region', { name: 'Current preset' })).toContainText('Fähre')
  await page.keyboard.press('/')
  await page.keyboard.type('deck')
  await expect.poll(rows).toEqual(['Deck 2', 'Deck 10'])
  await expect(page.getByText('2 of 3 presets are found.')).toBeVisible()
  await page.keyboard.press('Enter')
  await page.keyboard.press('Home')
  await expectSound(page)
  await expect(page.getByRole('region', { name: 'Current preset' })).toContainText('Deck 2')
  await page.keyboard.press('/')
  await page.keyboard.press('Escape')
  await expect.poll(rows).toEqual(['Deck 2', 'Deck 10', 'Fähre'])
  await page.getByRole('button', { name: 'Sort by Stored, now none' }).press('Enter')
  await expect.poll(rows).toEqual(['Fähre', 'Deck 2', 'Deck 10'])
  await expect(page.getByRole('region', { name: 'Current preset' })).toContainText('Deck 2')
  await page.getByRole('button', { name: 'Sort by Stored, now descending' }).press('Enter')
  await expect.poll(rows).toEqual(['Deck 10', 'Deck 2', 'Fähre'])
})

testHarbour('by keys alone: duplicate, rename to a taken name, delete, empty the bin', async ({ page, studio }) => {
  await stored(studio, 'Deck')
  await page.goto(`${studio.server.url}/vault`)
  await expect(presets(page)).toContainText('Deck')
  await page.keyboard.press('d')
  await expect(page.getByRole('dialog')).toContainText('Duplicate "Deck"')
  await page.keyboard.press('Enter')
  await say(page, /"Deck copy" is in the vault/)
  await page.keyboard.press('ArrowDown')
  await expectSound(page)
  await page.keyboard.press('F2')
  await page.keyboard.press('Control+a')
  await page.keyboard.type('deck')
  await page.keyboard.press('Enter')
  await say(page, /There is a preset named "deck" already/)
  const long = 'Überfahrt bei Nacht '.repeat(6).trim()
  await page.keyboard.press('F2')
  await page.keyboard.press('Control+a')
  await page.keyboard.type(long)
  await page.keyboard.press('Enter')
  await expect(presets(page)).toContainText(long)
  await page.keyboard.press('Delete')
  await expect(page.getByRole('dialog')).toContainText('to the bin?')
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByRole('dialog')).toBeHidden()
  await page.keyboard.press('Home')
  await presets(page).focus()
  await page.keyboard.press('Delete')
  await page.getByRole('button', { name: /Move 1 revision to the bin/ }).press('Enter')
  await expect(page.getByRole('button', { name: /^Bin/ })).toContainText('1')
  await page.getByRole('button', { name: /^Bin/ }).press('Enter')
  await page.getByRole('button', { name: 'Empty the bin…' }).press('Enter')
  await page.getByRole('button', { name: 'Delete 1 preset for good' }).press('Enter')
  await expect(page.getByRole('button', { name: /^Bin/ })).toContainText('0')
})

testHarbour('a preset that was damaged on disk is marked with the reason, and the others work', async ({ page, studio }) => {
  await stored(studio, 'Intact')
  await stored(studio, 'Spoilt')
  await studio.server.stop()
  rmSync(join(studio.data, 'db'), { recursive: true })
  writeFileSync(join(studio.data, 'vault/Spoilt/revision-1/data/kit.json'), '{"format": "emporion-kit"')
  await studio.restart()
  await page.goto(`${studio.server.url}/vault`)
  await expect(presets(page)).toContainText('kit.json is damaged: it is not valid JSON.')
  await presets(page).locator('.rows > .row').filter({ hasText: 'Spoilt' }).click()
  await page.getByRole('button', { name: 'Open on the bench' }).click()
  await say(page, /kit\.json is damaged/)
  await presets(page).locator('.rows > .row').filter({ hasText: 'Intact' }).click()
  await expectSound(page)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Name of the kit' })).toHaveValue('Intact')
})
