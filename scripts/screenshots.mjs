// Takes one picture of each main view at 1280x800, from the demo. Run after ./emporion has built.
import { spawn, spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { chromium } from '@playwright/test'

const folder = resolve('docs/screenshots')
const data = mkdtempSync(join(tmpdir(), 'emporion-pictures-'))
const port = 4391
mkdirSync(folder, { recursive: true })
spawnSync('node', ['dist/demo.mjs', '--out', join(data, 'demo-sounds')], { stdio: 'inherit' })
const server = spawn('node', ['.output/server/index.mjs'], {
  env: { ...process.env, EMPORION_ROOT: resolve('.'), EMPORION_DATA: data, EMPORION_ROOTS: data, EMPORION_DEMO: join(data, 'demo-sounds'), NITRO_HOST: '127.0.0.1', NITRO_PORT: String(port) },
  stdio: ['ignore', 'pipe', 'inherit'],
})
await new Promise(done => server.stdout.on('data', chunk => String(chunk).includes('Emporion is open') && done()))

const browser = await chromium.launch({ executablePath: process.env.EMPORION_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--autoplay-policy=no-user-gesture-required'] })
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
const theme = name => page.evaluate(value => localStorage.setItem('emporion-theme', value), name)
const shot = name => page.screenshot({ path: join(folder, `${name}.png`) })
const pause = ms => page.waitForTimeout(ms)

async function choose(query, moves) {
  await page.locator('.ledger').focus()
  await page.keyboard.press('Escape')
  await page.keyboard.press('/')
  await page.keyboard.type(query)
  await pause(500)
  await page.keyboard.press('Enter')
  for (let i = 0; i < moves; i++) await page.keyboard.press('ArrowDown')
  await pause(200)
}

/** Takes a picture by day and by lamp. */
async function bothThemes(name) {
  // A change of the stored theme is told as another tab would tell it, so that nothing on the page begins anew.
  for (const value of ['day', 'lamp', 'day']) {
    await page.evaluate((newValue) => {
      localStorage.setItem('emporion-theme', newValue)
      window.dispatchEvent(new StorageEvent('storage', { key: 'emporion-theme', newValue, storageArea: localStorage }))
    }, value)
    await pause(900)
    await shot(`${name}-${value}`)
  }
}

async function reload(value) {
  await theme(value)
  await page.evaluate(() => sessionStorage.clear())
  await page.reload()
  await page.getByText('400 sounds').first().waitFor()
}

try {
  await page.goto(`http://127.0.0.1:${port}/library`)
  await reload('day')
  for (const query of ['kick tief hard', 'kick kurz hard', 'snare oberdeck hard', 'sidestick', 'rim quay', 'clap möwe', 'hat closed', 'openhat', 'floor tom', 'tomhi', 'crash', 'ride reling hard', 'shipbell', 'claves', 'shaker', 'bongo']) {
    await choose(query, 0)
    await page.keyboard.press('Enter')
  }
  await choose('kick sounds<0.5 bright<30 -is=clipped -in=loops', 3)
  await pause(3500)
  await shot('library-day')
  await reload('lamp')
  await choose('snare', 6)
  await page.keyboard.press('l')
  await pause(2500)
  await shot('library-lamp')
  await reload('day')
  await choose('snare', 0)
  for (let i = 0; i < 4; i++) {
    await page.keyboard.press('c')
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('ArrowDown')
  }
  await page.keyboard.press('Shift+C')
  await pause(1500)
  await page.getByLabel('Sounds that are compared').focus()
  await page.keyboard.press('2')
  await pause(900)
  await bothThemes('compare')
  await page.getByRole('button', { name: 'Take all marks off' }).click()
  await page.keyboard.press('t')
  await page.keyboard.press('Shift+Enter')
  await pause(4200)
  await page.locator('.ledger').focus()
  await choose('snare sounds<0.4', 2)
  await page.getByRole('group', { name: 'Pads of the bank at hand' }).getByRole('button', { name: /^Pad A3,/ }).click()
  await page.locator('.ledger').focus()
  await page.keyboard.press('v')
  await page.keyboard.press('ArrowDown')
  await pause(900)
  await bothThemes('try-out')
  await page.keyboard.press('Escape')
  await reload('day')
  await choose('kind=clap', 0)
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Shift+P')
  await pause(1500)
  await shot('placing-day')
  await page.keyboard.press('Escape')
  await reload('day')
  await choose('unsorted', 1)
  await page.keyboard.press('i')
  await pause(2500)
  await shot('figures-day')
  await page.keyboard.press('i')
  await reload('day')
  await page.keyboard.press('s')
  await page.getByRole('tab', { name: /To look at/ }).click()
  await pause(900)
  await shot('sources-day')
  await page.getByRole('tab', { name: 'By kind and length' }).click()
  await pause(2000)
  await shot('kinds-day')
  await page.getByRole('tab', { name: 'Twice in the library' }).click()
  await page.getByRole('button', { name: 'Look for near-duplicates' }).click()
  await page.getByText('laid over each other').waitFor({ timeout: 120_000 })
  await pause(600)
  await shot('duplicates-day')
  await page.keyboard.press('Escape')
  await reload('lamp')
  await choose('tomhi', 0)
  await page.keyboard.press('Shift+End')
  await page.keyboard.press('e')
  await pause(900)
  await shot('marks-lamp')
  await page.keyboard.press('Escape')
  await reload('day')
  await page.keyboard.press('2')
  await pause(1000)
  await page.getByRole('textbox', { name: 'Name of the kit' }).fill('Night ferry')
  await page.getByRole('row').filter({ hasText: 'Snare' }).first().click()
  await page.getByRole('spinbutton', { name: 'Gain, dB' }).fill('-3')
  await page.keyboard.press('Tab')
  await pause(600)
  await page.keyboard.press('Escape')
  await page.keyboard.press('d')
  await pause(250)
  await shot('bench-day')
  await theme('lamp')
  await page.reload()
  await pause(2500)
  await shot('bench-lamp')
  await theme('day')
  await page.reload()
  await pause(1500)
  await page.keyboard.press('Control+s')
  await pause(600)
  await page.keyboard.press('Enter')
  await page.getByText('is in the vault').waitFor()
  await pause(400)
  await shot('store-day')
  await page.getByRole('button', { name: 'Show it in the vault' }).click()
  await pause(800)
  await page.keyboard.press(' ')
  await pause(1500)
  await shot('vault-day')
}
catch (thrown) {
  await page.screenshot({ path: join(tmpdir(), 'emporion-picture-failed.png') })
  throw thrown
}
finally {
  await browser.close()
  server.kill()
}
