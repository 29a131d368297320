import { resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { allPacks } from './packs/packs'
import { DEMO_SEED, writeDemo } from './write'
import { counted } from '../core/wording'

const { values } = parseArgs({ options: { out: { type: 'string' } } })
if (!values.out) {
  console.error('usage: demo --out FOLDER')
  process.exit(2)
}
await writeDemo(resolve(values.out), () => undefined)
console.log(`Made ${counted(allPacks(DEMO_SEED).length, 'demo file')}.`)
