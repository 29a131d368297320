import { access } from 'node:fs/promises'
import { join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { EmporionError, messageOf, type ErrorCode } from '../core/errors'
import { ARRANGING } from '../core/fit/arrange'
import { METERS, roomOf } from '../core/fit/usage'
import { changesOf, meterWords, METER_NAMES } from '../core/fit/words'
import { NUMBERINGS, type Numbering } from '../core/formats/samples/numbering'
import { padLabel } from '../core/kit/padLabel'
import { NO_WISHES, planKit, refuseShortfalls, writeFit, type FitAsked } from '../server/fit/exportFit'
import { readForeign } from '../server/fit/foreign'
import type { LoadedKit, Steering } from '../server/fit/loadedKit'
import { findTarget } from '../server/fit/targets'
import { readVault } from '../server/vault/read'

const USAGE = `usage: ./emporion convert KIT --to TARGET --out DIR [--preset NAME] [--arrange ${ARRANGING.join('|')}]
       [--numbering "${NUMBERINGS.join('|')}"] [--without-missing] [--data DIR] [--json] [--dry-run]

KIT is the name of a preset in the vault, or a kit package, an SFZ, SoundFont or DLS file, an archive, or a folder.`

/** Exit states by what went wrong, for scripts; 2 is for what was not understood. */
const EXIT: Partial<Record<ErrorCode, number>> = { 'not-found': 3, 'unreadable': 4, 'unsupported': 4, 'limit': 5, 'disk-full': 6, 'invalid': 2 }

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    'to': { type: 'string' }, 'out': { type: 'string' }, 'preset': { type: 'string' }, 'arrange': { type: 'string' }, 'numbering': { type: 'string' },
    'data': { type: 'string' }, 'json': { type: 'boolean', default: false }, 'dry-run': { type: 'boolean', default: false }, 'without-missing': { type: 'boolean', default: false },
  },
})
const [named] = positionals
const { to, out } = values
if (named === undefined || to === undefined || (out === undefined && !values['dry-run'])) {
  console.error(USAGE)
  process.exit(2)
}
const dataDir = resolve(values.data ?? join(process.env.EMPORION_ROOT ?? '.', '.data', 'own'))
const steering: Steering = { signal: new AbortController().signal, onStep: () => undefined }

try {
  await convert(named, to)
}
catch (thrown) {
  const code = thrown instanceof EmporionError ? thrown.code : 'broken'
  if (values.json) console.log(JSON.stringify({ error: code, message: messageOf(thrown) }))
  console.error(messageOf(thrown))
  process.exitCode = EXIT[code] ?? 1
}

async function convert(kit: string, target: string): Promise<void> {
  const asked: FitAsked = {
    target: await findTarget(dataDir, target), wishes: NO_WISHES, cacheDir: null, withoutMissing: values['without-missing'],
    ...(values.arrange === undefined ? {} : { way: oneOf(values.arrange, ARRANGING, '--arrange') }),
  }
  const loaded = await load(kit, asked.target.middleC)
  if (!values.json) for (const remark of loaded.remarks) console.error(remark)
  try {
    if (!values['dry-run']) {
      const fitted = await writeFit(loaded, asked, resolve(out!), steering)
      console.log(values.json ? JSON.stringify({ ...fitted, remarks: loaded.remarks }) : `${fitted.kit} for ${asked.target.name}: ${fitted.kept} samples written, ${fitted.dropped} dropped, ${fitted.leftOut} left out. ${fitted.folder}`)
      return
    }
    const { plan, loaded: whole, missing } = await planKit(loaded, asked, steering)
    const changes = plan.rows.flatMap(row => changesOf(whole.kit, row).map(change => ({ pad: padLabel(row.padIndex), sound: whole.kit.pads[row.padIndex]!.layers[row.unit.layers[0]!]!.sound.name, ...change })))
    if (values.json) console.log(JSON.stringify({ kit: whole.kit.name, target: asked.target.id, before: plan.before, after: plan.after, cost: plan.cost, shortfalls: plan.shortfalls, told: plan.told, changes, missing, remarks: loaded.remarks }))
    else {
      const room = roomOf(asked.target)
      for (const meter of METERS) console.log(`${METER_NAMES[meter].padEnd(14)} ${meterWords(meter, plan.before[meter], asked.target).padStart(12)} -> ${meterWords(meter, plan.after[meter], asked.target).padStart(12)}   of ${room[meter] === null ? 'no limit' : meterWords(meter, room[meter], asked.target)}`)
      for (const { pad, sound, words } of changes) console.log(`${pad} ${sound}: ${words}`)
      for (const { what } of plan.told) console.log(what)
    }
    refuseShortfalls(whole.kit.name, plan, asked.target)
  }
  finally {
    await loaded.close()
  }
}

/** A path where there is one, or else a preset of the vault. */
async function load(kit: string, middleC: 'C3' | 'C4'): Promise<LoadedKit> {
  const path = resolve(kit)
  const asked = { middleC, ...(values.preset === undefined ? {} : { preset: values.preset }), ...(values.numbering === undefined ? {} : { numbering: oneOf(values.numbering, NUMBERINGS, '--numbering') }) } satisfies { preset?: string, numbering?: Numbering, middleC: 'C3' | 'C4' }
  const isThere = await access(path).then(() => true, () => false)
  if (isThere) return readForeign(path, asked, steering)
  const vaultDir = join(dataDir, 'vault')
  const { presets } = await readVault(vaultDir).catch(() => ({ presets: [] }))
  const found = presets.find(preset => preset.name.toLowerCase() === kit.trim().toLowerCase())
  if (!found) throw new EmporionError('not-found', { what: `"${kit}" is neither a file nor a folder, nor a preset in ${vaultDir}.`, next: presets.length > 0 ? `There are ${presets.map(preset => preset.name).join(', ')}.` : 'Give --data DIR where the vault lies elsewhere.' })
  return readForeign(join(vaultDir, found.folder), asked, steering)
}

function oneOf<T extends string>(value: string, known: readonly T[], option: string): T {
  const found = known.find(candidate => candidate === value)
  if (found === undefined) throw new EmporionError('invalid', `${option} is one of ${known.join(', ')}, not "${value}".`)
  return found
}

