import { mkdtemp, realpath, rm, stat } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { EmporionError } from '../core/errors'
import { anywhere } from '../server/base/opener'
import { findTarget } from '../server/fit/targets'
import { verifyWritten } from '../server/fit/verifyWritten'
import { unzipInto } from '../server/library/unzip'
import { bagWithin, readPackage } from '../server/vault/package'
import { command, dataDirOf } from './command'
import { counted } from '../core/wording'

const USAGE = `usage: ./emporion verify PACKAGE [--json]
       ./emporion verify FOLDER --to TARGET [--data DIR] [--json]

PACKAGE is a kit package (.zip), or the folder of a preset or of one of its revisions. Every file is checked against its
checksum, and every sample is decoded and compared with what the kit calls it.
FOLDER was written for a target: it is checked against that target's limits.
Ends with 0 where all is as it should be, 1 where something is wrong, 2 where the arguments were not understood,
3 where it is not there, 4 where it can't be read.`

const signal = new AbortController().signal

await command(USAGE, { to: { type: 'string' }, data: { type: 'string' }, json: { type: 'boolean', default: false } },
  ({ positionals, values }) => {
    if (positionals.length !== 1) return positionals.length === 0 ? 'verify needs a package or a folder.' : 'verify takes one package or folder at a time.'
    return values.data !== undefined && values.to === undefined ? '--data is where targets are looked for, so it needs --to.' : undefined
  },
  async ({ positionals, values }) => {
    const path = resolve(positionals[0]!)
    const found = await stat(path).catch(() => {
      throw new EmporionError('not-found', `${path} is not there.`)
    })
    const { problems, summary, facts } = values.to === undefined ? await verifyPackage(path, found.isDirectory()) : await verifyFolder(path, values.to, values.data)
    if (values.json) console.log(JSON.stringify({ path, ...facts, problems }))
    else console.log(problems.length > 0 ? problems.join('\n') : summary)
    return problems.length > 0 ? 1 : 0
  })

interface Verified {
  readonly problems: readonly string[]
  readonly summary: string
  readonly facts: Readonly<Record<string, unknown>>
}

async function verifyPackage(path: string, isFolder: boolean): Promise<Verified> {
  const work = await realpath(await mkdtemp(join(tmpdir(), 'emporion-verify-')))
  try {
    const damaged = isFolder ? [] : await unzipInto(path, work, { signal, onEntry: () => undefined })
    const bag = await bagWithin(isFolder ? path : work)
    const { file, problems } = await readPackage(bag, { roots: isFolder ? anywhere(path) : [work], signal })
    const all = [...damaged.map(({ path: entry, reason }) => `${entry}: ${reason}`), ...problems]
    if (!file) return { problems: all, summary: '', facts: {} }
    const facts = { kit: file.kit.name, pads: file.kit.pads.filter(pad => pad.layers.length > 0).length, samples: Object.keys(file.samples).length }
    return { problems: all, summary: `${facts.kit}: ${counted(facts.pads, 'pad')}, ${counted(facts.samples, 'sample')}, all as they were stored.`, facts }
  }
  finally {
    await rm(work, { recursive: true, force: true })
  }
}

async function verifyFolder(path: string, to: string, data: string | undefined): Promise<Verified> {
  const target = await findTarget(dataDirOf(data), to)
  const { problems, kit, pads, samples } = await verifyWritten(path, target, { signal, onStep: () => undefined })
  return { problems, summary: `${kit}: ${counted(pads, 'pad')}, ${counted(samples, 'sample')}, all within the limits of ${target.name}.`, facts: { kit, target: target.id, pads, samples } }
}
