import { readdirSync } from 'node:fs'

/** What runs outside Nuxt, as esbuild makes it: the server's worker threads, the commands, the demo's maker, and the benches. */
export function bundles() {
  const workers = readdirSync('server/workers').map(name => `server/workers/${name}`)
  return {
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
  }
}
