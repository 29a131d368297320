import { mkdtemp, readFile, rm, stat } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { messageOf } from '../core/errors'
import { unzipInto } from '../server/library/unzip'
import { bagIn, bagProblemsOf } from '../server/vault/checkBag'
import { readKitFile } from '../core/formats/package/kitFile'

const { values, positionals } = parseArgs({ allowPositionals: true, options: { json: { type: 'boolean', default: false } } })
if (positionals.length !== 1) {
  console.error('usage: ./emporion verify PACKAGE [--json]\n\nPACKAGE is a kit package (.zip), or the folder of a preset\'s revision.')
  process.exit(2)
}
const path = resolve(positionals[0]!)
const work = await mkdtemp(join(tmpdir(), 'emporion-verify-'))

try {
  const isFolder = (await stat(path)).isDirectory()
  if (!isFolder) await unzipInto(path, work, { signal: new AbortController().signal, onEntry: () => undefined })
  const bag = await bagIn(isFolder ? path : work)
  const problems = await bagProblemsOf(bag)
  const { kit, samples } = readKitFile(await readFile(join(bag, 'data', 'kit.json'), 'utf8'))
  const pads = kit.pads.filter(pad => pad.layers.length > 0).length
  if (values.json) console.log(JSON.stringify({ path, kit: kit.name, pads, samples: Object.keys(samples).length, problems }))
  else console.log(problems.length > 0 ? problems.join('\n') : `${kit.name}: ${pads} pads, ${Object.keys(samples).length} samples, all as they were stored.`)
  process.exitCode = problems.length > 0 ? 1 : 0
}
catch (thrown) {
  if (values.json) console.log(JSON.stringify({ path, problems: [messageOf(thrown)] }))
  console.error(messageOf(thrown))
  process.exitCode = 1
}
finally {
  await rm(work, { recursive: true, force: true })
}
