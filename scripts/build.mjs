// Builds what runs outside Nuxt: the server's worker threads, the demo's maker, and the benches.
import { execFileSync } from 'node:child_process'
import { readdirSync, rmSync } from 'node:fs'
import { build } from 'esbuild'

const only = process.argv[2]
const workers = readdirSync('server/workers').map(name => `server/workers/${name}`)

rmSync('dist', { recursive: true, force: true })
await build({
  entryPoints: Object.fromEntries([
    ...workers.map(path => [`workers/${path.slice('server/workers/'.length, -'.ts'.length)}`, path]),
    ['demo', 'demo/main.ts'],
    ...['analyse', 'convert', 'reset', 'targets', 'verify'].map(name => [name, `cli/${name}.ts`]),
    ['train', 'train/main.ts'],
    ['bench', 'bench/main.ts'],
  ]),
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  splitting: true,
  chunkNames: 'chunks/[name]-[hash]',
  sourcemap: true,
  logLevel: 'warning',
})
if (only !== '--tools') execFileSync('npx', ['nuxt', 'build'], { stdio: 'inherit', env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1', CONSOLA_LEVEL: '2' } })
