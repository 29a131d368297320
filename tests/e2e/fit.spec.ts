import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import type { TargetView } from '../../contract/fit'
import { drumKit } from '../helpers/drumKit'
import { choice, expect, expectSound, testWith, type Studio } from './studio'

const test = testWith('HARBOUR_TOOLS')
const KINDS = ['kick', 'snare', 'clap', 'hat.closed', 'hat.open', 'cymbal.crash', 'cymbal.ride', 'tom.low']
const plan = (page: Page) => page.getByRole('grid', { name: 'Plan' })
const meter = (page: Page, name: string) => page.locator('.meter').filter({ has: page.getByText(name, { exact: true }) })
const side = (page: Page, name: string) => page.getByRole('group', { name: 'What is heard' }).getByRole('button', { name })
const tab = (page: Page, name: string) => page.getByRole('group', { name: 'What is shown beside the plan' }).getByRole('button', { name })

async function fitting(page: Page, studio: Studio): Promise<void> {
  await drumKit(studio.server.api, 'Quay', KINDS)
  // A target so small that something must give way.
  const lembos = (await studio.server.api<{ targets: TargetView[] }>('/api/targets')).targets.find(view => view.target.id === 'lembos')!.target
  await studio.server.api('/api/targets/dinghy', { method: 'PUT', body: { ...lembos, id: 'dinghy', name: 'Dinghy', limits: { ...lembos.limits, seconds: 3 } } })
  await page.goto(`${studio.server.url}/fit`)
  await expect(page.getByText(/^All 8 samples kept/)).toBeVisible({ timeout: 20_000 })
}

async function choose(page: Page, list: string, name: string, instead: string): Promise<void> {
  await choice(page.locator('body'), list).click()
  await page.getByRole('option', { name, exact: true }).click()
  await page.getByRole('option', { name: instead, exact: true }).click()
  await page.keyboard.press('Escape')
}

test('a kit is fitted to a small target, heard before and after, held, and written with its report', async ({ page, studio }) => {
  await fitting(page, studio)
  await choose(page, 'Targets', 'Dinghy', 'Lembos')
  await expect(meter(page, 'Audio')).toContainText('of 3.00 s')
  await expect(meter(page, 'Audio')).toContainText(/was \d+\.\d\d s/)
  await expect(meter(page, 'Pads')).toContainText('8 of 48')

  // The plan by keyboard: what the longest sound becomes, and what that costs.
  await plan(page).focus()
  const rows = plan(page).getByRole('row')
  const longest = await rows.evaluateAll(all => all.findIndex(row => row.textContent.includes('HBR_CRS')))
  for (let i = 1; i < longest; i++) await page.keyboard.press('ArrowDown')
  const detail = page.getByRole('complementary', { name: 'Beside the plan' })
  await expect(detail.getByRole('heading')).toContainText('A6')
  await expect(detail).toContainText(/The last \d\.\d\d s of \d\.\d\d s go: -\d+ dB/)

  // Heard as it is, as it becomes, and what lies between, in one place.
  await page.keyboard.press(' ')
  await expectSound(page)
  await page.keyboard.press('x')
  await expect(side(page, 'After')).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('d')
  await expect(side(page, 'Difference')).toHaveAttribute('aria-pressed', 'true')
  await expect(detail).toContainText(/difference -\d+\.\d dB/)
  await page.keyboard.press('k')
  await expect(detail.getByRole('button', { name: 'Stop' })).toBeVisible({ timeout: 20_000 })
  await page.keyboard.press('Escape')

  // Held: the crash keeps its length, and the rest is planned anew within the same limit.
  await page.keyboard.press('l')
  await expect(detail).not.toContainText('The last')
  await expect(detail.getByRole('checkbox', { name: 'length' })).toBeChecked()
  await expect(meter(page, 'Audio')).not.toContainText('over')
  await page.reload()
  await expect(page.getByRole('button', { name: 'Release all holds' })).toBeVisible({ timeout: 20_000 })

  await page.keyboard.press('w')
  const dialog = page.getByRole('dialog', { name: 'Export Quay for Dinghy' })
  const download = page.waitForEvent('download')
  await dialog.getByRole('button', { name: 'Export kit' }).click()
  const bytes = readFileSync(await (await download).path())
  expect(bytes.includes('Quay for Dinghy/report.html')).toBe(true)
  await expect(dialog.getByRole('table', { name: 'Exported files' })).toContainText(/; greatest loss -\d+ dB, /)
})

