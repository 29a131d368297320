import { readFileSync } from 'node:fs'
import type { Download, Page } from '@playwright/test'
import { parseMidi } from 'midi-file'
import wavefile from 'wavefile'
import type { Hit, Pattern } from '../../core/groove/document'
import { midiFromPattern } from '../../core/groove/midi/fromPattern'
import { SHIPPED_PATTERNS } from '../../core/groove/shipped'
import { patternFromSteps } from '../../core/groove/steps'
import type { KitView } from '../../contract/kits'
import type { PatternRow, PatternView } from '../../contract/patterns'
import { drumKit } from '../helpers/drumKit'
import { choice, expect, expectSound, testWith, type Studio } from './studio'

const test = testWith('HARBOUR_TOOLS')
const KINDS = ['kick', 'snare', 'clap', 'hat.closed', 'hat.open', 'rim', 'tom.low', 'tom.high']
/** Pixels of a quarter note, as the view begins. */
const QUARTER = 80
const ROW = 28
const TWO_BARS = 2 * 3840

const grid = (page: Page) => page.getByRole('group', { name: 'Pattern', exact: true })
const transport = (page: Page) => page.getByRole('region', { name: 'Pattern', exact: true })
const tab = (page: Page, name: string) => page.getByRole('group', { name: 'What is shown beside the pattern' }).getByRole('button', { name })
const atCursor = (page: Page) => page.locator('#pattern-cursor')

async function grooves(page: Page, studio: Studio): Promise<void> {
  await drumKit(studio.server.api, 'Quay', KINDS)
  await page.goto(`${studio.server.url}/grooves`)
  await expect(page.getByRole('textbox', { name: 'Name of the pattern' })).toHaveValue('Gangway')
}

async function freshPattern(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'New pattern', exact: true }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the pattern' })).toHaveValue('New pattern')
  await grid(page).focus()
}

/** The person's own pattern as the server has it, once it is saved. */
async function saved(page: Page, studio: Studio): Promise<Pattern> {
  await expect(page.getByText(/^Saved \d/)).toBeVisible()
  const name = await page.getByRole('textbox', { name: 'Name of the pattern' }).inputValue()
  const { api } = studio.server
  const row = (await api<PatternRow[]>('/api/patterns')).find(one => !one.isShipped && one.name === name)
  return (await api<PatternView>(`/api/patterns/${row!.id}`)).pattern
}
const ticks = (pattern: Pattern, part: number) => pattern.parts[part]!.hits.map((hit: Hit) => hit.tick)

interface Take {
  readonly keyTimes: number[]
  /** How far the audio was ahead of the page's clock, in milliseconds, at the frames of the page. */
  readonly ahead: number[]
}

/**
 * Plays a take, and another where the audio stood still during it: what is heard later than it was due is recorded later too, and
 * tells nothing of the keys. Gives the moments of the keys, by the page's clock.
 */
async function steadyTake(page: Page, play: () => Promise<void>): Promise<number[]> {
  for (let left = 12; ; left--) {
    await page.evaluate(() => {
      interface Root extends Element { readonly __vue_app__: { readonly config: { readonly globalProperties: { readonly $pinia: { readonly _s: Map<string, { readonly enginePlace: { readonly contextSeconds: number } | undefined }> } } } } }
      const { _s: stores } = (document.querySelector('#__nuxt') as Root).__vue_app__.config.globalProperties.$pinia
      const take: Take = { keyTimes: [], ahead: [] }
      Object.assign(window, { take })
      window.addEventListener('keydown', event => !event.repeat && 'af'.includes(event.key) && take.keyTimes.push(event.timeStamp), { capture: true })
      const look = () => {
        const place = stores.get('kit')!.enginePlace
        if (place) take.ahead.push(place.contextSeconds * 1000 - performance.now())
        if ((window as unknown as { take: Take }).take === take) requestAnimationFrame(look)
      }
      look()
    })
    await play()
    const { keyTimes, ahead } = await page.evaluate(() => (window as unknown as { take: Take }).take)
    // What tells the place comes late at times, never early: the most of a stretch is where the audio was.
    const [before, after] = [ahead.slice(0, ahead.length / 3), ahead.slice(-ahead.length / 3)].map(part => Math.max(...part)) as [number, number]
    if (Math.abs(after - before) < 15) return keyTimes.slice(0, 6)
    expect(left, 'the audio stood still in every take').toBeGreaterThan(0)
    await page.keyboard.press('Control+a')
    await page.keyboard.press('Delete')
  }
}

