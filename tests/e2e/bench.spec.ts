import type { Page } from '@playwright/test'
import { emptyKit, type Kit } from '../../core/kit/document'
import { place, type PlacingWay } from '../../core/kit/placing'
import type { KitView } from '../../server/kits/drafts'
import type { SoundRow } from '../../server/library/search'
import { cell, choice, expect, expectSilence, expectSound, searched, tabTo, testWith, type Studio } from './studio'

const testDemo = testWith('')
const testHarbour = testWith('HARBOUR_TOOLS')

const sheet = (page: Page) => page.getByRole('grid', { name: 'Kit sheet' })
const row = (page: Page, pad: string) => sheet(page).getByRole('row', { name: new RegExp(`^${pad} `) })
const inspector = (page: Page) => page.getByRole('region', { name: 'Settings of the pad at hand' })
const becomes = (page: Page) => page.getByRole('status', { name: 'What becomes of the kit' })

async function find(page: Page, query: string): Promise<void> {
  await page.getByRole('link', { name: /Library/ }).click()
  await page.getByRole('grid', { name: 'Sounds' }).focus()
  await page.keyboard.press('Escape')
  await expect(page.locator('.line .token')).toHaveCount(0)
  await expect(page.locator('.rows > .row').first()).toBeVisible()
  await page.getByRole('combobox', { name: 'Search' }).fill(query)
  await searched(page)
  await page.keyboard.press('Enter')
  await page.keyboard.press('Control+a')
}

/** Puts what is found on pads in a way. */
async function put(page: Page, query: string, way: string): Promise<void> {
  await find(page, query)
  await page.keyboard.press('Shift+P')
  await page.getByText(way).click()
  await page.getByRole('button', { name: /on \d+ pads?$/ }).click()
  await expect(page.getByText(/put on \d+ pads?\./).last()).toBeVisible()
}

/** The kit at hand as the server has it, once it is saved. */
async function saved(page: Page, api: <T>(path: string) => Promise<T>): Promise<Kit> {
  await expect(page.getByText(/^Saved \d/)).toBeVisible()
  const id = await page.evaluate(() => localStorage.getItem('emporion-last-kit'))
  return (await api<KitView>(`/api/kits/${id}`)).kit
}

/** Opens the bench on a kit of some sounds, made without the page. */
async function benchWith(page: Page, studio: Studio, names: readonly string[], way: PlacingWay): Promise<void> {
  const found = await Promise.all(names.map(name => studio.server.api<{ rows: SoundRow[] }>(`/api/sounds?q=${encodeURIComponent(name)}&limit=1`)))
  const sounds = found.map(({ rows: [row] }) => {
    const { hash: id, name, folder, frames, sampleRate, channels, kind, hitLufs, pitchNote, statedNote } = row!
    return { sound: { id, name, frames, sampleRate, channels }, folder, kind, hitLufs, pitchNote, statedNote }
  })
  await studio.server.api('/api/kits', { method: 'POST', body: { kit: place(emptyKit('Harbour'), sounds, way).kit } })
  await page.goto(`${studio.server.url}/bench`)
  await expect(page.getByRole('textbox', { name: 'Name of the kit' })).toHaveValue('Harbour')
}

const IN_ORDER: PlacingWay = { type: 'in order', startNote: 36, gap: 0 }

testDemo('a kit of one kind: sixty sounds on notes that follow one another', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await find(page, 'kind=clap,snare,rim')
  const chosen = Number(/(\d+) chosen/.exec((await page.locator('.summary').textContent())!)![1])
  expect(chosen).toBeGreaterThan(60)
  // The first sixty: 3 times 16 further, and 11.
  await page.keyboard.press('Home')
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+PageDown')
  for (let i = 0; i < 11; i++) await page.keyboard.press('Shift+ArrowDown')
  await expect(page.locator('.summary')).toContainText('60 chosen')
  await page.keyboard.press('Shift+P')
  await page.getByText('Strokes and takes of one instrument share a pad').click()
  await expect(becomes(page)).toContainText('60 sounds on 60 pads')
  await page.getByRole('button', { name: 'Put 60 sounds on 60 pads' }).click()
  await page.getByRole('link', { name: /Bench/ }).click()
  const kit = await saved(page, studio.server.api)
  expect(kit.pads.filter(pad => pad.layers.length > 0).map(pad => pad.note)).toEqual(Array.from({ length: 60 }, (_, i) => 36 + i))
})

