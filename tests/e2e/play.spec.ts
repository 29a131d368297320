import { join } from 'node:path'
import type { Page } from '@playwright/test'
import type { KitView } from '../../contract/kits'
import type { SoundRow } from '../../contract/library'
import { emptyKit } from '../../core/kit/document'
import { placeSounds, setPads } from '../../core/kit/edits'
import { put, waveOf } from '../helpers/folder'
import { cell, choice, expect, expectSilence, expectSound, test, type Studio } from './studio'

/** Brings in one long tone and puts it on the first pads. */
async function kitOfTones(play: 'one-shot' | 'gated', studio: Studio): Promise<void> {
  const folder = join(studio.samples, 'Tones')
  for (let i = 0; i < 3; i++) put(folder, `Tone ${i + 1}.wav`, waveOf(400 + i * 100, 44_100 * 6))
  await studio.bringIn('Tones')
  const { rows } = await studio.server.api<{ rows: SoundRow[] }>('/api/sounds?q=tone')
  const { kit } = placeSounds(emptyKit('Tones'), 0, rows.map(row => ({ sound: { id: row.hash, name: row.name, frames: row.frames, sampleRate: row.sampleRate, channels: row.channels }, kind: 'tone' })))
  await studio.server.api<KitView>('/api/kits', { method: 'POST', body: { kit: setPads(kit, [0, 1, 2], { play }) } })
}

/** A MIDI input in place of the browser's own, which this machine has none of. */
async function fakeMidi(page: Page): Promise<(bytes: number[]) => Promise<void>> {
  await page.addInitScript(() => {
    const input = { name: 'Deck pads', state: 'connected', onmidimessage: null as ((event: { data: Uint8Array }) => void) | null }
    Object.assign(window, { midiInput: input })
    Object.defineProperty(navigator, 'requestMIDIAccess', { value: () => Promise.resolve({ inputs: new Map([['1', input]]), onstatechange: null }) })
  })
  return bytes => page.evaluate(data => (window as unknown as { midiInput: { onmidimessage: (event: { data: Uint8Array }) => void } }).midiInput.onmidimessage({ data: Uint8Array.from(data) }), bytes)
}

const level = async (page: Page) => Number(await page.getByRole('meter', { name: 'Output level' }).getAttribute('aria-valuenow'))

/** The level once it no longer moves. */
async function steadyLevel(page: Page): Promise<number> {
  await expectSound(page)
  let before = Number.NaN
  await expect.poll(async () => {
    const now = await level(page)
    const steady = now === before && now > -60
    before = now
    return steady
  }, { intervals: [400] }).toBe(true)
  return before
}

test('MIDI: velocity counts by its square, a note-off ends a gated pad, the pad that plays is shown', async ({ page, studio }) => {
  await kitOfTones('gated', studio)
  const send = await fakeMidi(page)
  await page.goto(`${studio.server.url}/bench`)
  await expect(page.getByText('MIDI: Deck pads')).toBeVisible()
  const row = page.getByRole('grid', { name: 'Kit sheet' }).getByRole('row', { name: /^A1 / })
  await expect(row.getByRole('img', { name: /^Waveform/ })).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await send([0x99, 36, 127])
  await expect(row).toHaveClass(/lit/)
  const loud = await steadyLevel(page)
  await send([0x89, 36, 64])
  await expect(row).not.toHaveClass(/lit/)
  await expectSilence(page)
  await send([0x90, 36, 64])
  const soft = await steadyLevel(page)
  // 40 log10(64 / 127) = -11.9 dB.
  expect(loud - soft).toBeGreaterThanOrEqual(11)
  expect(loud - soft).toBeLessThanOrEqual(13)
  await send([0x90, 36, 0])
  await expectSilence(page)
})

