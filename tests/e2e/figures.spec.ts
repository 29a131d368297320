import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { put } from '../helpers/folder'
import { sine } from '../helpers/audio'
import { writeWave } from '../../core/audio/wave/write'
import { expect, expectSilence, searched, tabTo, test, testWith } from './studio'

const testQuay = testWith('Quay 9 field kit')

const figures = (page: Page) => page.getByRole('region', { name: 'Figures of the current sound' })

async function goTo(page: Page, query: string): Promise<void> {
  await page.getByRole('combobox', { name: 'Search' }).fill(query)
  await searched(page)
  await page.keyboard.press('Enter')
}

testQuay('the demo\'s accidents are named in the list, and every figure stands in the panel with what it rests on', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await goTo(page, 'unsorted')
  const list = page.getByRole('grid', { name: 'Sounds' })
  for (const [name, word] of [['cut off crash', 'damaged'], ['four bongos', 'several hits'], ['Kick original', '3 files'], ['late rimshot', 'late start'], ['Silence', 'silent'], ['Snare too hot', 'clipped'], ['Tom with offset', 'DC offset']] as const) {
    await expect(list.locator('.rows > .row').filter({ hasText: name })).toContainText(word)
  }
  await page.keyboard.press('i')
  await goTo(page, 'four bongos')
  await expect(figures(page)).toContainText('There is more than one hit in it.')
  await expect(figures(page)).toContainText('4 at 0.00 0.50 1.00 1.50 s')
  await expect(figures(page)).toContainText(/Bongo, \d+ % sure by "bongos" in the file name/)
  // The three witnesses, each with what it says.
  await expect(figures(page).locator('.witnesses')).toContainText(/Its nameBongo, 90 %"bongos" in the file nameIts tagssays nothingIts sound\S/)
  for (const label of ['Loudness of the hit', 'True peak', 'Length heard', 'Decay by 60 dB', 'Brightness', 'Frequency', 'Container']) await expect(figures(page)).toContainText(label)
  await goTo(page, 'kick original')
  await expect(figures(page)).toContainText('3 files')
  await expect(figures(page)).toContainText('Kick original.aif')
  await expect(figures(page)).not.toContainText('too little to be listed')
  // What a crash has for a pitch is shown with its sureness, and is none to be found by.
  await goTo(page, 'cut off crash')
  await expect(figures(page)).toContainText(/\d %, too little to be listed/)
  await expect(page.getByText('no pitch', { exact: true })).toBeVisible()
  await goTo(page, 'unsorted note=0..127')
  await expect(list.locator('.rows > .row').filter({ hasText: 'Kick original' })).toBeVisible()
  await expect(list.locator('.rows > .row').filter({ hasText: 'cut off crash' })).toHaveCount(0)
  await page.keyboard.press('i')
  await expect(figures(page)).toBeHidden()
})

test('levels are matched: a loud and a quiet tone come out alike, and as they are when that is off', async ({ page, studio }) => {
  for (const [name, level] of [['loud', 0.8], ['quiet', 0.05]] as const) put(join(studio.samples, 'Tones'), `${name}.wav`, writeWave([sine(1000, 44_100, 44_100 * 4, level)], 44_100, { depth: 24 }))
  await studio.bringIn('Tones')
  await page.goto(studio.server.url)
  const meter = page.getByRole('meter', { name: 'Output level' })
  const levelOf = async (name: string) => {
    await goTo(page, name)
    let before = Number.NaN
    await expect.poll(async () => {
      const now = Number(await meter.getAttribute('aria-valuenow'))
      const steady = now === before && now > -60
      before = now
      return steady
    }, { intervals: [400] }).toBe(true)
    return before
  }
  const [loud, quiet] = [await levelOf('loud'), await levelOf('quiet')]
  expect(Math.abs(loud - quiet)).toBeLessThanOrEqual(1)
  await page.keyboard.press('m')
  await expectSilence(page)
  // 20 log10(0.8 / 0.05) = 24.1 dB.
  const [loudAsIs, quietAsIs] = [await levelOf('loud'), await levelOf('quiet')]
  expect(loudAsIs - quietAsIs).toBeGreaterThanOrEqual(23)
  expect(loudAsIs - quietAsIs).toBeLessThanOrEqual(25)
})

test('loops are found and sorted by the tempo that their names state; what was no loop has one when it is said to be one by hand', async ({ page, studio }) => {
  const eightBeatsAt = (bpm: number) => writeWave([sine(220, 44_100, Math.round(8 * 60 / bpm * 44_100), 0.5)], 44_100, { depth: 16 })
  const files = [['Loops/Rail_Loop_120_Am', 120], ['Loops/Anchor loop 90', 90], ['Loops/Deck 74bpm', 74], ['Loops/Numbered loop 107', 96], ['Takes/Gangway 100', 100]] as const
  for (const [name, bpm] of files) put(join(studio.samples, 'Quay'), `${name}.wav`, eightBeatsAt(bpm))
  await studio.bringIn('Quay')
  await page.goto(studio.server.url)
  const names = page.getByRole('grid', { name: 'Sounds' }).locator('.rows > .row')
  await expect(names).toHaveCount(5)
  await page.getByRole('button', { name: 'Columns…' }).click()
  const dialog = page.getByRole('dialog', { name: 'Columns' })
  await dialog.getByText('Tempo, BPM', { exact: true }).click()
  await dialog.getByRole('button', { name: 'Done' }).click()
  await page.getByRole('button', { name: /^Sort by Tempo/ }).click()
  await expect(names).toContainText([/Deck 74bpm.*74/, /Anchor loop 90.*90/, /Rail_Loop_120_Am.*120/, /Gangway/, /Numbered/])
  await goTo(page, 'tempo=70..100')
  await expect(names).toContainText([/Deck 74bpm/, /Anchor loop 90/])
  await page.getByRole('button', { name: 'Clear the search' }).click()
  await goTo(page, 'rail')
  await page.keyboard.press('i')
  await expect(figures(page)).toContainText('120 BPM by "120" in its name, by which it lasts 8 beats')

  await goTo(page, 'gangway')
  await expect(figures(page)).toContainText('Gangway 100')
  await expect(figures(page)).not.toContainText('BPM')
  await page.keyboard.press('e')
  await tabTo(page, page.getByRole('dialog').getByRole('combobox', { name: 'Kind by hand' }))
  await page.keyboard.type('Loop')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await tabTo(page, page.getByRole('dialog').getByRole('button', { name: 'Set for 1 sound' }))
  await page.keyboard.press('Enter')
  await expect(figures(page)).toContainText('100 BPM by "100" in its name')
})
