// For those who work on Emporion: page and server reload when they are changed, workers are bundled anew, and there are demo sounds.
import { spawn } from 'node:child_process'
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { homedir } from 'node:os'
import { join, resolve } from 'node:path'
import { context } from 'esbuild'
import { bundles } from './bundles.mjs'

const PORT = '4310'
const data = resolve('.data', 'dev')

if (!existsSync(data)) {
  mkdirSync(data, { recursive: true })
  writeFileSync(join(data, 'only-demo'), '')
}
const watched = await context(bundles())
await watched.rebuild()
await watched.watch()

const child = spawn('npx', ['nuxt', 'dev', '--host', '127.0.0.1', '--port', PORT], {
  stdio: 'inherit',
  shell: process.platform === 'win32',
  env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1', NITRO_HOST: '127.0.0.1', NITRO_PORT: PORT, EMPORION_ROOT: resolve('.'), EMPORION_DATA: data, EMPORION_ROOTS: homedir(), EMPORION_DEMO: join(data, 'demo-sounds') },
})
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal))
child.on('exit', async (status) => {
  await watched.dispose()
  process.exit(status ?? 0)
})