async function bytesOf(download: Download): Promise<Buffer> {
  return readFileSync(await download.path())
}

test('a bar is played in, quantized, tried with thirty candidates, moved under another kit, and taken out', async ({ page, studio }) => {
  await drumKit(studio.server.api, 'Other quay', KINDS, 2)
  await grooves(page, studio)
  await freshPattern(page)
  await page.keyboard.press('8')

  // Played in with the computer keyboard, each key noted with its own time.
  await transport(page).getByRole('button', { name: /^In/ }).click()
  await transport(page).getByRole('button', { name: /^In/ }).click()
  await expect(transport(page).getByRole('button', { name: 'In 0' })).toBeVisible()
  await grid(page).focus()
  const take = await steadyTake(page, async () => {
    await page.keyboard.press('r')
    await expect(transport(page).getByText(/^Recording/)).toBeVisible()
    await expect(page.locator('.playhead')).toBeVisible()
    for (const key of ['a', 'f', 'a', 'f', 'a', 'f']) {
      await page.keyboard.press(key, { delay: 40 })
      await page.waitForTimeout(210)
    }
    await page.keyboard.press('r')
    await expectSound(page)
  })
  const played = await saved(page, studio)
  expect(played.parts.map(part => part.role)).toEqual(['kick', 'hat.closed'])
  expect(played.parts.map(part => part.hits.length)).toEqual([3, 3])
  // Their distances in the pattern are those of the key presses: 110 beats a minute are 1,760 ticks a second. The loop may have begun anew between two of them.
  const times = take.filter((_, i) => i % 2 === 0)
  const wanted = times.map(time => (time - times[0]!) * 1.76)
  const kicks = ticks(played, 0)
  const fromEach = kicks.map(origin => kicks.map(tick => (tick - origin + TWO_BARS) % TWO_BARS).sort((x, y) => x - y))
  const offBy = fromEach.map(line => Math.max(...line.map((tick, i) => Math.abs(tick - wanted[i]!))))
  expect(Math.min(...offBy)).toBeLessThan(40)

  // Quantized: every hit on a line, and where it was played is not forgotten.
  await page.keyboard.press('Control+a')
  await page.keyboard.press('y')
  const quantized = await expect.poll(async () => (await saved(page, studio)).parts.flatMap(part => part.hits).every(hit => hit.tick % 240 === 0)).toBe(true).then(() => saved(page, studio))
  expect(quantized.parts.flatMap(part => part.hits).some(hit => hit.playedTick !== undefined)).toBe(true)
  await page.keyboard.press('Escape')

  // Thirty candidates for the hat, by the arrow keys, while it loops; the next to last is kept.
  await grid(page).focus()
  while (!(await atCursor(page).textContent())?.startsWith('A4 ')) await page.keyboard.press('ArrowDown')
  const before = (await studio.server.api<KitView[]>('/api/kits')).length
  await page.keyboard.press('o')
  await choice(page.getByRole('region', { name: 'Try-out' }), 'Candidates').click()
  await page.getByRole('option', { name: /^What the search finds/ }).click()
  await page.getByRole('button', { name: 'Try them' }).click()
  await expect(page.getByText('1 of 112')).toBeVisible()
  const list = page.getByRole('grid', { name: 'Candidates' })
  for (let i = 0; i < 30; i++) await page.keyboard.press('ArrowDown')
  await expect(page.getByText('31 of 112')).toBeVisible()
  await page.keyboard.press('i')
  await page.keyboard.press('ArrowUp')
  await expect(page.getByText('30 of 112')).toBeVisible()
  await expectSound(page)
  const name = await list.locator('.row.at-hand .name').textContent()
  expect((await studio.server.api<KitView[]>('/api/kits')).length).toBe(before)
  await page.keyboard.press('Enter')
  await expect(page.getByText(`"${name}" is kept on A4`)).toBeVisible()
  await expect(page.locator('.label', { hasText: name! })).toHaveText(/^A4/)
  await expect(transport(page).getByRole('button', { name: 'Stop the pattern' })).toBeVisible()

  // The whole kit is changed under the pattern, which goes on.
  await tab(page, 'Kits').click()
  const kits = page.getByRole('grid', { name: 'Kits and presets' })
  await kits.getByText('Other quay').click()
  await expect(page.getByText('"Other quay" is previewed instead of "Quay".')).toBeVisible()
  await expect(transport(page).getByRole('button', { name: 'Stop the pattern' })).toBeVisible()
  await page.keyboard.press('Tab')
  await page.getByRole('button', { name: 'Open', exact: true }).click()
  await expect(page.getByText('on Other quay')).toBeVisible()
  await expect(page.getByRole('textbox', { name: 'Name of the pattern' })).toHaveValue('New pattern')

  // Taken out: a MIDI file, a loop and stems, and the files are measured.
  await transport(page).getByRole('button', { name: 'Stop the pattern' }).click()
  await page.getByRole('button', { name: 'Export…' }).click()
  const dialog = page.getByRole('dialog', { name: 'Export' })
  await dialog.getByText('MIDI file', { exact: true }).click()
  const [midiFile] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Export MIDI file' }).click()])
  expect(midiFile.suggestedFilename()).toBe('New pattern.mid')
  const midi = parseMidi(await bytesOf(midiFile))
  expect(midi.header).toMatchObject({ format: 1, ticksPerBeat: 960 })
  const notesOn = midi.tracks.flatMap(track => track.filter(event => event.type === 'noteOn' && event.velocity > 0))
  expect(notesOn).toHaveLength(6)

  await dialog.getByText('Audio: loop or stems').click()
  const [loopFile] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Bounce 1 file' }).click()])
  const loop = new wavefile.WaveFile(await bytesOf(loopFile))
  const [left] = loop.getSamples(false) as unknown as Float64Array[]
  // Two bars of four quarters at 110 beats a minute: 8 x 60 / 110 seconds.
  expect(left!.length).toBe(Math.round(48_000 * 8 * 60 / 110))
  expect(left!.reduce((most, value) => Math.max(most, value), 0) / 2 ** 23).toBeGreaterThan(0.01)

  await choice(dialog, 'Files to bounce').click()
  await page.getByRole('option', { name: 'stems, one for each pad' }).click()
  const [stems] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Bounce 2 files' }).click()])
  expect(stems.suggestedFilename()).toBe('stems.zip')
  await expect(dialog.getByText(/2 files downloaded, peaks at/)).toBeVisible()
})