testDemo('a standard kit: layers and round robins from families, hats that choke, toms by pitch, on the roles of a blueprint', async ({ page, studio }) => {
  await page.goto(`${studio.server.url}/bench`)
  await page.getByRole('button', { name: 'New kit…' }).click()
  await page.getByRole('button', { name: 'Begin with Standard, 16 pads' }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the kit' })).toHaveValue('Standard')
  await put(page, 'snare oberdeck 01', 'By kind, on free pads')
  await put(page, 'kick tief 01', 'By kind, on free pads')
  await put(page, 'kind=hat engine', 'By kind, on free pads')
  await put(page, 'mid tom hard', 'By pitch, low ones first')
  await page.getByRole('link', { name: /Bench/ }).click()
  const kit = await saved(page, studio.server.api)
  const on = (note: number) => kit.pads.find(pad => pad.note === note)!
  // Equal ranges over velocity 1 to 127 (references.md); a standard kit has the snare on 38 and the kick on 36 (General MIDI).
  expect(on(38).layers.map(layer => [layer.sound.name, layer.lowVelocity, layer.highVelocity])).toEqual([['Snare Oberdeck 01 soft', 1, 41], ['Snare Oberdeck 01 mid', 42, 83], ['Snare Oberdeck 01 hard', 84, 127]])
  expect(on(36).layers.map(layer => layer.sound.name)).toEqual(['Kick tief 01 soft', 'Kick tief 01 mid', 'Kick tief 01 hard'])
  const hats = kit.pads.filter(pad => pad.role?.startsWith('hat') && pad.layers.length > 0)
  expect(hats.length).toBeGreaterThan(1)
  expect(hats.some(pad => pad.layers.some(layer => layer.turn === 2))).toBe(true)
  expect(hats.filter(pad => [42, 44, 46].includes(pad.note)).map(pad => `${pad.note} ${pad.name} ${pad.chokeGroup}`).filter(text => !text.endsWith(' 1'))).toEqual([])
  const toms = kit.pads.filter(pad => pad.layers[0]?.sound.name.startsWith('Mid Tom')).toSorted((a, b) => a.note - b.note)
  expect(toms.length).toBeGreaterThan(1)
  await expect(page.getByText('note taken twice')).toHaveCount(0)
})

testHarbour('a kit from pads of two others: sounds come along, choke groups and outputs are made to fit, and it is said', async ({ page, studio }) => {
  const { api } = studio.server
  const { rows } = await api<{ rows: { hash: string, name: string, frames: number, sampleRate: number, channels: number }[] }>('/api/sounds?q=kind%3Dkick&limit=4')
  const layerOf = ({ hash: id, name, frames, sampleRate, channels }: typeof rows[number]) => ({ sound: { id, name, frames, sampleRate, channels }, lowVelocity: 1, highVelocity: 127, fadeInVelocities: 0, fadeOutVelocities: 0, turn: null, gainDb: 0, tuneCents: 0, reverse: false, startFrame: 0, endFrame: frames, fadeInFrames: 0, fadeOutFrames: 0 })
  const empty = (await api<KitView>('/api/kits', { method: 'POST', body: {} })).kit
  const make = (name: string, at: number, part: Partial<Kit['pads'][number]>) => api<KitView>('/api/kits', {
    method: 'POST', body: { kit: { ...empty, name, outputs: [...empty.outputs, { id: 'out-1', name: 'Hats' }], pads: empty.pads.map((pad, i) => i === 0 ? { ...pad, name: rows[at]!.name, layers: [layerOf(rows[at]!)], ...part } : pad) } },
  })
  await make('Car deck', 0, { chokeGroup: 1, output: 'out-1' })
  await make('Sun deck', 1, { gainDb: -6, chokeGroup: 1 })

  await page.goto(`${studio.server.url}/bench`)
  await page.getByRole('button', { name: 'New kit…' }).click()
  await page.getByRole('button', { name: 'Begin an empty kit' }).click()
  // The empty one above is called "New kit".
  await expect(page.getByRole('textbox', { name: 'Name of the kit' })).toHaveValue('New kit 2')
  await page.getByRole('button', { name: 'Side kit' }).click()
  const beside = async (name: string) => {
    await choice(page.getByRole('region', { name: 'Side kit' }), 'Kit beside this one').click()
    await page.getByRole('option', { name }).click()
    await expect(page.getByRole('listbox', { name: `Pads of ${name}` })).toBeVisible()
  }
  await beside('Car deck')
  // A short kick may be over between two looks at the meter: it is pressed again until it was seen.
  await expect(async () => {
    await page.getByRole('listbox', { name: 'Pads of Car deck' }).getByRole('option').first().click()
    await expectSound(page, 2000)
  }).toPass()
  await page.keyboard.press('Enter')
  await expect(page.getByText('Without an output named "Hats" here, they go to the first.')).toBeVisible()
  await beside('Sun deck')
  await page.getByRole('listbox', { name: 'Pads of Sun deck' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByText('Choke group 1 is 2 here.')).toBeVisible()
  await expect(row(page, 'A1')).toContainText(rows[0]!.name)
  await expect(cell(row(page, 'A2'), 'Gain')).toHaveText('-6.0')
  const kit = await saved(page, api)
  expect(kit.pads.slice(0, 2).map(pad => [pad.note, pad.chokeGroup, pad.output])).toEqual([[36, 1, 'main'], [37, 2, 'main']])
})

testHarbour('several pads at once: mixed values are shown, moved by as much, set to one, and undone in one step', async ({ page, studio }) => {
  await benchWith(page, studio, ['HBR_BD_001', 'HBR_BD_002', 'HBR_BD_003'], IN_ORDER)
  await row(page, 'A1').click()
  const gain = inspector(page).getByRole('spinbutton', { name: 'Gain, dB' })
  await gain.fill('-6')
  await page.keyboard.press('Tab')
  await row(page, 'A2').click({ modifiers: ['Shift'] })
  await expect(inspector(page).getByRole('heading', { name: '2 pads at once' })).toBeVisible()
  await expect(gain).toHaveValue('mixed')
  await inspector(page).getByText('Move each by').click()
  await gain.fill('-3')
  await page.keyboard.press('Tab')
  await expect(cell(row(page, 'A1'), 'Gain')).toHaveText('-9.0')
  await expect(cell(row(page, 'A2'), 'Gain')).toHaveText('-3.0')
  await gain.focus()
  await page.keyboard.press('ArrowUp')
  await expect(cell(row(page, 'A1'), 'Gain')).toHaveText('-8.5')
  await inspector(page).getByText('Set all to').click()
  await gain.fill('2')
  await page.keyboard.press('Tab')
  for (const pad of ['A1', 'A2']) await expect(cell(row(page, pad), 'Gain')).toHaveText('2.0')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(cell(row(page, 'A1'), 'Gain')).toHaveText('-8.5')
  await inspector(page).getByText('Gain', { exact: true }).dblclick()
  for (const pad of ['A1', 'A2']) await expect(cell(row(page, pad), 'Gain')).toHaveText('0.0')

  // The loudness that is shown is measured as the pad plays: 6 dB down reads 6 LU less.
  const lufs = cell(row(page, 'A3'), 'LUFS')
  await expect(lufs).toHaveText(/^-\d/)
  const before = Number(await lufs.textContent())
  await row(page, 'A3').click()
  await gain.fill('-6')
  await page.keyboard.press('Tab')
  await expect.poll(async () => Math.abs(Number(await lufs.textContent()) - (before - 6))).toBeLessThan(0.11)

  // The first Escape closes what a select offers, the second leads back to the sheet.
  const plays = inspector(page).getByRole('combobox', { name: 'Plays' })
  await plays.focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('option', { name: 'gated' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(plays).toBeFocused()
  await page.keyboard.press('Escape')
  const sheet = page.getByRole('grid', { name: 'Kit sheet' })
  await expect(sheet).toBeFocused()
  // What was typed and not taken is given up.
  await gain.fill('5')
  await page.keyboard.press('Escape')
  await expect(sheet).toBeFocused()
  await expect(gain).toHaveValue('-6.0')
  await page.getByRole('textbox', { name: 'Name of the kit' }).fill('Quay')
  await page.keyboard.press('Enter')
  await expect(sheet).toBeFocused()
})

testHarbour('copy, paste, settings only, duplicate, swap, mute and solo by keys; the history steps back; nothing is lost by a reload', async ({ page, studio }) => {
  await benchWith(page, studio, ['HBR_BD_001', 'HBR_BD_002'], IN_ORDER)
  await page.getByRole('button', { name: 'History' }).click()
  await row(page, 'A1').click()
  const first = (await cell(row(page, 'A1'), 'Sound').textContent())!.trim()
  await sheet(page).focus()
  await page.keyboard.press('Control+c')
  for (let i = 0; i < 14; i++) await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Control+v')
  await expect(row(page, 'A15')).toContainText(first)
  await expect(cell(row(page, 'A15'), 'Note')).toHaveText('50 · D2')
  await page.keyboard.press('q')
  await expect(row(page, 'A15').getByRole('button', { name: 'Unmute A15' })).toHaveAttribute('aria-pressed', 'true')
  await expectSilence(page)
  await page.keyboard.press(' ')
  await page.getByRole('button', { name: /^Findings ?1/ }).click()
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('A15 is muted.')
  await page.getByRole('button', { name: 'Unmute A15' }).last().click()
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('Nothing found')
  await page.getByRole('button', { name: 'History' }).click()
  const steps = page.getByRole('listbox', { name: 'Steps of this kit, the latest first' })
  await expect(steps.getByRole('option').first()).toContainText('Unmute A15')
  await steps.getByRole('option', { name: /Paste 1 pad/ }).click()
  await expect(steps.getByRole('option', { name: /Mute A15.*undone/ }).last()).toBeVisible()
  await expect(row(page, 'A15')).toContainText(first)
  await steps.getByRole('option', { name: /Start/ }).click()
  await expect(row(page, 'A15')).toContainText('empty')
  await expect(page.getByText(/^Saved \d/)).toBeVisible()
  // The steps are written down a moment after the last of them.
  await expect.poll(() => page.evaluate(() => new Promise<number>((done) => {
    const opened = indexedDB.open('keyval-store')
    opened.onsuccess = () => {
      const all = opened.result.transaction('keyval').objectStore('keyval').getAll()
      all.onsuccess = () => done(Math.max(0, ...all.result.map(({ steps: kept }: { steps: { steps: unknown[], past: number } }) => kept.steps.length - kept.past)))
    }
  }))).toBeGreaterThan(2)
  await page.reload()
  await steps.getByRole('option', { name: /Paste 1 pad/ }).click()
  await expect(row(page, 'A15')).toContainText(first)
})

testHarbour('layers: split, dragged by keys, in turn, alternates; a gap is told and heard as silence', async ({ page, studio }) => {
  await benchWith(page, studio, ['HBR_BD_001', 'HBR_BD_002', 'HBR_BD_003'], { type: 'velocity layers', padIndex: 0 })
  await page.getByRole('button', { name: 'Layers', exact: true }).click()
  const layers = page.getByRole('list', { name: 'Layers of the pad at hand' })
  await expect(layers.getByRole('listitem')).toHaveCount(3)
  const edge = page.getByRole('slider', { name: 'Highest velocity of layer 1' })
  await expect(edge).toHaveAttribute('aria-valuenow', '41')
  await edge.focus()
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowLeft')
  await expect(edge).toHaveAttribute('aria-valuenow', '11')
  await expect(page.getByText('Silent at 12–41')).toBeVisible()
  await page.getByRole('button', { name: 'Split evenly' }).click()
  await expect(edge).toHaveAttribute('aria-valuenow', '41')
  await page.getByRole('button', { name: 'Overlap and fade over' }).click()
  await expect(edge).toHaveAttribute('aria-valuenow', '47')
  await page.getByRole('button', { name: 'In turn' }).click()
  await expect(page.getByRole('img', { name: 'Velocities 1 to 127, 3 in turn' })).toBeVisible()
  await layers.getByRole('listitem').first().focus()
  const name = (await layers.getByRole('listitem').first().getAttribute('aria-label'))!.replace(/^Layer 1: |, .*/g, '')
  await page.keyboard.press('Alt+ArrowDown')
  await expect(layers.getByRole('listitem').nth(1)).toHaveAccessibleName(new RegExp(name))
  await page.getByText('Alternates', { exact: true }).click()
  await expect(cell(row(page, 'A1'), 'Layers')).toHaveText('1/3')
  await page.getByRole('slider', { name: 'Value that chooses' }).focus()
  await page.keyboard.press('End')
  await expect(cell(row(page, 'A1'), 'Layers')).toHaveText('3/3')
})

testHarbour('with the layers open, of alternates only the chosen one and those beside it are fetched', async ({ page, studio }) => {
  const names = ['BD', 'SD', 'CP', 'RS'].flatMap(kind => [1, 2, 3].map(i => `HBR_${kind}_00${i}`))
  await benchWith(page, studio, names, { type: 'alternates', padIndex: 0 })
  await page.getByRole('button', { name: 'Layers', exact: true }).click()
  const value = page.getByRole('slider', { name: 'Value that chooses' })
  await expect(value).toBeVisible()
  const fetched = new Set<string>()
  // One by one, or several by one request.
  page.on('request', (request) => {
    const path = new URL(request.url()).pathname
    if (path === '/api/audio') for (const hash of (request.postDataJSON() as { hashes: string[] }).hashes) fetched.add(hash)
    else if (path.startsWith('/api/audio/')) fetched.add(path.slice('/api/audio/'.length))
  })
  await page.reload()
  await expect(value).toBeVisible()
  await expect.poll(() => fetched.size).toBe(2)
  await value.focus()
  await page.keyboard.press('End')
  await expect(cell(row(page, 'A1'), 'Layers')).toHaveText('12/12')
  await expect.poll(() => fetched.size).toBe(4)
  // Twelve ranges of ten values each; the last holds what is over.
  for (let i = 0; i < 18; i++) await page.keyboard.press('ArrowLeft')
  await expect(cell(row(page, 'A1'), 'Layers')).toHaveText('11/12')
  await expect.poll(() => fetched.size).toBe(5)
})

testDemo('trim and slice: one hit only, tails cut, slices on the pads that follow; the sound stays whole', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await find(page, 'is=several-hits -in=loops sounds>0.5')
  await page.keyboard.press('Home')
  await page.keyboard.press('p')
  await expect(page.getByText(/put on pad A1\./)).toBeVisible()
  await page.getByRole('link', { name: /Bench/ }).click()
  await row(page, 'A1').click()
  await page.getByRole('button', { name: 'Trim and slice' }).click()
  const trim = page.getByRole('region', { name: 'Trim and slice' })
  await expect(trim.getByRole('button', { name: /^Slice at its [2-9]/ })).toBeEnabled()
  const end = trim.getByRole('slider', { name: 'End', exact: true })
  const whole = Number(await end.getAttribute('aria-valuenow'))
  await trim.getByRole('button', { name: 'Keep only the first hit' }).click()
  await expect.poll(async () => Number(await end.getAttribute('aria-valuenow'))).toBeLessThan(whole * 0.9)
  await trim.getByRole('button', { name: 'Whole sound' }).click()
  await expect(end).toHaveAttribute('aria-valuenow', String(whole))
  const hits = Number(/its (\d+)/.exec((await trim.getByRole('button', { name: /^Slice at its/ }).textContent())!)![1])
  await trim.getByRole('button', { name: /^Slice at its/ }).click()
  await expect(page.getByText(`${hits} slices on pads A1 to`)).toBeVisible()
  const kit = await saved(page, studio.server.api)
  const slices = kit.pads.filter(pad => pad.layers.length > 0).map(pad => pad.layers[0]!)
  expect(slices).toHaveLength(hits)
  slices.slice(1).forEach((slice, i) => expect(slice.startFrame).toBe(slices[i]!.endFrame))
  expect(new Set(slices.map(slice => slice.sound.id)).size).toBe(1)
  await page.getByRole('group', { name: /^Waveform of .*zoom/ }).focus()
  await page.keyboard.press('+')
  await expect(trim.locator('.fields')).not.toContainText(' 0.00 s – ')
})

testHarbour('levels, outputs and targets: one loudness, headroom that is measured, an output a kind, what a target will not take', async ({ page, studio }) => {
  await benchWith(page, studio, ['HBR_BD_001', 'HBR_SD_001', 'HBR_CP_001', 'HBR_RS_001'], { type: 'by kind' })
  await page.getByRole('button', { name: 'Levels' }).click()
  const levels = page.getByRole('region', { name: 'Levels' })
  await expect(levels).toContainText(/4 pads.* LU apart/)
  await levels.getByRole('spinbutton', { name: 'Loudness to match, in LUFS' }).fill('-18')
  await page.keyboard.press('Tab')
  await levels.getByRole('button', { name: 'Match 4 pads to' }).click()
  for (const pad of ['A1', 'A2', 'A3', 'A4']) await expect(cell(row(page, pad), 'LUFS')).toHaveText(/^-(17\.9|18\.[01])$/)
  await levels.getByRole('spinbutton', { name: 'Peak to keep, in dBFS' }).fill('-6')
  await page.keyboard.press('Tab')
  await expect(levels.getByRole('status')).toContainText('dBFS')
  await levels.getByRole('button', { name: 'Set the kit gain for a peak of' }).click()
  await expect(levels.getByRole('status')).toContainText(/-6\.[01] dBFS/)

  await page.getByRole('button', { name: 'Outputs' }).click()
  await page.getByRole('button', { name: 'One output for each kind' }).click()
  await expect(page.getByRole('list', { name: 'Outputs of the kit' }).getByRole('listitem')).toHaveCount(5)
  await expect(cell(row(page, 'A1'), 'Output')).toHaveText('Kick')
  await page.getByRole('list', { name: 'Outputs of the kit' }).getByRole('button', { name: 'Hear it alone' }).nth(1).click()
  await expect(row(page, 'A1').getByRole('button', { name: 'End the solo of A1' })).toBeVisible()
  await page.getByRole('button', { name: 'Hear all' }).click()

  await row(page, 'A1').click()
  await inspector(page).getByRole('textbox', { name: 'Note', exact: true }).fill('30')
  await page.keyboard.press('Tab')
  await choice(page.locator('.banks'), 'What the kit is made for').click()
  await page.getByRole('option', { name: 'General MIDI percussion' }).click()
  await page.getByRole('button', { name: /^Findings/ }).click()
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('Note 30 of A1 is not played by General MIDI percussion: it has 35 to 81.')
  await page.getByRole('button', { name: /Move A1 to the free note/ }).click()
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('Nothing found')
})

testHarbour('a pad is stored and put on a pad of another kit; a stored kit says what changed before it is stored again; a newer document is only read', async ({ page, studio }) => {
  await benchWith(page, studio, ['HBR_BD_001', 'HBR_SD_001', 'HBR_CP_001'], { type: 'by kind' })
  await row(page, 'A1').click()
  await page.getByRole('button', { name: /^Pad A1/ }).first().click()
  await page.getByRole('menuitem', { name: 'Store A1 as a pad preset…' }).click()
  await page.locator('.el-message-box__input input').fill('Deck kick')
  await page.getByRole('button', { name: 'Store this pad' }).click()
  await expect(page.getByText('"Deck kick" is stored as a pad preset.')).toBeVisible()
  expect((await studio.server.api<{ presets: { name: string, type: string }[] }>('/api/vault')).presets.map(preset => `${preset.name}, a ${preset.type}`)).toEqual(['Deck kick, a pad'])
  await page.getByRole('button', { name: 'Store…' }).click()
  await page.getByRole('textbox', { name: 'Name of the preset' }).fill('Quay kit')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Back to the bench' }).click()
  await row(page, 'A3').click()
  await sheet(page).focus()
  await page.keyboard.press('Delete')
  await page.getByRole('button', { name: 'Store…' }).click()
  const changes = page.getByRole('group', { name: 'What changed since it was stored' })
  await expect(changes).toContainText('Since revision 1: 1 removed.')
  await expect(changes).toContainText('removed: A3 HBR_SD_001')
  await page.getByRole('button', { name: 'Leave it' }).click()

  await page.keyboard.press('Alt+n')
  await tabTo(page, page.getByRole('button', { name: 'Begin an empty kit' }))
  await page.keyboard.press('Enter')
  await expect(row(page, 'A1')).toContainText('empty')
  await page.getByRole('button', { name: /^Pad A1/ }).first().click()
  await page.getByRole('menuitem', { name: 'Put a pad preset on A1…' }).click()
  await page.getByRole('button', { name: 'Put on A1' }).click()
  await expect(row(page, 'A1')).toContainText('HBR_BD_001')

  const kit = await saved(page, studio.server.api)
  await page.route('**/api/kits/*', async (route) => {
    const response = await route.fetch()
    const view = await response.json() as KitView
    await route.fulfill({ response, json: { ...view, writtenBy: 9 } })
  }, { times: 1 })
  await page.reload()
  await expect(page.getByText('Written by a newer Emporion (document version 9)')).toBeVisible()
  await sheet(page).focus()
  await page.keyboard.press('Delete')
  await expect(page.getByText(/can only be read here\. It was not changed\./)).toBeVisible()
  await expect(row(page, 'A1')).toContainText('HBR_BD_001')
  await page.getByRole('button', { name: 'Make a copy to work on' }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the kit' })).toHaveValue(`${kit.name} copy`)
})

testHarbour('a pack becomes a kit set: one kit a kind, each with its own output', async ({ page, studio }) => {
  await page.goto(studio.server.url)
  await find(page, 'HBR')
  await page.keyboard.press('Shift+P')
  await page.getByRole('button', { name: 'Make a new kit for each kind instead' }).click()
  await expect(page.getByText(/kits made, one for each kind/)).toBeVisible()
  const kits = await studio.server.api<{ name: string, pads: number }[]>('/api/kits')
  const set = kits.filter(kit => kit.name.startsWith('HARBOUR_TOOLS – '))
  expect(set.length).toBeGreaterThan(3)
  expect(set.map(kit => kit.name)).toContain('HARBOUR_TOOLS – Kick')
  await page.getByRole('link', { name: /Bench/ }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the kit' })).toHaveValue(/^HARBOUR_TOOLS – /)
})