test('what cannot fit says so before anything is written; notes and what is reported are shown', async ({ page, studio }) => {
  await fitting(page, studio)
  await choose(page, 'Targets', 'Dinghy', 'Lembos')
  await expect(meter(page, 'Audio')).toContainText('of 3.00 s')
  await plan(page).focus()
  for (let i = 0; i < 8; i++) {
    await page.keyboard.press('l')
    await page.keyboard.press('n')
    await page.keyboard.press('ArrowDown')
  }
  await expect(page.getByRole('status').filter({ hasText: 'Cannot fit' })).toContainText('of 3.00 s')
  await tab(page, 'Report').click()
  await expect(page.getByRole('complementary', { name: 'Beside the plan' })).toContainText(/at least \d+\.\d\d s needed, Dinghy has 3\.00 s \(.*\)\. Needed by .* and 4 more\. To make it fit, no longer hold the length of /)
  await page.keyboard.press('w')
  await expect(page.getByRole('button', { name: 'Export kit' })).toBeDisabled()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Release all holds' }).click()
  await expect(page.getByText(/Cannot fit/)).toHaveCount(0)

  await tab(page, 'Notes').click()
  await expect(page.getByRole('complementary', { name: 'Beside the plan' })).toContainText('Every pad keeps its note')
  await choice(page.locator('body'), 'Pad order').click()
  await page.getByRole('option', { name: 'by their roles' }).click()
  await expect(page.getByRole('complementary', { name: 'Beside the plan' })).toContainText(/\d of 8 pads change their note/)
})

test('a bank of another sampler is read into the vault and fitted; a target of one\'s own is made; the bench has its meters', async ({ page, studio }) => {
  await fitting(page, studio)
  await page.getByRole('button', { name: 'Import a kit…' }).click()
  await page.getByLabel('File of a kit').setInputFiles('/usr/share/sounds/sf2/TimGM6mb.sf2')
  const reading = page.getByRole('dialog', { name: 'Import a kit from another sampler' })
  await expect(reading).toContainText('SoundFont with 136 kits', { timeout: 20_000 })
  await reading.getByRole('button', { name: 'Import Standard into the vault' }).click()
  await expect(reading).toContainText('"Standard" is in the vault', { timeout: 30_000 })
  await reading.getByRole('button', { name: 'Done', exact: true }).click()
  await expect(meter(page, 'Pads')).toContainText('of 48', { timeout: 20_000 })
  // 61 samples, and the titles.
  await expect(plan(page)).toHaveAttribute('aria-rowcount', '62')

  await page.getByRole('button', { name: 'Targets…' }).click()
  const targets = page.getByRole('dialog', { name: 'Targets' })
  await targets.getByRole('option', { name: 'Akatos' }).click()
  await targets.getByRole('button', { name: 'Duplicate…' }).click()
  await targets.getByRole('textbox', { name: 'Name', exact: true }).fill('Pilot boat')
  await targets.getByLabel('First note').fill('99')
  await targets.getByLabel('First note').blur()
  await expect(targets.getByRole('alert')).toContainText('first')
  await targets.getByLabel('First note').fill('36')
  await targets.getByLabel('First note').blur()
  await targets.getByRole('button', { name: 'Save target "Pilot boat"' }).click()
  await expect(targets.getByRole('option', { name: 'Pilot boat' })).toBeVisible()
  await expect(targets.getByRole('region', { name: 'Pilot boat' })).toContainText('A folder of WAVE files with 36 pads; 4 velocity layers each; stereo')
  await page.keyboard.press('Escape')

  await page.keyboard.press('2')
  await choice(page.locator('body'), 'Target of the kit').click()
  await page.getByRole('option', { name: 'Pilot boat' }).click()
  await expect(meter(page, 'Pads')).toContainText('8 of 36')
})