test('hits are drawn, chosen, moved and erased by mouse, and bars are looped', async ({ page, studio }) => {
  await grooves(page, studio)
  await freshPattern(page)
  const field = page.locator('.scroller')
  const at = (beat: number, row: number) => ({ x: beat * QUARTER + 4, y: row * ROW + 14 })
  const box = (await field.boundingBox())!
  const drag = async (from: { x: number, y: number }, to: { x: number, y: number }, key?: string) => {
    if (key) await page.keyboard.down(key)
    await page.mouse.move(box.x + from.x, box.y + from.y)
    await page.mouse.down()
    await page.mouse.move(box.x + to.x, box.y + to.y, { steps: 12 })
    await page.mouse.up()
    if (key) await page.keyboard.up(key)
  }
  for (const beat of [0, 1, 2, 3]) await field.click({ position: at(beat, 0) })
  await drag(at(0, 3), at(1, 3))
  const drawn = await saved(page, studio)
  expect(drawn.parts.map(part => part.role)).toEqual(['kick', 'hat.closed'])
  expect(ticks(drawn, 0)).toEqual([0, 960, 1920, 2880])
  expect(ticks(drawn, 1)).toEqual([0, 240, 480, 720, 960])

  // A drag that Escape breaks off leaves all as it was, and no step.
  await page.mouse.move(box.x + at(1, 0).x, box.y + at(1, 0).y)
  await page.mouse.down()
  await page.mouse.move(box.x + at(2, 1).x, box.y + at(2, 1).y, { steps: 6 })
  await expect.poll(async () => (await saved(page, studio)).parts.map(part => part.role)).toContain('snare')
  await page.keyboard.press('Escape')
  await page.mouse.move(box.x + at(3, 3).x, box.y + at(3, 3).y)
  await page.mouse.up()
  await expect.poll(async () => (await saved(page, studio)).parts).toEqual(drawn.parts)

  // A hit is dragged to the snare, a beat later; then two are boxed and erased.
  await drag(at(1, 0), at(2, 1))
  await expect.poll(async () => (await saved(page, studio)).parts.map(part => [part.role, part.hits.map(hit => hit.tick)])).toEqual([['kick', [0, 1920, 2880]], ['hat.closed', [0, 240, 480, 720, 960]], ['snare', [1920]]])
  await page.keyboard.press('Escape')
  await drag(at(0.6, 3), at(1.4, 3), 'Shift')
  await page.keyboard.press('Delete')
  await expect.poll(async () => ticks(await saved(page, studio), 1)).toEqual([0, 240, 480])
  await field.click({ position: at(0.25, 3), button: 'right' })
  await expect.poll(async () => ticks(await saved(page, studio), 1)).toEqual([0, 480])

  // Velocities are drawn in the lane below.
  const lane = page.getByTitle('Drag to draw velocities')
  const laneBox = (await lane.boundingBox())!
  await page.mouse.click(laneBox.x + 3, laneBox.y + laneBox.height / 2)
  await expect.poll(async () => (await saved(page, studio)).parts[1]!.hits[0]!.velocity).toBeLessThan(80)

  // The second bar alone is played; then everything that was done is undone, step by step.
  await page.locator('.bars').click({ position: { x: 4 * QUARTER + 20, y: 8 } })
  await expect(page.locator('.bar-mark.in')).toHaveText('2')
  await tab(page, 'History').click()
  const steps = page.getByRole('listbox', { name: /^Steps of this pattern/ })
  await steps.getByText('Start').click()
  await expect.poll(async () => (await saved(page, studio)).parts.length).toBe(0)
  await steps.getByRole('option').first().click()
  await expect.poll(async () => (await saved(page, studio)).parts.length).toBe(3)
  // Steps are written down when the hand rests.
  await page.waitForTimeout(1_200)
  await page.reload()
  await expect(page.getByRole('textbox', { name: 'Name of the pattern' })).toHaveValue('New pattern')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(async () => (await saved(page, studio)).parts[1]!.hits[0]!.velocity).toBe(100)
})

