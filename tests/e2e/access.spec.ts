import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from '@playwright/test'
import { expect, testWith } from './studio'

const testHarbour = testWith('HARBOUR_TOOLS')

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

interface Violation {
  readonly id: string
  readonly nodes: readonly { readonly html: string, readonly failureSummary: string }[]
}

/** Edges in a waveform are as narrow as what they mark; each has a field beside it that does the same (WCAG 2.5.8, exception "equivalent"). */
const HAS_EQUIVALENT = /class="edge /

/**
 * What axe-core finds against WCAG 2.2 A and AA. What a select of a dialog shows lies at z-index -1, for which axe takes the mask
 * behind the dialog as its background; the selects outside of dialogs have the same colours and are looked at.
 */
async function violations(page: Page, within = 'html'): Promise<string[]> {
  // What is fading in or out has no contrast of its own.
  await expect(page.locator('.el-message')).toHaveCount(0)
  await expect.poll(() => page.evaluate(() => document.getAnimations().filter(one => one.playState === 'running').length)).toBe(0)
  await page.evaluate(axe)
  const found = await page.evaluate(async (include) => {
    const { axe: checker } = window as unknown as { axe: { run: (context: { include: string, exclude: string[] }, options: object) => Promise<{ violations: Violation[] }> } }
    return (await checker.run({ include, exclude: ['.el-dialog .el-select__placeholder'] }, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] })).violations
  }, within)
  return found.flatMap(violation => violation.nodes.filter(node => violation.id !== 'target-size' || !HAS_EQUIVALENT.test(node.html)).map(node => `${violation.id}: ${node.html.slice(0, 160)} ${node.failureSummary.replaceAll('\n', ' ')}`))
}

testHarbour('axe-core finds nothing against WCAG 2.2 AA in any view, by day and by lamp', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  for (const theme of ['day', 'lamp']) {
    await page.evaluate(value => localStorage.setItem('emporion-theme', value), theme)
    await page.goto(`${studio.server.url}/library`)
    await expect(page.locator('.rows > .row').first()).toBeVisible()
    await expect(page.locator('.apexcharts-heatmap-rect').first()).toBeVisible()
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('Enter')
    await page.keyboard.press('p')
    expect(await violations(page), `Library, ${theme}`).toEqual([])
    await page.keyboard.press('i')
    await page.keyboard.press('/')
    await page.keyboard.type('kick is=clip')
    await expect(page.getByRole('listbox', { name: 'Suggestions' })).toBeVisible()
    expect(await violations(page), `search line, ${theme}`).toEqual([])
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    await page.keyboard.press('i')
    await page.keyboard.press('?')
    await expect(page.getByRole('dialog', { name: 'Keys and searching' })).toBeVisible()
    expect(await violations(page), `keys, ${theme}`).toEqual([])
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog', { name: 'Keys and searching' })).toBeHidden()
    await page.keyboard.press('v')
    await expect(page.getByRole('status', { name: 'Try-out' })).toBeVisible()
    expect(await violations(page), `try-out, ${theme}`).toEqual([])
    await page.keyboard.press('Escape')
    await page.keyboard.press('2')
    await expect(page.getByRole('grid', { name: 'Kit sheet' })).toBeVisible()
    expect(await violations(page), `Bench, ${theme}`).toEqual([])
    await page.keyboard.press('3')
    await expect(page.getByRole('grid', { name: 'Patterns' })).toContainText('Gangway')
    expect(await violations(page), `Grooves, ${theme}`).toEqual([])
    await page.getByRole('group', { name: 'What is shown beside the pattern' }).getByRole('button', { name: 'Edit' }).click()
    expect(await violations(page), `Grooves with edits, ${theme}`).toEqual([])
    await page.getByRole('group', { name: 'What is shown beside the pattern' }).getByRole('button', { name: 'Patterns' }).click()
    await page.keyboard.press('Control+s')
    await expect(page.getByRole('dialog', { name: 'Export' })).toBeVisible()
    expect(await violations(page), `taking it out, ${theme}`).toEqual([])
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog', { name: 'Export' })).toBeHidden()
    await page.keyboard.press('4')
    await expect(page.getByLabel('What the kit takes of Lembos')).toBeVisible()
    for (const beside of ['Largest pads', 'Notes', 'Report', 'Before and after']) {
      await page.getByRole('group', { name: 'What is shown beside the plan' }).getByRole('button', { name: beside }).click()
      expect(await violations(page), `Fit with ${beside}, ${theme}`).toEqual([])
    }
    await page.keyboard.press('g')
    await expect(page.getByRole('dialog', { name: 'Targets' })).toBeVisible()
    expect(await violations(page), `Targets, ${theme}`).toEqual([])
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog', { name: 'Targets' })).toBeHidden()
    await page.keyboard.press('5')
    await expect(page.getByRole('heading', { name: 'Nothing stored yet' })).toBeVisible()
    expect(await violations(page), `Vault, ${theme}`).toEqual([])
  }
})

