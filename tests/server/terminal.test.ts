import { spawn, spawnSync } from 'node:child_process'
import { once } from 'node:events'
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { expect, it } from 'vitest'
import { freshFolder, put } from '../helpers/folder'
import { freePort, giveDatabase } from '../helpers/server'
import { lockDataFolder } from '../../server/studio/lock'

it('a terminal that is closed does not end the server, nor set it spinning: it answers and ends when asked', async () => {
  const [data, port] = [freshFolder(), await freePort()]
  giveDatabase(data)
  const child = spawn('node', ['.output/server/index.mjs'], {
    env: { ...process.env, EMPORION_ROOT: resolve('.'), EMPORION_DATA: data, EMPORION_ROOTS: data, EMPORION_DEMO: '', NITRO_HOST: '127.0.0.1', NITRO_PORT: String(port) },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  child.stdout.destroy()
  child.stderr.destroy()
  const ask = () => fetch(`http://127.0.0.1:${port}/api/status`).then(response => response.ok, () => false)
  await expect.poll(ask, { timeout: 30_000, interval: 100 }).toBe(true)
  // What cannot be answered is printed, into a terminal that is not there.
  for (let i = 0; i < 20; i++) expect((await fetch(`http://127.0.0.1:${port}/api/kits/none`)).ok).toBe(false)
  expect(await ask()).toBe(true)
  const ended = once(child, 'exit')
  child.kill('SIGTERM')
  expect((await ended)[0]).toBe(0)
})

it.each([
  ['start', {}, '', '--reset is for the demo only'],
  ['demo', { 'vault/Mine/kit.json': '{}', 'db/1': '', 'demo-sounds/a.wav': '' }, '', 'was not made for the demo alone'],
  ['demo', { 'only-demo': '', 'vault/Mine/kit.json': '{}' }, 'postgres://127.0.0.1/emporion', 'DATABASE_URL is set'],
])('a reset deletes nothing but a demo that nobody uses: %s with %o and the database "%s"', async (mode, files, databaseUrl, says) => {
  const data = freshFolder()
  for (const [path, text] of Object.entries(files)) put(data, path, text)
  const { status, stderr } = spawnSync('./emporion', [mode, '--reset', '--data', data], { encoding: 'utf8', env: { ...process.env, DATABASE_URL: databaseUrl } })
  expect(status).toBe(1)
  expect(stderr).toContain(says)
  for (const path of Object.keys(files)) expect(existsSync(join(data, path))).toBe(true)
})

it('a reset deletes nothing that another Emporion is using, and all of a demo that nobody uses', async () => {
  const data = freshFolder()
  const kit = put(data, 'vault/Mine/kit.json', '{}')
  const reset = () => spawnSync('node', ['dist/reset.mjs', data], { encoding: 'utf8' })
  const unlock = await lockDataFolder(data)
  expect(reset()).toMatchObject({ status: 1, stderr: expect.stringMatching(`Another Emporion \\(process ${process.pid}\\) is using .* It was not deleted\\.`) as string })
  expect(existsSync(kit)).toBe(true)
  await unlock()
  expect(reset().status).toBe(0)
  expect(readdirSync(data)).toEqual(['in-use'])
})

it.each(['analyse', 'convert', 'targets', 'verify'])('the page of the command line says what %s says of itself (else: node scripts/pages.mjs)', (name) => {
  const { stdout, status } = spawnSync('node', [`dist/${name}.mjs`, '--help'], { encoding: 'utf8' })
  expect(status).toBe(0)
  expect(readFileSync('docs/commands.md', 'utf8')).toContain(stdout.trimEnd())
})
