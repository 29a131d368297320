import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { expect, searched, tabTo, testWith } from './studio'

const testDemo = testWith('')

const dialog = (page: Page, count: string) => page.getByRole('dialog', { name: `Put ${count} on pads` })
const preview = (page: Page) => page.getByRole('grid', { name: 'Where each sound goes' }).locator('.rows > .row')
const becomes = (page: Page) => page.getByRole('status', { name: 'What becomes of the kit' })
const sheetRow = (page: Page, pad: string) => page.getByRole('grid', { name: 'Kit sheet' }).getByRole('row', { name: new RegExp(`^${pad} `) })

async function chooseAll(page: Page, query: string): Promise<void> {
  await expect(page.locator('.rows > .row').first()).toBeVisible()
  await page.getByRole('combobox', { name: 'Search' }).fill(query)
  await searched(page)
  await page.keyboard.press('Enter')
  await page.keyboard.press('Control+a')
}

testDemo('several sounds go onto pads in a way that is chosen, seen before anything changes: by keys alone', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await chooseAll(page, 'kind=clap')
  const claps = Number(/(\d+) chosen/.exec((await page.locator('.summary').textContent())!)![1])
  expect(claps).toBeGreaterThan(5)
  await page.keyboard.press('Shift+P')
  await expect(dialog(page, `${claps} sounds`)).toBeVisible()
  // Strokes and takes share a pad, until each is to have its own.
  await expect(becomes(page)).not.toContainText(`on ${claps} pads`)
  await tabTo(page, page.getByRole('checkbox', { name: 'Strokes and takes of one instrument share a pad' }))
  await page.keyboard.press('Space')
  await expect(becomes(page)).toContainText(`${claps} sounds on ${claps} pads`)
  await expect(preview(page).first()).toContainText('36 · C1')
  await expect(preview(page).nth(1)).toContainText('37 · C#1')
  // Room is left between families; the kit is not touched by looking.
  await tabTo(page, page.getByRole('spinbutton', { name: 'First note' }))
  await page.keyboard.press('Control+a')
  await page.keyboard.type('120')
  await page.keyboard.press('Tab')
  await expect(becomes(page)).toContainText(`${claps - 8} sounds stay away. The note would be above 127, the highest there is.`)
  await expect(page.getByRole('link', { name: /Bench/ })).toHaveText(/Bench$/)
  await tabTo(page, page.getByRole('button', { name: 'Leave the kit as it is' }))
  await page.keyboard.press('Enter')
  await expect(dialog(page, `${claps} sounds`)).toBeHidden()

  await page.keyboard.press('Shift+P')
  await expect(becomes(page)).toContainText(`${claps} sounds on ${claps} pads`)
  await tabTo(page, page.getByRole('button', { name: `Put ${claps} sounds on ${claps} pads` }))
  await page.keyboard.press('Enter')
  await expect(page.getByText(`${claps} sounds put on ${claps} pads.`)).toBeVisible()
  await expect(page.getByRole('link', { name: /Bench/ })).toContainText(String(claps))
  await page.keyboard.press('2')
  await expect(sheetRow(page, 'A1')).toContainText('36 · C1')
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('link', { name: /Bench/ })).toHaveText(/Bench$/)
})

testDemo('on the bench the kit sheet shows what would become of it, bank by bank, and nothing is changed by looking', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await chooseAll(page, 'kind=clap')
  await page.keyboard.press('Enter')
  await page.keyboard.press('2')
  await expect(sheetRow(page, 'A1')).toContainText('empty')
  await page.keyboard.press('t')
  await page.keyboard.press('Shift+P')
  const first = page.getByRole('radio', { name: 'In order, on notes that follow one another' })
  await expect(first).toBeFocused()
  await tabTo(page, page.getByRole('checkbox', { name: 'Strokes and takes of one instrument share a pad' }))
  await page.keyboard.press('Space')
  const name = (await preview(page).first().locator('.sound .cut').textContent())!
  const last = page.getByRole('grid', { name: 'Kit sheet' }).locator('.row').last()
  await expect(sheetRow(page, 'A1')).toContainText(name)
  await expect(sheetRow(page, 'A1')).toHaveAttribute('title', 'Would get its sounds')
  await expect(sheetRow(page, 'A1').getByRole('img', { name: new RegExp(`^Waveform of (Clap )?${name}$`) })).toBeVisible()
  await tabTo(page, page.getByRole('grid', { name: 'Where each sound goes' }))
  await page.keyboard.press('End')
  await expect(page.getByRole('button', { name: 'B', exact: true })).toHaveAttribute('aria-pressed', 'true')
  await expect(last).toHaveAttribute('title', 'Would stay as it is')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await expect(sheetRow(page, 'A1')).toContainText('empty')
  await expect(page.getByRole('link', { name: /Bench/ })).toHaveText(/Bench$/)
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
})