testHarbour('axe-core finds nothing against WCAG 2.2 AA in a window of 960 x 540 either: views, filters and tray opened, menus, placing, the parts below the sheet', async ({ page, studio }) => {
  await page.setViewportSize({ width: 960, height: 540 })
  await page.goto(studio.server.url)
  for (const theme of ['day', 'lamp']) {
    const at = (what: string) => `${what}, ${theme}`
    await page.evaluate(value => localStorage.setItem('emporion-theme', value), theme)
    await page.goto(`${studio.server.url}/library`)
    await expect(page.locator('.rows > .row').first()).toBeVisible()
    await page.getByRole('button', { name: 'Filters', exact: true }).click()
    await expect(page.getByRole('tree')).toContainText('HARBOUR_TOOLS')
    await expect(page.locator('.apexcharts-heatmap-rect').first()).toBeVisible()
    expect(await violations(page), at('Library with filters')).toEqual([])
    await page.getByRole('button', { name: 'Filters', exact: true }).click()
    await page.getByRole('grid', { name: 'Sounds' }).focus()
    await page.keyboard.press('Shift+F10')
    await expect(page.getByRole('menuitem', { name: /Add to tray/ })).toBeVisible()
    expect(await violations(page), at('menu of a sound')).toEqual([])
    await page.keyboard.press('Escape')
    await expect(page.getByRole('menuitem', { name: /Add to tray/ })).toBeHidden()
    await page.keyboard.press('Shift+ArrowDown')
    await page.keyboard.press('Shift+P')
    await expect(page.getByRole('dialog', { name: 'Put 2 sounds on pads' })).toBeVisible()
    expect(await violations(page), at('placing')).toEqual([])
    await page.getByRole('button', { name: /^Put 2 sounds on/ }).click()
    await page.keyboard.press('b')
    await expect(page.getByRole('dialog', { name: 'Bring in a folder' })).toBeVisible()
    await expect(page.getByRole('option', { name: 'HARBOUR_TOOLS' })).toBeVisible()
    expect(await violations(page), at('bring in')).toEqual([])
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog', { name: 'Bring in a folder' })).toBeHidden()
    await page.getByRole('button', { name: /^Tray\s*\d*$/ }).click()
    await page.keyboard.press('2')
    for (const part of ['Layers', 'Trim and slice', 'Levels', 'Groups', 'Outputs', 'Side kit', 'Findings', 'History', 'Playing']) {
      await page.getByRole('group', { name: 'Below the kit sheet' }).getByRole('button', { name: part }).click()
      await expect(page.getByRole('region', { name: part }).first()).toBeVisible()
      expect(await violations(page), at(part)).toEqual([])
    }
    await page.getByRole('button', { name: /^Tray\s*\d*$/ }).click()
    for (const view of ['grooves', 'fit', 'vault']) {
      await page.goto(`${studio.server.url}/${view}`)
      if (view === 'fit') await expect(page.getByLabel('What the kit takes of Lembos')).toBeVisible()
      else await expect(page.locator('footer.foot').first()).toBeVisible()
      expect(await violations(page), at(view)).toEqual([])
    }
  }
})

