import { copyFileSync, createWriteStream, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { finished } from 'node:stream/promises'
import type { Page } from '@playwright/test'
import { ZipFile } from 'yazl'
import { midiFromPattern } from '../../core/groove/midi/fromPattern'
import { SHIPPED_PATTERNS } from '../../core/groove/shipped'
import { patternFromSteps } from '../../core/groove/steps'
import { put, waveOf } from '../helpers/folder'
import { cell, dropOn, expect, expectSound, tabTo, test, testWith } from './studio'

const testHarbour = testWith('HARBOUR_TOOLS')

const padRow = (page: Page, name: string) => page.getByRole('grid', { name: 'Kit sheet' }).getByRole('row').filter({ hasText: name })

test('two tabs on one kit: one follows the other, edits made at the same time are both kept, and those of a kit that the other deleted as well', async ({ page, context, studio }) => {
  await page.goto(`${studio.server.url}/bench`)
  const name = (tab: Page) => tab.getByRole('textbox', { name: 'Name of the kit' })
  await expect(page.getByText(/^Saved \d/)).toBeVisible()
  const other = await context.newPage()
  await other.goto(`${studio.server.url}/bench`)
  await expect(other.getByText(/^Saved \d/)).toBeVisible()

  await name(page).fill('From the first tab')
  await expect(name(other)).toHaveValue('From the first tab')

  // The second tab hears nothing of the first for a while, as when a laptop sleeps.
  await other.route('**/api/kits/**', route => route.request().method() === 'PUT' ? new Promise(done => setTimeout(done, 1500)).then(() => route.continue()) : route.continue())
  await name(other).fill('From the second tab')
  await name(page).fill('From the first tab again')
  await expect(other.getByRole('alert')).toContainText('was changed in another tab at the same time')
  await expect(name(other)).toHaveValue('From the second tab (other tab)')
  await other.getByRole('button', { name: 'Open kits' }).click()
  await expect(other.getByRole('dialog')).toContainText('From the first tab again')
  await expect(other.getByRole('dialog')).toContainText('From the second tab (other tab)')

  await other.getByRole('dialog').getByRole('button', { name: 'Delete From the first tab again' }).click()
  await other.getByRole('button', { name: 'Delete this kit' }).click()
  await expect(other.getByRole('dialog', { name: 'Open kits' })).not.toContainText('From the first tab again')
  await name(page).fill('From the first tab, still')
  await expect(page.getByRole('alert')).toContainText('was deleted in another tab')
  await expect(page.getByText(/^Saved \d/)).toBeVisible()
  await page.reload()
  await expect(name(page)).toHaveValue('From the first tab, still')
})

testHarbour('a sound whose file is gone: the strip says so, the list goes on, the pad is marked, and storing says what is missing', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await page.getByRole('combobox', { name: 'Search' }).fill('clv')
  await expect(page.locator('.summary')).toContainText('4 sounds')
  rmSync(join(studio.samples, 'HARBOUR_TOOLS/HBR_CLV_002.WAV'))
  await page.keyboard.press('Enter')
  await page.keyboard.press('ArrowDown')
  await expect(page.getByText('"HBR_CLV_002" can\'t be played and was passed over')).toBeVisible()
  await expect(page.getByRole('region', { name: 'Player' })).toContainText('HBR_CLV_003')
  // It is short, and may be over by now: then it is played again.
  await expect(async () => {
    await page.keyboard.press(' ')
    await expectSound(page, 2000)
  }).toPass()
  const gone = page.getByRole('grid', { name: 'Sounds' }).locator('.rows > .row').filter({ hasText: 'HBR_CLV_002' })
  await expect(gone).toContainText('can\'t be played')
  await gone.click()
  await expect(page.getByRole('region', { name: 'Player' }).getByRole('alert')).toContainText('The file of this sound is not where it was')
  await page.keyboard.press('p')
  await page.keyboard.press('ArrowDown')
  await expectSound(page)
  await page.keyboard.press('2')
  await expect(padRow(page, 'HBR_CLV_002')).toContainText('file missing')
  await page.getByRole('button', { name: 'Store…' }).click()
  await expect(page.getByRole('dialog')).toContainText('1 sample cannot be found')
  await page.getByRole('button', { name: 'Copy 1 sample into the vault' }).click()
  await expect(page.getByText(/nowhere to be found: "HBR_CLV_002".*Nothing was stored/)).toBeVisible()
})

