import { spawn, spawnSync } from 'node:child_process'
import { once } from 'node:events'
import { existsSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { expect, it } from 'vitest'
import { freshFolder, put } from '../helpers/folder'
import { freePort, giveDatabase } from '../helpers/server'

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
  ['demo', { 'only-demo': '', 'vault/Mine/kit.json': '{}', 'in-use': String(process.pid) }, '', `Another Emporion (process ${process.pid}) is using`],
  ['demo', { 'only-demo': '', 'vault/Mine/kit.json': '{}' }, 'postgres://127.0.0.1/emporion', 'DATABASE_URL is set'],
])('a reset deletes nothing but a demo that nobody uses: %s with %o and the database "%s"', async (mode, files, databaseUrl, says) => {
  const data = freshFolder()
  for (const [path, text] of Object.entries(files)) put(data, path, text)
  const { status, stderr } = spawnSync('./emporion', [mode, '--reset', '--data', data], { encoding: 'utf8', env: { ...process.env, DATABASE_URL: databaseUrl } })
  expect(status).toBe(1)
  expect(stderr).toContain(says)
  for (const path of Object.keys(files)) expect(existsSync(join(data, path))).toBe(true)
})
