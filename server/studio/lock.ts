import { randomUUID } from 'node:crypto'
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import { hostname } from 'node:os'
import { join } from 'node:path'
import { setTimeout as after } from 'node:timers/promises'
import { z } from 'zod'
import { EmporionError } from '../../core/errors'
import { startOfProcess } from './processIdentity'

/** In the data folder. */
export const LOCK_FOLDER = 'in-use'
const LOOK_AGAIN_MS = 20
/** Others that want the folder at the same moment make up their minds within milliseconds. */
const LONGEST_WAIT_MS = 10_000

const claimSchema = z.object({ pid: z.int().min(1), start: z.string(), host: z.string() })

/** Who wants a data folder (`.claim`), or has it (a mark `.held` beside that). */
interface Claim extends z.infer<typeof claimSchema> {
  readonly id: string
  readonly isHeld: boolean
}

/**
 * Takes a data folder for this process: two servers on one database would destroy it. Whoever wants it first writes down who they
 * are, whole and under a name of their own, and looks at the others after that: of two at the same moment at least one sees the
 * other, so that never both have it. What a process left that is gone counts for nothing, even where another process has its number
 * by now.
 *
 * @returns what gives the folder free again
 * @throws EmporionError `conflict` when another Emporion uses the folder
 */
export async function lockDataFolder(dataDir: string): Promise<() => Promise<void>> {
  const folder = join(dataDir, LOCK_FOLDER)
  await mkdir(dataDir, { recursive: true })
  await removeOldLock(folder, dataDir)
  await mkdir(folder, { recursive: true })
  const id = randomUUID()
  const release = () => withdraw(folder, id)
  const start = await startOfProcess(process.pid)
  const part = join(folder, `.${id}.part`)
  await writeFile(part, JSON.stringify({ pid: process.pid, start: start ?? '', host: hostname() } satisfies z.infer<typeof claimSchema>), { flush: true })
  await rename(part, join(folder, `${id}.claim`))
  try {
    await waitForOthers(folder, id, dataDir)
    await writeFile(join(folder, `${id}.held`), '')
  }
  catch (thrown) {
    await release()
    throw thrown
  }
  return release
}

/** Waits until nobody else wants the folder. @throws EmporionError `conflict` where somebody has it, or comes first */
async function waitForOthers(folder: string, id: string, dataDir: string): Promise<void> {
  for (const until = Date.now() + LONGEST_WAIT_MS; ;) {
    const others = await livingClaims(folder, id)
    if (others.length === 0) return
    const first = others.find(other => other.isHeld || other.id < id)
    if (first || Date.now() > until) throw inUse(first ?? others[0]!, dataDir)
    await after(LOOK_AGAIN_MS)
  }
}

function inUse({ pid, host }: Claim, dataDir: string): EmporionError {
  const isHere = host === hostname()
  return new EmporionError('conflict', {
    what: isHere ? `Another Emporion (process ${pid}) is using the data folder ${dataDir}.` : `An Emporion on the computer ${host} is using the data folder ${dataDir}.`,
    kept: 'Nothing was changed.',
    next: `Use that one, stop it, or start with another folder: --data DIR.${isHere ? '' : ` If it is not running any more, delete ${join(dataDir, LOCK_FOLDER)}.`}`,
  })
}

/** Who else wants or has the folder. What the dead left is taken away. */
async function livingClaims(folder: string, own: string): Promise<Claim[]> {
  const living: Claim[] = []
  for (const id of (await readdir(folder)).flatMap(name => /^([0-9a-f-]{36})\.claim$/.exec(name)?.[1] ?? [])) {
    if (id === own) continue
    const text = await readFile(join(folder, `${id}.claim`), 'utf8').catch(() => undefined)
    const claim = text === undefined ? undefined : claimOf(text)
    if (claim && await isAlive(claim)) living.push({ ...claim, id, isHeld: await stat(join(folder, `${id}.held`)).then(() => true, () => false) })
    else await withdraw(folder, id)
  }
  return living
}

async function withdraw(folder: string, id: string): Promise<void> {
  for (const ending of ['held', 'claim']) await rm(join(folder, `${id}.${ending}`), { force: true })
}

function claimOf(text: string): z.infer<typeof claimSchema> | undefined {
  try {
    return claimSchema.parse(JSON.parse(text))
  }
  catch {
    return undefined
  }
}

/** Of another computer nothing can be known. */
async function isAlive({ pid, start, host }: z.infer<typeof claimSchema>): Promise<boolean> {
  return host !== hostname() || await startOfProcess(pid) === start
}

/** Older versions wrote a file with a process id there. */
async function removeOldLock(path: string, dataDir: string): Promise<void> {
  if (!(await stat(path).catch(() => undefined))?.isFile()) return
  const pid = Number(await readFile(path, 'utf8'))
  const command = Number.isInteger(pid) && pid > 0 ? await readFile(`/proc/${pid}/cmdline`, 'utf8').catch(() => '') : ''
  if (command.includes('.output/server/index.mjs')) throw inUse({ id: '', isHeld: true, pid, start: '', host: hostname() }, dataDir)
  await rm(path, { force: true })
}