test('patterns are found and stepped through in time; MIDI comes in; parts without a pad are reported and given one', async ({ page, studio }) => {
  await grooves(page, studio)
  await page.keyboard.press(' ')
  await expectSound(page)
  const list = page.getByRole('grid', { name: 'Patterns' })
  await page.getByRole('textbox', { name: 'Find patterns' }).fill('swung lazy')
  await expect(list.getByRole('row')).toHaveCount(3)
  await list.focus()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('textbox', { name: 'Name of the pattern' })).toHaveValue('Low tide')
  await expect(transport(page).getByLabel('Tempo of the pattern')).toHaveValue('84')
  await expect(transport(page).getByRole('button', { name: 'Stop the pattern' })).toBeVisible()
  await expect(page.locator('.playhead')).toBeVisible()
  await page.getByRole('button', { name: 'Favourite', exact: true }).click()
  await page.getByRole('textbox', { name: 'Find patterns' }).fill('')
  await page.getByRole('button', { name: 'Favourites only' }).click()
  await expect(list.getByRole('row')).toHaveCount(2)
  await expect(list).toContainText('Low tide')

  // An edit of a shipped pattern goes into a copy.
  await grid(page).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^Saved \d/)).toBeVisible()
  const mine = (await studio.server.api<PatternRow[]>('/api/patterns')).filter(row => !row.isShipped)
  expect(mine.map(row => row.name)).toEqual(['Low tide'])

  // A MIDI file with a part that no pad suits.
  const written = patternFromSteps(SHIPPED_PATTERNS.find(pattern => pattern.name === 'Rope walk')!)
  const file = { name: 'rope.mid', mimeType: 'audio/midi', buffer: Buffer.from(midiFromPattern(written, { format: 1, notes: { by: 'parts' } }).bytes) }
  await page.getByLabel('MIDI files', { exact: true }).setInputFiles(file)
  const dialog = page.getByRole('dialog', { name: 'Import rope.mid' })
  await expect(dialog).toContainText('88 BPM')
  await dialog.getByRole('button', { name: 'Import pattern' }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the pattern' })).toHaveValue('rope')
  await tab(page, 'Parts').click()
  await expect(page.getByText(/Not heard, as no pad of the kit suits: \d+ hits of \d parts\./)).toBeVisible()
  await choice(page.getByRole('region', { name: 'Parts' }), 'Pad of Triangle').click()
  await page.getByRole('option', { name: /^A2 / }).click()
  await expect(page.getByText(/Not heard, as no pad of the kit suits: \d+ hits of \d parts?\./)).toBeVisible()
  expect((await saved(page, studio)).parts).toHaveLength(3)

  // Several files at once: an invalid one is named, one is left out, two with the same name get different ones.
  const several = [['deck.mid', file.buffer], ['rope.mid', file.buffer], ['left out.mid', file.buffer], ['none.mid', Buffer.from('no midi at all')]] as const
  await page.getByLabel('MIDI files', { exact: true }).setInputFiles(several.map(([name, buffer]) => ({ ...file, name, buffer })))
  const manyFiles = page.getByRole('dialog', { name: 'Import 4 MIDI files' })
  await expect(manyFiles).toContainText('3 patterns to import · 1 file cannot be read')
  await expect(manyFiles).toContainText('none.mid: This is no Standard MIDI File')
  await manyFiles.getByText('left out.mid').click()
  await manyFiles.getByRole('textbox', { name: 'Folder of the patterns' }).fill('From the deck')
  await manyFiles.getByRole('button', { name: 'Import 2 patterns' }).click()
  await expect(manyFiles).toBeHidden()
  await expect(page.getByText('2 patterns imported.', { exact: true })).toBeVisible()
  const imported = (await studio.server.api<PatternRow[]>('/api/patterns')).filter(row => row.folder === 'From the deck')
  expect(imported.map(row => row.name).toSorted()).toEqual(['deck', 'rope 2'])

  // Bytes that are no MIDI file lose nothing.
  await page.getByLabel('MIDI files', { exact: true }).setInputFiles({ ...file, name: 'no.mid', buffer: Buffer.from('no midi at all') })
  await expect(page.getByText(/This is no Standard MIDI File/)).toBeVisible()
  await expect(page.getByRole('textbox', { name: 'Name of the pattern' })).toHaveValue('rope')
})
