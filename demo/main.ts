import { rename, rm, writeFile } from 'node:fs/promises'
import { availableParallelism } from 'node:os'
import { join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { Piscina } from 'piscina'
import { allKits } from './kits'
import type { MakeTask } from './make.worker'
import { allPacks } from './packs/packs'

const { values } = parseArgs({ options: { out: { type: 'string' }, seed: { type: 'string', default: '9' } } })
if (!values.out) {
  console.error('usage: demo --out FOLDER [--seed N]')
  process.exit(2)
}

// Written beside its place and moved there whole, so that an interrupted run is done again from the start.
const target = resolve(values.out)
const part = `${target}.part`
const seed = Number(values.seed)
const shares = availableParallelism()
const pool = new Piscina<MakeTask, number>({ filename: new URL('./demo.worker.mjs', import.meta.url).href, maxThreads: shares })
await rm(part, { recursive: true, force: true })
const written = await Promise.all(Array.from({ length: shares }, (_, first) => pool.run({ folder: part, seed, first, step: shares })))
await pool.destroy()
for (const { path, text } of allKits(seed)) await writeFile(join(part, path), text)
await rm(target, { recursive: true, force: true })
await rename(part, target)
const bytes = written.reduce((sum, share) => sum + share, 0)
console.log(`Made ${allPacks(seed).length} demo files, ${(bytes / 1e6).toFixed(1)} MB.`)