testHarbour('samples that are missing get others by keyboard: what lies in the file now is chosen already, what sounds alike is heard and chosen; one undo takes all back', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await page.getByRole('combobox', { name: 'Search' }).fill('clv')
  await expect(page.locator('.summary')).toContainText('4 sounds')
  await page.keyboard.press('Enter')
  for (const sounds of [1, 2, 3]) {
    await page.keyboard.press('p')
    await expect(page.getByRole('link', { name: 'Bench' })).toHaveText(`2Bench${sounds}`)
    await page.keyboard.press('ArrowDown')
  }
  put(studio.samples, 'HARBOUR_TOOLS/HBR_CLV_001.WAV', waveOf(900, 5000))
  rmSync(join(studio.samples, 'HARBOUR_TOOLS/HBR_CLV_002.WAV'))
  await studio.bringIn('HARBOUR_TOOLS')
  await page.keyboard.press('2')
  await page.getByRole('button', { name: 'Replace them…' }).press('Enter')

  const dialog = page.getByRole('dialog', { name: 'Missing samples of New kit' })
  const missing = dialog.getByRole('grid', { name: 'Missing samples' })
  await expect(missing).toBeFocused()
  await expect(missing.locator('.rows > .row')).toHaveText([/HBR_CLV_001.*A1.*HBR_CLV_001/, /HBR_CLV_002.*A2.*nothing yet/])
  await expect(dialog.getByRole('radio', { name: 'Now in its file' })).toBeChecked()
  await page.keyboard.press('ArrowDown')
  const offers = dialog.getByRole('radiogroup', { name: 'Replacement for HBR_CLV_002' })
  const alike = offers.getByRole('radio', { name: '% alike' })
  await expect(alike.first()).toBeVisible()
  await expect(offers.getByRole('radio', { name: 'No replacement' })).toBeChecked()
  await tabTo(page, offers.getByRole('radio', { checked: true }))
  await page.keyboard.press('ArrowDown')
  await expect(alike.first()).toBeChecked()
  // It is short, and may be over by now: then it is played again.
  await expect(async () => {
    await page.keyboard.press(' ')
    await expectSound(page, 2000)
  }).toPass()
  const name = (await offers.locator('.what .cut').first().innerText())
  await tabTo(page, dialog.getByRole('button', { name: 'Replace 2 sounds' }))
  await page.keyboard.press('Enter')

  const sheet = page.getByRole('grid', { name: 'Kit sheet' })
  await expect(dialog).toBeHidden()
  await expect(padRow(page, 'file missing')).toHaveCount(0)
  await expect(cell(sheet.locator('#pad-1'), 'Sound')).toContainText(name)
  await page.keyboard.press('Control+z')
  await expect(padRow(page, 'file missing')).toHaveCount(2)
  await page.keyboard.press('Control+y')
  await expect(padRow(page, 'file missing')).toHaveCount(0)
  await page.getByRole('button', { name: 'Store…' }).click()
  await page.getByRole('button', { name: /Copy \d samples into the vault/ }).click()
  await expect(page.getByRole('dialog', { name: 'Stored' })).toContainText('copied bit for bit')
})

test('a folder and an archive dropped on the page are copied and brought in', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await expect(page.getByRole('heading', { name: 'Bring in your sounds' })).toBeVisible()
  const drop = (path: string) => dropOn(page, path, 'Drop to bring in this folder or archive')
  const folder = join(studio.samples, 'HARBOUR_TOOLS')
  await drop(folder)
  await expect(page.locator('.summary')).toContainText('112 sounds')
  await expect(page.locator('.ledger')).toContainText('HARBOUR_TOOLS')

  const archive = join(studio.samples, 'Quay.zip')
  const zip = new ZipFile()
  zip.addFile(join(studio.samples, 'Nachtfähre/Becken/Splash 01 hard.wav'), 'Quay/Überfahrt/Splash ä.wav')
  zip.end()
  await finished((zip.outputStream as unknown as Readable).pipe(createWriteStream(archive)))
  await drop(archive)
  await expect(page.locator('.summary')).toContainText('113 sounds')
  await page.getByRole('combobox', { name: 'Search' }).fill('uberfahrt')
  await expect(page.locator('.summary')).toContainText('1 sound found')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Player' })).toContainText('Splash ä')
  await expectSound(page)
})

