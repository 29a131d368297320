import { randomUUID } from 'node:crypto'
import { access, mkdir, rmdir, stat } from 'node:fs/promises'
import { dirname, join, resolve } from 'node:path'
import { EmporionError } from '../core/errors'
import { ARRANGING } from '../core/fit/arrange'
import { METERS, roomOf } from '../core/fit/usage'
import { changesOf, meterWords, METER_NAMES } from '../core/fit/words'
import { NUMBERINGS, type Numbering } from '../core/formats/samples/numbering'
import { padLabel } from '../core/kit/padLabel'
import { counted } from '../core/wording'
import { anywhere } from '../server/base/opener'
import { NO_WISHES, planKit, refuseShortfalls, writeFit, type FitAsked } from '../server/fit/exportFit'
import { readForeign } from '../server/fit/foreign'
import type { LoadedKit, Steering } from '../server/fit/loadedKit'
import { findTarget } from '../server/fit/targets'
import { readVault } from '../server/vault/read'
import { command, dataDirOf } from './command'

const USAGE = `usage: ./emporion convert KIT --to TARGET --out DIR [--preset NAME] [--arrange ${ARRANGING.join('|')}]
       [--numbering "${NUMBERINGS.join('|')}"] [--without-missing] [--strict] [--data DIR] [--json] [--dry-run]

KIT is the name of a preset in the vault, or a kit package, an SFZ, SoundFont or DLS file, an archive, or a folder.
--preset chooses one of a bank, a collection or several SFZ files, by its name, bank:program, path, or number from 1.
--strict exits with 1 if a sample was dropped, left out or missing, or if part of the kit could not be read. Everything else is still written.
Ends with 0, or 1 where something went wrong on the way, 2 where the arguments were not understood, 3 where something
is not there, 4 where it can't be read, 5 where it can't fit, 6 where the disk is full.`

const steering: Steering = { signal: new AbortController().signal, onStep: () => undefined }

const OPTIONS = {
  'to': { type: 'string' }, 'out': { type: 'string' }, 'preset': { type: 'string' }, 'arrange': { type: 'string' }, 'numbering': { type: 'string' }, 'data': { type: 'string' },
  'json': { type: 'boolean', default: false }, 'dry-run': { type: 'boolean', default: false }, 'without-missing': { type: 'boolean', default: false }, 'strict': { type: 'boolean', default: false },
} as const

interface Values {
  readonly 'to'?: string | undefined
  readonly 'out'?: string | undefined
  readonly 'preset'?: string | undefined
  readonly 'arrange'?: string | undefined
  readonly 'numbering'?: string | undefined
  readonly 'data'?: string | undefined
  readonly 'json': boolean
  readonly 'dry-run': boolean
  readonly 'without-missing': boolean
  readonly 'strict': boolean
}

await command(USAGE, OPTIONS,
  ({ positionals, values }) => {
    if (positionals.length !== 1) return positionals.length === 0 ? 'convert needs a kit.' : 'convert takes one kit at a time.'
    if (values.to === undefined) return 'convert needs --to TARGET.'
    return values.out === undefined && !values['dry-run'] ? 'convert needs --out DIR, or --dry-run.' : undefined
  },
  ({ positionals, values }) => convert(positionals[0]!, values.to!, values))

