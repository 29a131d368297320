import { existsSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { checkBag } from '../conformance/bagit'
import { expect, expectSilence, expectSound, tabTo, test } from './studio'

test('the whole path by keyboard alone: bring in, listen, put on pads, play, store, export, and play with the sources gone', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  const keys = page.keyboard
  const sounds = page.getByRole('grid', { name: 'Sounds' })

  await test.step('bring in a folder by its path', async () => {
    await expect(page.getByRole('heading', { name: 'Bring in your sounds' })).toBeVisible()
    let answer = (): void => undefined
    const asked = new Promise<void>(resolve => answer = resolve)
    await page.route('**/api/browse**', async (route) => {
      await asked
      await route.continue()
    }, { times: 1 })
    await keys.press('b')
    const path = page.getByRole('textbox', { name: 'Path of the folder' })
    await expect(path).toBeFocused()
    await keys.press('Control+a')
    answer()
    await expect(page.getByRole('option', { name: 'HARBOUR_TOOLS' })).toBeVisible()
    await expect(path).toHaveValue('')
    await keys.type(studio.samples)
    await keys.press('Enter')
    await expect(page.getByRole('option', { name: 'HARBOUR_TOOLS' })).toBeVisible()
    await tabTo(page, page.getByRole('button', { name: 'Bring in this folder' }))
    await keys.press('Enter')
    await expect(page.locator('.summary')).toContainText('400 sounds', { timeout: 120_000 })
    await expect(page.getByRole('button', { name: 'Sources · 1 unreadable' })).toBeVisible()
  })

  await test.step('say what could not be read, and why', async () => {
    await keys.press('s')
    const found = page.getByRole('dialog', { name: 'Sources' })
    await expect(found).toContainText('Kick not really.wav: This is no audio that Emporion knows')
    await expect(found).toContainText('Left out, no audio by their names: 1 .sfz, 1 .txt.')
    await keys.press('Escape')
  })

  await test.step('go down the list: each sound plays at once', async () => {
    await keys.press('/')
    await keys.type('bd harbour')
    await expect(page.locator('.summary')).toContainText('15 sounds')
    await keys.press('Enter')
    await keys.press('ArrowDown')
    await expectSound(page)
    await expect(page.getByRole('region', { name: 'Player' })).toContainText('HBR_BD_002')
    await expectSilence(page)
    await keys.press(' ')
    await expectSound(page)
  })

  await test.step('put some on the tray, and some straight on pads', async () => {
    await keys.press('Enter')
    await keys.press('ArrowDown')
    await keys.press('Enter')
    await expect(page.getByRole('option', { name: 'HBR_BD_003' })).toBeVisible()
    await keys.press('/')
    await keys.press('Control+a')
    await keys.type('sd harbour')
    await expect(page.locator('.summary')).toContainText('12 sounds')
    await keys.press('Enter')
    await keys.press('p')
    await keys.press('ArrowDown')
    await keys.press('p')
    await expect(page.getByRole('button', { name: /Pad A2, .*HBR_SD_002/ })).toBeVisible()
    await expect(sounds).toBeVisible()
  })

  /** A key that is pressed before its sound is there plays nothing. */
  const isReady = async (name: string) => {
    await expect(pad(name).getByRole('img', { name: `Waveform of ${name}` })).toBeVisible()
    await expectSilence(page)
  }
  const pad = (text: string) => page.getByRole('grid', { name: 'Kit sheet' }).getByRole('row').filter({ hasText: text })
  await test.step('place from the tray on the bench and play with letters', async () => {
    await keys.press('2')
    await expect(pad('HBR_SD_001')).toBeVisible()
    await keys.press('t')
    await keys.press('Shift+Enter')
    await expect(page.getByRole('radio', { name: 'In order, on consecutive notes' })).toBeFocused()
    await keys.press('Enter')
    await expect(page.getByRole('dialog')).toBeHidden()
    await expect(pad('HBR_BD_003')).toContainText('A4')
    await isReady('HBR_BD_003')
    await keys.press('f')
    await expectSound(page)
    await expect(page.getByRole('heading', { name: '39 · D#1 HBR_BD_003' })).toBeVisible()
  })

  await test.step('set values, undo and redo', async () => {
    await keys.press('Escape')
    await keys.press('Enter')
    await tabTo(page, page.getByRole('spinbutton', { name: 'Gain, dB' }))
    await keys.press('Control+a')
    await keys.type('-6')
    await keys.press('Tab')
    await expect(pad('HBR_BD_003')).toContainText('-6.0')
    await keys.press('Escape')
    await keys.press('Control+z')
    await expect(pad('HBR_BD_003')).toContainText('0.0')
    await keys.press('Control+y')
    await expect(pad('HBR_BD_003')).toContainText('-6.0')
    await expect(page.getByText(/^Saved \d/)).toBeVisible()
  })

  await test.step('the draft survives a killed server and a reloaded page', async () => {
    await studio.server.stop('SIGKILL')
    await keys.press('Alt+ArrowDown')
    await expect(page.getByText('Not saved: waiting for the server')).toBeVisible()
    await studio.restart()
    await expect(page.getByText(/^Saved \d/)).toBeVisible()
    await page.reload()
    await expect(pad('HBR_BD_003')).toContainText('A5')
    await expect(pad('HBR_BD_003')).toContainText('-6.0')
  })

  await test.step('store it', async () => {
    await keys.press('Control+s')
    const name = page.getByRole('textbox', { name: 'Name of the preset' })
    await expect(name).toBeFocused()
    await keys.press('Control+a')
    await keys.type('Night ferry')
    await keys.press('Enter')
    const receipt = page.getByRole('dialog', { name: 'Stored' })
    await expect(receipt).toContainText('Night ferry, revision 1, is in the vault.')
    await expect(receipt).toContainText('4, copied bit for bit')
    expect(checkBag(join(studio.data, 'vault', 'Night ferry', 'revision-1'))).toEqual([])
    const copy = readFileSync(join(studio.data, 'vault/Night ferry/revision-1/data/samples/HBR_BD_003.wav'))
    expect(copy.equals(readFileSync(join(studio.samples, 'HARBOUR_TOOLS/HBR_BD_003.WAV')))).toBe(true)
    await keys.press('Escape')
  })

  await test.step('export it as one .zip', async () => {
    await keys.press('5')
    await expect(page.getByRole('grid', { name: 'Presets' })).toContainText('Night ferry')
    const download = page.waitForEvent('download')
    await keys.press('e')
    const file = await (await download).path()
    expect(readFileSync(file).subarray(0, 4).toString('latin1')).toBe('PK\u0003\u0004')
    expect((await download).suggestedFilename()).toBe('Night ferry.zip')
  })

  await test.step('delete the sources: the preset still plays', async () => {
    await studio.server.stop('SIGKILL')
    rmSync(studio.samples, { recursive: true })
    rmSync(join(studio.data, 'db'), { recursive: true })
    await studio.restart()
    expect(existsSync(studio.samples)).toBe(false)
    expect(readdirSync(join(studio.data, 'vault'))).toEqual(['Night ferry'])
    await page.goto(`${studio.server.url}/vault`)
    await expect(page.getByRole('grid', { name: 'Presets' })).toContainText('Night ferry')
    await keys.press(' ')
    await expectSound(page)
    await keys.press('Enter')
    await expect(pad('HBR_BD_003')).toContainText('A5')
    await isReady('HBR_BD_003')
    await keys.press('g')
    await expectSound(page)
  })
})