test('files are taken to where they belong by their content, whatever view they are dropped on, and the browser goes to none', async ({ page, studio }) => {
  await page.goto(`${studio.server.url}/vault`)
  await expect(page.getByRole('heading', { name: 'Nothing stored yet' })).toBeVisible()
  const bank = join(studio.samples, 'no ending')
  const twin = join(studio.samples, 'twin.sf2')
  for (const path of [bank, twin]) copyFileSync('/usr/share/sounds/sf2/TimGM6mb.sf2', path)
  await dropOn(page, [bank, twin], 'Drop a kit package or another kit')
  const kits = page.getByRole('dialog', { name: 'Import a kit from another sampler' })
  await expect(page.getByText('Kits are imported one at a time: "twin.sf2" not opened.')).toBeVisible()
  await expect(kits).toContainText('SoundFont with 136 kits', { timeout: 20_000 })
  await page.keyboard.press('Escape')

  const beat = join(studio.samples, 'beat.txt')
  writeFileSync(beat, midiFromPattern(patternFromSteps(SHIPPED_PATTERNS[0]!), { format: 1, notes: { by: 'parts' } }).bytes)
  await page.goto(`${studio.server.url}/fit`)
  await dropOn(page, beat, 'Drop a kit to import it')
  await page.getByRole('dialog', { name: 'Import beat.txt' }).getByRole('button', { name: 'Import pattern' }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the pattern' })).toHaveValue('beat.txt')

  await dropOn(page, join(studio.samples, 'HARBOUR_TOOLS'), 'Drop MIDI files')
  await expect.poll(async () => (await studio.server.api<{ name: string }[]>('/api/sources')).map(source => source.name)).toContain('HARBOUR_TOOLS')

  const notes = join(studio.samples, 'notes.pdf')
  writeFileSync(notes, Uint8Array.from([37, 80, 68, 70, 0, 1]))
  await dropOn(page, notes, 'Drop MIDI files')
  await expect(page.getByText('Emporion does not open "notes.pdf".')).toBeVisible()
  await expect(page).toHaveURL(/\/grooves$/)
})

test('importing a package that is none says why, and the vault stays as it was', async ({ page, studio }) => {
  await page.goto(`${studio.server.url}/vault`)
  await expect(page.getByRole('heading', { name: 'Nothing stored yet' })).toBeVisible()
  await page.getByLabel('Kit packages to import').setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip') })
  await expect(page.getByText(/This is not a whole zip archive/)).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Nothing stored yet' })).toBeVisible()
})

test('themes: day and lamp change the paper, and text keeps a contrast of 4.5 to 1 (WCAG 2.2, 1.4.3)', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  for (const [theme, paper] of [['Day', 'rgb(247, 243, 234)'], ['Lamp', 'rgb(18, 24, 27)']] as const) {
    await page.getByRole('button', { name: 'Settings' }).click()
    await page.getByRole('radio', { name: theme }).check({ force: true })
    await page.keyboard.press('Escape')
    await expect(page.locator('body')).toHaveCSS('background-color', paper)
    const worst = await page.evaluate(() => {
      const style = getComputedStyle(document.documentElement)
      const light = (name: string) => {
        const hex = style.getPropertyValue(name).trim().slice(1)
        const [r, g, b] = [0, 2, 4].map(i => parseInt(hex.slice(i, i + 2), 16) / 255).map(v => v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
        return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!
      }
      const contrast = (a: string, b: string) => (Math.max(light(a), light(b)) + 0.05) / (Math.min(light(a), light(b)) + 0.05)
      return Math.min(...['--ink', '--quiet', '--accent', '--look', '--lost'].flatMap(ink => ['--paper', '--sheet'].map(ground => contrast(ink, ground))), contrast('--on-accent', '--accent'), contrast('--ink', '--at-hand'), contrast('--ink', '--chosen'))
    })
    expect(worst).toBeGreaterThanOrEqual(4.5)
  }
})

testHarbour('a report of a problem is saved by keys from Settings, and names nothing of the library; what is asked has an id that the log knows', async ({ page, studio }) => {
  await page.goto(`${studio.server.url}/library`)
  await expect(page.locator('.rows > .row').first()).toContainText('HBR_')
  const refused = await fetch(`${studio.server.url}/api/sounds/none`)
  expect([refused.status, refused.headers.get('x-request-id')]).toEqual([400, expect.stringMatching(/^[\da-f-]{36}$/)])
  await page.getByRole('button', { name: 'Settings' }).click()
  const link = page.getByRole('dialog', { name: 'Settings' }).getByRole('link', { name: 'Save a report' })
  await tabTo(page, link)
  const saved = page.waitForEvent('download')
  await page.keyboard.press('Enter')
  const download = await saved
  expect(download.suggestedFilename()).toBe('emporion-report.json')
  const text = readFileSync(await download.path(), 'utf8')
  const report = JSON.parse(text) as { readonly counts: { readonly sources: number, readonly sounds: number }, readonly log: readonly Record<string, unknown>[] }
  expect(report.counts.sources).toBe(1)
  expect(report.counts.sounds).toBeGreaterThan(100)
  expect(report.log).toContainEqual(expect.objectContaining({ request: refused.headers.get('x-request-id'), path: '/api/sounds/[hash]', code: 'invalid' }))
  expect(text).not.toMatch(/HARBOUR_TOOLS|HBR_|\/tmp\//)
})

testHarbour('the output that was chosen goes away: it is reported, and the usual one plays on', async ({ page, studio }) => {
  // This machine has no devices to pull out, so the browser is made to tell of some.
  await page.addInitScript(() => {
    const there = [{ kind: 'audiooutput', deviceId: 'deck', label: 'Deck speakers' }, { kind: 'audiooutput', deviceId: 'cabin', label: 'Cabin phones' }]
    navigator.mediaDevices.enumerateDevices = () => Promise.resolve(there as unknown as MediaDeviceInfo[])
    Object.assign(AudioContext.prototype, { setSinkId: () => Promise.resolve() })
    Object.assign(window, { unplug: () => {
      there.splice(0, 1)
      navigator.mediaDevices.dispatchEvent(new Event('devicechange'))
    } })
  })
  await page.goto(studio.server.url)
  await expect(page.locator('.summary')).toContainText('112 sounds')
  const device = page.locator('.strip').getByRole('combobox', { name: 'Output device' })
  await device.press('Enter')
  await page.getByRole('option', { name: 'Deck speakers' }).click()
  await expect.poll(() => page.evaluate(() => localStorage.getItem('emporion-output-device'))).toBe('deck')
  await page.evaluate(() => (window as unknown as { unplug: () => void }).unplug())
  await expect(page.getByText('The selected output is gone; the default output plays now.')).toBeVisible()
  await expect.poll(() => page.evaluate(() => localStorage.getItem('emporion-output-device'))).toBe('')
  await page.getByRole('grid', { name: 'Sounds' }).focus()
  await page.keyboard.press('ArrowDown')
  await expectSound(page)
})

testHarbour('two browsers on one library: what one marks the other shows, and neither loses its place', async ({ page, browser, studio }) => {
  const other = await (await browser.newContext()).newPage()
  for (const tab of [page, other]) {
    await tab.goto(studio.server.url)
    await expect(tab.locator('.summary')).toContainText('112 sounds')
  }
  const atHand = (tab: Page) => tab.locator('.rows > .row[aria-selected="true"]')
  await other.keyboard.press('End')
  const name = await atHand(other).locator('.cut').first().textContent()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('x')
  await expect(page.locator('.summary')).toContainText('111 sounds')
  await expect(other.locator('.summary')).toContainText('111 sounds')
  await expect(atHand(other).locator('.cut').first()).toHaveText(name!)
  await other.keyboard.press('f')
  await expect(atHand(other).getByLabel('Favourite')).toBeVisible()
  await page.keyboard.press('End')
  await expect(atHand(page).getByLabel('Favourite')).toBeVisible()
  await other.context().close()
})