async function convert(kit: string, target: string, values: Values): Promise<number> {
  const dataDir = dataDirOf(values.data)
  if (!values['dry-run']) await needFolder(resolve(values.out!))
  const asked: FitAsked = {
    target: await findTarget(dataDir, target), wishes: NO_WISHES, cacheDir: null, dataDir: null, withoutMissing: values['without-missing'],
    ...(values.arrange === undefined ? {} : { way: oneOf(values.arrange, ARRANGING, '--arrange') }),
  }
  const loaded = await load(kit, asked.target.middleC, dataDir, values)
  if (!values.json) for (const remark of loaded.remarks) console.error(remark)
  try {
    if (!values['dry-run']) {
      const fitted = await writeFit(loaded, asked, resolve(values.out!), steering)
      if (values.json) console.log(JSON.stringify({ ...fitted, remarks: loaded.remarks }))
      else {
        console.log(`${fitted.kit} for ${asked.target.name}: ${counted(fitted.kept, 'sample')} written, ${fitted.dropped} dropped, ${fitted.leftOut} left out. ${fitted.folder}`)
        for (const { pad, sound, state } of fitted.lost) console.log(`${pad} ${sound}: ${state}`)
        for (const name of fitted.missing) console.log(`${name}: missing`)
        console.log(`Result: ${fitted.outcome}.`)
      }
      return values.strict && fitted.lost.length + fitted.missing.length + loaded.lost > 0 ? 1 : 0
    }
    const { plan, loaded: whole, missing } = await planKit(loaded, asked, steering)
    const changes = plan.rows.flatMap(row => changesOf(whole.kit, row).map(change => ({ pad: padLabel(row.padIndex), sound: whole.kit.pads[row.padIndex]!.layers[row.unit.layers[0]!]!.sound.name, ...change })))
    if (values.json) console.log(JSON.stringify({ kit: whole.kit.name, target: asked.target.id, before: plan.before, after: plan.after, cost: plan.cost, shortfalls: plan.shortfalls, warnings: plan.warnings, changes, missing, remarks: loaded.remarks }))
    else {
      const room = roomOf(asked.target)
      for (const meter of METERS) console.log(`${METER_NAMES[meter].padEnd(14)} ${meterWords(meter, plan.before[meter], asked.target).padStart(12)} -> ${meterWords(meter, plan.after[meter], asked.target).padStart(12)}   of ${room[meter] === null ? 'no limit' : meterWords(meter, room[meter], asked.target)}`)
      for (const { pad, sound, words } of changes) console.log(`${pad} ${sound}: ${words}`)
      for (const { what } of plan.warnings) console.log(what)
    }
    refuseShortfalls(whole.kit.name, plan, asked.target)
    return values.strict && (loaded.lost > 0 || plan.rows.some(row => row.state !== 'kept')) ? 1 : 0
  }
  finally {
    await loaded.close()
  }
}

/** A path where there is one, or else a preset of the vault. */
async function load(kit: string, middleC: 'C3' | 'C4', dataDir: string, values: Values): Promise<LoadedKit> {
  const path = resolve(kit)
  const asked = { middleC, ...(values.preset === undefined ? {} : { preset: values.preset }), ...(values.numbering === undefined ? {} : { numbering: oneOf(values.numbering, NUMBERINGS, '--numbering') }) } satisfies { preset?: string, numbering?: Numbering, middleC: 'C3' | 'C4' }
  const isThere = await access(path).then(() => true, () => false)
  if (isThere) return readForeign(path, anywhere(path), asked, steering)
  const vaultDir = join(dataDir, 'vault')
  const { presets } = await readVault(vaultDir).catch(() => ({ presets: [] }))
  const found = presets.find(preset => preset.name.toLowerCase() === kit.trim().toLowerCase())
  if (!found) throw new EmporionError('not-found', { what: `"${kit}" is neither a file nor a folder, nor a preset in ${vaultDir}.`, next: presets.length > 0 ? `There are ${presets.map(preset => preset.name).join(', ')}.` : 'Give --data DIR where the vault lies elsewhere.' })
  return readForeign(join(vaultDir, found.folder), anywhere(vaultDir), asked, steering)
}

/** Whether files can be written there is found out at once and not when all is measured. @throws EmporionError `invalid` */
async function needFolder(out: string): Promise<void> {
  const refuse = (why: string) => new EmporionError('invalid', { what: `--out ${out} ${why}.`, kept: 'Nothing was written.', next: 'Choose another folder.' })
  if ((await stat(out).catch(() => undefined))?.isFile()) throw refuse('is a file, not a folder')
  const made: string[] = []
  try {
    // Level by level: where no folder can be made, as below /proc, Node's own way of making all never ends.
    for (const folder of [...await missingOf(out), join(out, `.probe-${randomUUID()}`)]) {
      await mkdir(folder)
      made.unshift(folder)
    }
  }
  catch {
    throw refuse('can\'t be written to')
  }
  finally {
    for (const folder of made) await rmdir(folder)
  }
}

/** The folders on the way to one that are not there yet, the outermost first. */
async function missingOf(folder: string): Promise<string[]> {
  if (await stat(folder).catch(() => undefined)) return []
  const above = dirname(folder)
  return above === folder ? [] : [...await missingOf(above), folder]
}

function oneOf<T extends string>(value: string, known: readonly T[], option: string): T {
  const found = known.find(candidate => candidate === value)
  if (found === undefined) throw new EmporionError('invalid', `${option} is one of ${known.join(', ')}, not "${value}".`)
  return found
}

