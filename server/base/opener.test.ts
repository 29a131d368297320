import { execFileSync } from 'node:child_process'
import { mkdirSync, realpathSync, symlinkSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { freshFolder } from '../../tests/helpers/folder'
import { openUserFile, readUserFile, readUserFileSync, streamUserFile } from './opener'

describe('the opener of users\' files', () => {
  const root = realpathSync(freshFolder())
  const elsewhere = realpathSync(freshFolder())
  writeFileSync(join(root, 'kick.wav'), 'kick')
  writeFileSync(join(elsewhere, 'secret'), 'secret')
  mkdirSync(join(root, 'folder'))
  symlinkSync(join(root, 'kick.wav'), join(root, 'inner link'))
  symlinkSync(join(elsewhere, 'secret'), join(root, 'outer link'))
  symlinkSync(elsewhere, join(root, 'outer folder'))
  execFileSync('mkfifo', [join(root, 'pipe.wav')])

  /** Each way in which a file is opened, with what it gives of it. */
  const ways: Readonly<Record<string, (path: string) => Promise<string>>> = {
    whole: async path => (await readUserFile(path, [root], 1000)).toString(),
    sync: path => new Promise(done => done(readUserFileSync(path, [root], 1000).toString())),
    stream: async (path) => {
      let text = ''
      for await (const chunk of (await streamUserFile(path, [root])).stream) text += String(chunk)
      return text
    },
  }

  for (const [way, read] of Object.entries(ways)) {
    it(`reads files and links to files below its roots (${way})`, async () => {
      expect(await read(join(root, 'kick.wav'))).toBe('kick')
      expect(await read(join(root, 'inner link'))).toBe('kick')
    })

    it(`follows no link out of them (${way})`, async () => {
      await expect(read(join(root, 'outer link'))).rejects.toMatchObject({ code: 'outside' })
      await expect(read(join(root, 'outer folder/secret'))).rejects.toMatchObject({ code: 'outside' })
    })

    it(`refuses pipes, folders and devices at once (${way})`, async () => {
      await expect(read(join(root, 'pipe.wav'))).rejects.toThrow('no regular file')
      await expect(read(join(root, 'folder'))).rejects.toThrow('is a folder')
    })
  }

  it('refuses sockets, and says what is not there', async () => {
    const server = createServer().listen(join(root, 'socket'))
    await new Promise(done => server.once('listening', done))
    await expect(openUserFile(join(root, 'socket'), [root])).rejects.toThrow('no regular file')
    server.close()
    await expect(openUserFile(join(root, 'nothing'), [root])).rejects.toMatchObject({ code: 'not-found' })
  })

  it('reads no more than it was allowed', async () => {
    await expect(readUserFile(join(root, 'kick.wav'), [root], 3)).rejects.toMatchObject({ code: 'limit' })
    expect(() => readUserFileSync(join(root, 'kick.wav'), [root], 3)).toThrow('up to')
  })
})
