import { chmodSync, existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { once } from 'node:events'
import { createServer, type AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { audioFinding, examine, findingsText, folderFinding, isNodeNewEnough, nodeFinding, portFinding } from './doctor.mjs'

const folder = mkdtempSync(join(tmpdir(), 'emp-doctor-'))
afterAll(() => rmSync(folder, { recursive: true }))

describe('the doctor', () => {
  it.each([['20.19.0', true], ['20.18.3', false], ['22.0.0', true], ['18.20.0', false]])('knows whether Node %s is new enough', (version, isEnough) => {
    expect(isNodeNewEnough(version)).toBe(isEnough)
    expect(nodeFinding(version).ok).toBe(isEnough)
  })

  it('leaves nothing in a data folder that it looked into, and makes none', () => {
    expect(folderFinding(folder)).toEqual({ what: 'Data folder', ok: true, found: folder })
    expect(readdirSync(folder)).toEqual([])
    expect(folderFinding(join(folder, 'a', 'b'))).toMatchObject({ ok: true, found: expect.stringContaining('made on the first start') })
    expect(existsSync(join(folder, 'a'))).toBe(false)
  })

  it('says what to do where a data folder is none', () => {
    const file = join(folder, 'file')
    writeFileSync(file, '')
    chmodSync(file, 0o400)
    expect(folderFinding(file)).toMatchObject({ ok: false, next: expect.stringContaining('--data DIR') })
    rmSync(file)
  })

  it('sees a port that is taken', async () => {
    const server = createServer().listen(0, '127.0.0.1')
    await once(server, 'listening')
    const { port } = server.address() as AddressInfo
    expect(await portFinding(port)).toMatchObject({ ok: false, found: `${port} is in use` })
    server.close()
    await once(server, 'close')
    expect(await portFinding(port)).toMatchObject({ ok: true })
  })

  it('names the sound cards of Linux', () => {
    const cards = join(folder, 'cards')
    // As Linux writes it: Documentation/sound/designs/procfile.rst.
    writeFileSync(cards, ' 0 [PCH            ]: HDA-Intel - HDA Intel PCH\n                      HDA Intel PCH at 0xf7e10000 irq 31\n 1 [Desk           ]: USB-Audio - Desk Two\n                      Desk Two at usb-0000\n')
    expect(audioFinding('linux', cards)).toMatchObject({ ok: true, found: 'HDA-Intel - HDA Intel PCH, USB-Audio - Desk Two' })
    writeFileSync(cards, '--- no soundcards ---\n')
    expect(audioFinding('linux', cards)).toMatchObject({ ok: false, next: expect.stringContaining('Connect an audio interface') })
    rmSync(cards)
  })

  it('writes one line for each, and what to do below it', async () => {
    const findings = await examine({ data: folder, port: 1, platform: 'darwin' })
    expect(findings.map(({ what }) => what)).toEqual(['Node', 'Data folder', 'Free space', 'Port', 'Browser', 'Audio'])
    expect(findingsText([{ what: 'Port', ok: false, found: '4310 is in use', next: 'Stop it.' }, { what: 'Audio', ok: true, found: 'Desk' }]))
      .toBe('look  Port   4310 is in use\n             Stop it.\nok    Audio  Desk')
  })
})