testDemo('strokes become velocity layers of one pad, from soft to loud; what would be replaced is told', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await chooseAll(page, 'tomhi')
  await page.keyboard.press('p')
  await page.getByRole('button', { name: /on \d pads?$/ }).click()
  await page.getByRole('link', { name: /Bench/ }).click()
  await sheetRow(page, 'A1').click()
  await page.getByRole('link', { name: /Library/ }).click()
  await page.getByRole('grid', { name: 'Sounds' }).focus()
  await chooseAll(page, 'tomhi')
  await page.keyboard.press('Shift+P')
  await page.getByText('All on pad A1, from soft to loud over velocity').click()
  await expect(becomes(page)).toContainText('4 sounds on 1 pad')
  await expect(becomes(page)).toContainText('1 pad with other sounds is replaced')
  await expect(preview(page).first()).toContainText('1–31')
  await expect(preview(page).nth(3)).toContainText('96–127')
  await page.getByRole('button', { name: 'Put 4 sounds on 1 pad' }).click()
  await page.getByRole('link', { name: /Bench/ }).click()
  await expect(page.getByRole('heading', { name: /, 4 layers/ })).toBeVisible()

  // The way is remembered, and from the tray it is the same.
  await page.getByRole('link', { name: /Library/ }).click()
  await page.getByRole('grid', { name: 'Sounds' }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'What to do with this tray' }).click()
  await page.getByRole('menuitem', { name: 'Put all on pads in some way…' }).click()
  await expect(page.getByRole('radio', { name: 'All on pad A1, from soft to loud over velocity' })).toBeChecked()
  await page.keyboard.press('Escape')
})

testDemo('a view that is long in coming leaves the keyboard to the dialog that was opened meanwhile', async ({ page, studio }) => {
  const scripts = '.output/public/_nuxt'
  const bench = readdirSync(scripts).find(file => file.endsWith('.js') && readFileSync(join(scripts, file), 'utf8').includes('Kit sheet'))!
  let come = (): void => undefined
  const held = new Promise<void>(resolve => come = resolve)
  await page.route(`**/${bench}`, async (route) => {
    await held
    await route.continue()
  })
  await page.goto(studio.server.url)
  await chooseAll(page, 'kind=clap')
  await page.keyboard.press('2')
  await page.keyboard.press('Shift+P')
  const inOrder = page.getByRole('radio', { name: 'In order, on notes that follow one another' })
  await expect(inOrder).toBeFocused()
  await page.evaluate(() => window.addEventListener('focusout', () => document.body.dataset.wasTaken = 'true'))
  come()
  await expect(page.getByRole('grid', { name: 'Kit sheet' })).toBeVisible()
  await expect(inOrder).toBeFocused()
  expect(await page.evaluate(() => document.body.dataset.wasTaken)).toBeUndefined()
})

testDemo('from a pad to sounds that are like its own', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await chooseAll(page, 'HBR_CP_003')
  await page.keyboard.press('p')
  await expect(page.getByText(/put on pad A1/)).toBeVisible()
  await page.keyboard.press('2')
  await sheetRow(page, 'A1').click()
  await page.keyboard.press('l')
  await expect(page.locator('.line .token')).toHaveText([/^like=/])
  const rows = page.getByRole('grid', { name: 'Sounds' }).locator('.rows > .row')
  await expect(rows.first()).toContainText('HBR_CP_003')
  await expect(rows.nth(1)).toContainText('Clap')
})