/** What opens each dialog of a view, and what it is called. */
const DIALOGS: readonly (readonly [view: string, dialog: string | RegExp, open: (page: Page) => Promise<void>])[] = [
  ['library', 'Columns', page => page.getByRole('button', { name: 'Columns…' }).click()],
  ['library', /^Edit details/, page => page.keyboard.press('e')],
  ['library', 'Sources', page => page.keyboard.press('s')],
  ['library', /^Compare/, async (page) => {
    await page.keyboard.press('c')
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('c')
    await page.keyboard.press('Shift+C')
  }],
  ['library', 'Settings', page => page.getByRole('button', { name: 'Settings' }).click()],
  ['library', 'Copy the tray to a folder', async (page) => {
    await page.keyboard.press('Enter')
    const menu = page.getByRole('button', { name: 'Tray menu' })
    if (!await menu.isVisible()) await page.getByRole('button', { name: /^Tray\s*\d*$/ }).click()
    await menu.click()
    await page.getByRole('menuitem', { name: 'Copy to a folder…' }).click()
  }],
  ['bench', 'New kit', page => page.keyboard.press('Alt+n')],
  ['bench', 'Open kits', page => page.getByRole('button', { name: 'Open kits' }).click()],
  ['bench', /^Store/, page => page.keyboard.press('Control+s')],
  ['bench', /^Load a pad preset onto/, async (page) => {
    await page.locator('header').getByRole('button', { name: /^Pad / }).click()
    await page.getByRole('menuitem', { name: /^Load a pad preset onto/ }).click()
  }],
  ['grooves', /^Notes of/, page => page.getByRole('button', { name: 'Notes…' }).click()],
  ['fit', /^Export/, page => page.getByRole('button', { name: 'Export…' }).click()],
  ['fit', 'Import a kit from another sampler', page => page.getByRole('button', { name: 'Import a kit…' }).first().click()],
  ['vault', 'Bin', page => page.getByRole('button', { name: /^Bin/ }).click()],
]

for (const { width, height } of [{ width: 960, height: 540 }, { width: 1280, height: 800 }]) {
  testHarbour(`axe-core finds nothing against WCAG 2.2 AA in any dialog, by day and by lamp, in ${width} x ${height}`, async ({ page, studio }) => {
    await page.setViewportSize({ width, height })
    await page.goto(studio.server.url)
    for (const theme of ['day', 'lamp']) {
      await page.evaluate(value => localStorage.setItem('emporion-theme', value), theme)
      let at = ''
      for (const [view, name, open] of DIALOGS) {
        if (view !== at) await page.goto(`${studio.server.url}/${view}`)
        at = view
        if (view === 'library') {
          await expect(page.locator('.rows > .row').first()).toBeVisible()
          await page.getByRole('grid', { name: 'Sounds' }).focus()
          await page.keyboard.press('Home')
        }
        if (view === 'bench') await page.getByRole('grid', { name: 'Kit sheet' }).focus()
        if (view === 'bench' && theme === 'day' && name === 'New kit') {
          await page.goto(`${studio.server.url}/library`)
          await page.keyboard.press('p')
          await page.keyboard.press('2')
          await page.getByRole('grid', { name: 'Kit sheet' }).focus()
        }
        await open(page)
        const dialog = page.getByRole('dialog', { name })
        await expect(dialog).toBeVisible()
        expect(await violations(page, '.el-overlay:not([style*="none"]) .el-dialog'), `${dialogName(name)}, ${theme}`).toEqual([])
        await page.keyboard.press('Escape')
        await expect(dialog).toBeHidden()
      }
    }
  })
}

const dialogName = (name: string | RegExp): string => typeof name === 'string' ? name : name.source
