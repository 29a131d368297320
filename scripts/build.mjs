// Builds what runs outside Nuxt, and then the page and the server.
import { execFileSync } from 'node:child_process'
import { rmSync } from 'node:fs'
import { build } from 'esbuild'
import { bundles } from './bundles.mjs'

const only = process.argv[2]

rmSync('dist', { recursive: true, force: true })
await build(bundles())
if (only !== '--tools') execFileSync('npx', ['nuxt', 'build'], { stdio: 'inherit', shell: process.platform === 'win32', env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1', CONSOLA_LEVEL: '2' } })