test('a one-shot goes on when its key is let go, Escape silences everything, a choke group cuts', async ({ page, studio }) => {
  await kitOfTones('one-shot', studio)
  await page.goto(`${studio.server.url}/bench`)
  const sheet = page.getByRole('grid', { name: 'Kit sheet' })
  await expect(sheet.getByRole('img', { name: /^Waveform/ })).toHaveCount(3)
  await page.keyboard.press('a')
  expect(await steadyLevel(page)).toBeGreaterThan(-20)
  await page.keyboard.press('Escape')
  await expectSilence(page)

  await page.keyboard.press('Home')
  await sheet.getByRole('row', { name: /^A1 / }).click()
  await sheet.getByRole('row', { name: /^A3 / }).click({ modifiers: ['Shift'] })
  await expect(page.getByRole('heading', { name: '3 pads at once' })).toBeVisible()
  const inspector = page.getByRole('region', { name: 'Settings of the current pad' })
  await choice(inspector, 'Choke group').click()
  await page.getByRole('option', { name: 'group 1', exact: true }).click()
  for (const pad of ['A1', 'A2', 'A3']) await expect(cell(sheet.getByRole('row', { name: new RegExp(`^${pad} `) }), 'Cut')).toHaveText('1')
  await page.keyboard.press('Escape')
  await sheet.focus()
  await page.keyboard.press('Escape')
  await expectSilence(page)
  await page.keyboard.press('a')
  const one = await steadyLevel(page)
  await page.keyboard.press('s')
  await page.keyboard.press('d')
  // Three sounding at once would peak up to 9.5 dB higher; cut off, the last stands alone.
  await expect.poll(() => level(page)).toBeLessThanOrEqual(one + 1)
})

test('edits to several pads are one step of undo, and a note is taken by number or by name', async ({ page, studio }) => {
  await kitOfTones('one-shot', studio)
  await page.goto(`${studio.server.url}/bench`)
  const sheet = page.getByRole('grid', { name: 'Kit sheet' })
  const row = (pad: string) => sheet.getByRole('row', { name: new RegExp(`^${pad} `) })
  await expect(row('A3')).toContainText('Tone 3')
  await row('A1').click()
  await page.keyboard.press('Shift+ArrowDown')
  await page.getByRole('spinbutton', { name: 'Pan, %' }).fill('-30')
  await page.keyboard.press('Tab')
  for (const pad of ['A1', 'A2']) await expect(row(pad)).toContainText('L30')
  await expect(row('A3')).not.toContainText('L30')
  await page.getByRole('button', { name: 'Undo' }).click()
  for (const pad of ['A1', 'A2']) await expect(row(pad)).not.toContainText('L30')
  await expect(page.getByRole('status').filter({ hasText: /^Undone: Pan/ })).toHaveCount(1)

  await row('A3').click()
  const note = page.getByRole('textbox', { name: 'Note', exact: true })
  await note.fill('F#1')
  await page.keyboard.press('Tab')
  await expect(row('A3')).toContainText('42 · F#1')
  await note.fill('200')
  await page.keyboard.press('Tab')
  await expect(page.getByText('"200" is not a note.')).toBeVisible()
  await expect(row('A3')).toContainText('42 · F#1')
  await page.getByRole('button', { name: 'Settings' }).click()
  await page.getByRole('radio', { name: 'C4' }).check({ force: true })
  await page.keyboard.press('Escape')
  await expect(row('A3')).toContainText('42 · F#2')
})

test('a scan is cancelled from the page, and what was read stays', async ({ page, studio }) => {
  const folder = join(studio.samples, 'Many')
  for (let i = 0; i < 1500; i++) put(folder, `${i % 25}/Kick ${i}.wav`, waveOf(40 + i / 10, 6000))
  await page.goto(studio.server.url)
  await expect(page.getByRole('heading', { name: 'Bring in your sounds' })).toBeVisible()
  await page.keyboard.press('b')
  const path = page.getByRole('textbox', { name: 'Path of the folder' })
  await expect(path).not.toHaveValue('')
  await path.fill(folder)
  await path.press('Enter')
  await expect(page.getByRole('dialog')).toContainText('25 folders')
  await page.getByRole('button', { name: 'Bring in this folder' }).click()
  const job = page.getByRole('group', { name: 'Bring in Many' })
  await expect(job).toContainText(/[1-9]\d* of 1,500 files/)
  await expect(job).toContainText('files/s')
  await job.getByRole('button', { name: 'Cancel' }).click()
  await expect(job).toBeHidden()
  await expect(page.locator('.summary')).toContainText(/[1-9][\d,]* sounds/)
  await page.keyboard.press('s')
  await expect(page.getByRole('dialog', { name: 'Sources' })).toContainText('not finished')
  await page.getByRole('button', { name: 'Scan again' }).click()
  await page.keyboard.press('Escape')
  await expect(page.locator('.summary')).toContainText('1,500 sounds', { timeout: 240_000 })
})
